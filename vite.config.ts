import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	test: {
		projects: [
			{
				extends: true,
				test: { name: 'unit', include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'] }
			},
			{
				extends: true,
				test: {
					name: 'browser',
					include: ['tests/**/*.test.ts'],
					globalSetup: ['tests/support/application.ts'],
					testTimeout: 60_000,
					hookTimeout: 120_000,
					fileParallelism: false
				}
			}
		]
	}
});
