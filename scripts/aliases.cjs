// The short names of folders, for tools that read a bundler's configuration; svelte.config.js has the same for the app.
const path = require('node:path');
const root = path.join(__dirname, '..');
module.exports = {
	resolve: {
		alias: { $core: path.join(root, 'core'), $store: path.join(root, 'store'), $lib: path.join(root, 'app/src/lib') },
		extensions: ['.ts', '.svelte.ts', '.js', '.mjs', '.svelte']
	}
};
