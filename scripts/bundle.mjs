/** Bundles the commands behind `tevrik` into build/bin: they start in a fraction of the time the sources need. */
import { build } from 'esbuild';
import { existsSync } from 'node:fs';

const common = {
	bundle: true,
	platform: 'node',
	format: 'esm',
	target: 'node20',
	outdir: 'build/bin',
	entryNames: '[name]',
	outExtension: { '.js': '.mjs' },
	alias: { $core: './src/core', $lib: './src/lib' },
	logLevel: 'warning'
};
// Ajv is CommonJS and asks for its parts by require.
const banner = {
	js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);"
};

// The solver finds its WebAssembly beside itself.
await build({ ...common, entryPoints: ['scripts/calc.ts'], minify: true, banner, external: ['highs'] });
await build({
	...common,
	entryPoints: [
		'scripts/serve.ts',
		'scripts/run-cluster.ts',
		'src/lib/server/work/worker.ts',
		'src/lib/server/work/picture-process.ts',
		'scripts/backup.ts',
		...(existsSync('scripts/bench.ts') ? ['scripts/bench.ts'] : [])
	],
	packages: 'external',
	external: ['../app/handler.js']
});
