import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

/** Tests of the whole application, one file after another. */
const whole = {
	// An evening on two devices takes half a minute on a quiet machine, and longer on a shared one.
	testTimeout: 300_000,
	hookTimeout: 120_000,
	fileParallelism: false
};

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	// Bundled, it would find another version of its schema library than its own.
	ssr: { external: ['better-auth'] },
	// Inlined assets would be data: addresses, which the Content-Security-Policy forbids.
	build: {
		assetsInlineLimit: 0,
		rolldownOptions: {
			treeshake: {
				// Its button imports its whole index; without this every page would load all of it.
				moduleSideEffects: [{ test: /node_modules\/flowbite-svelte\//, sideEffects: false }]
			}
		}
	},
	test: {
		projects: [
			{
				extends: true,
				test: {
					name: 'unit',
					include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
					// Thousands of simulated evenings and readings take their time on a busy machine.
					testTimeout: 60_000
				}
			},
			{ extends: true, test: { name: 'pages', include: ['tests/pages/*.test.ts'], ...whole } },
			{ extends: true, test: { name: 'server', include: ['tests/server/*.test.ts'], ...whole } },
			{
				extends: true,
				test: { name: 'cluster', include: ['tests/cluster/*.test.ts'], fileParallelism: false }
			}
		]
	}
});
