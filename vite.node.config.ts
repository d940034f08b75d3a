// Second build: Node entries that the SvelteKit adapter does not know of (worker thread, command line, migration, demo data).
import { defineConfig } from 'vite';
import { alias, oxc } from './vite.shared.ts';

export default defineConfig({
	resolve: { alias },
	oxc,
	publicDir: false,
	build: {
		ssr: true,
		target: 'node20',
		// an empty name would be this folder itself, which is emptied first
		outDir: process.env.SARTA_NODE_BUILD_DIR || 'build-node',
		emptyOutDir: true,
		sourcemap: true,
		rolldownOptions: {
			input: {
				'compute-thread': 'app/src/lib/server/compute-thread.ts',
				'import-thread': 'app/src/lib/server/import-thread.ts',
				sarta: 'cli/sarta.ts',
				admin: 'admin/main.ts',
				'write-schema': 'cli/write-schema.ts',
				'write-examples': 'cli/write-examples.ts',
				study: 'bench/study.ts',
				proof: 'bench/proof.ts',
				proposals: 'bench/proposals.ts',
				convergence: 'bench/convergence.ts',
				coupons: 'bench/coupons/main.ts',
				'hot-study': 'bench/hotStudy.ts',
				'hot-pair': 'bench/hotPair.ts',
				'bar-table': 'bench/barTable.ts',
				migrate: 'store/migrate.ts',
				demo: 'standins/demo.ts',
				'demo-run': 'standins/demoRun.ts',
				device: 'standins/devices/main.ts',
				scanner: 'standins/scanner.ts',
				bench: 'bench/bench.ts',
				load: 'trials/load.ts',
				kills: 'trials/kills.ts',
				logbook: 'trials/logbook.ts',
				fuzz: 'trials/fuzz.ts',
				lan: 'lan/main.ts',
				worker: 'worker/main.ts',
				'task-thread': 'worker/task-thread.ts'
			},
			output: { entryFileNames: '[name].js', chunkFileNames: 'chunks/[name]-[hash].js' }
		}
	}
});
