import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
	preprocess: vitePreprocess(),
	compilerOptions: { runes: ({ filename }) => (filename.includes('node_modules') ? undefined : true) },
	kit: {
		// bin/test builds beside a running copy: it names another folder so as not to pull the files from under it
		adapter: adapter({ out: process.env.SARTA_BUILD_DIR || 'build' }),
		files: {
			lib: 'app/src/lib',
			routes: 'app/src/routes',
			appTemplate: 'app/src/app.html',
			errorTemplate: 'app/src/error.html',
			serviceWorker: 'app/src/service-worker',
			assets: 'app/static',
			hooks: { server: 'app/src/hooks.server', client: 'app/src/hooks.client' }
		},
		alias: { $core: 'core', $store: 'store' },
		csp: {
			mode: 'auto',
			directives: {
				'default-src': ['self'],
				'script-src': ['self'],
				'style-src': ['self', 'unsafe-inline'],
				'img-src': ['self', 'data:', 'blob:'],
				'font-src': ['self', 'data:'],
				'connect-src': ['self'],
				'worker-src': ['self', 'blob:'],
				'object-src': ['none'],
				'base-uri': ['self'],
				'form-action': ['self'],
				'frame-ancestors': ['none']
			}
		}
	}
};
