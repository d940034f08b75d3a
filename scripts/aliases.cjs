// The short names of folders, for tools that read a bundler's configuration; svelte.config.js has the same for the app.
const root = `${__dirname}/..`;
module.exports = {
	resolve: {
		alias: { $core: `${root}/core`, $store: `${root}/store`, $lib: `${root}/app/src/lib` },
		extensions: ['.ts', '.svelte.ts', '.js', '.mjs', '.svelte']
	}
};
