import { sveltekit } from '@sveltejs/kit/vite';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';
import { alias, oxc } from './vite.shared.ts';

/** Tests that put something else in a module’s or the machine’s place: each in a world of its own. */
const ALONE = ['core/response/weldResponse.test.ts', 'core/search/table.test.ts', 'core/measure/convexHull.test.ts'];

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	oxc,
	worker: { format: 'es' },
	// a database in the project folder would reload the page at each write
	server: { watch: { ignored: ['**/.data/**', '**/.test/**', '**/build/**', '**/build-node/**', '**/test-results/**'] } },
	// found late (dynamic import, web worker): name them, or dev reloads the page when it meets them
	optimizeDeps: { include: ['three', 'three/addons/controls/OrbitControls.js', 'comlink', 'chart.js'] },
	test: {
		environment: 'node',
		// every core: the default leaves one idle, which on two is half the time
		maxWorkers: '100%',
		projects: [
			{
				oxc,
				resolve: { alias },
				test: {
					name: 'unit',
					include: ['app/**/!(*.svelte).test.ts', 'store/**/*.test.ts', 'standins/**/*.test.ts', 'lan/**/*.test.ts', ...ALONE],
					// deep panels and the general solver take their time on a busy machine
					testTimeout: 400_000
				}
			},
			{
				oxc,
				resolve: { alias },
				test: {
					name: 'core',
					include: ['core/**/*.test.ts', 'tests/verification/**/*.test.ts'],
					exclude: ALONE,
					provide: { isDeep: process.env.SARTA_DEEP === 'yes' },
					testTimeout: 400_000,
					// pure functions: read once in a worker and not anew for each file, which took a third of the time
					isolate: false
				}
			},
			{
				// what the pages keep between them: runes, so the component compiler, as in a browser but without one
				plugins: [svelte()],
				oxc,
				resolve: { alias, conditions: ['browser'] },
				test: { name: 'desk', include: ['app/**/*.svelte.test.ts'] }
			},
			{
				oxc,
				resolve: { alias },
				test: { name: 'integration', include: ['tests/contracts/**/*.test.ts'], testTimeout: 400_000, hookTimeout: 120_000, fileParallelism: false }
			}
		]
	}
});
