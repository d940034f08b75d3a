import { fileURLToPath } from 'node:url';

/** Vite's own transformer does not find `experimentalDecorators` through .svelte-kit/tsconfig.json; say it here. */
export const oxc = { decorator: { legacy: true, emitDecoratorMetadata: true } } as const;

const at = (folder: string) => fileURLToPath(new URL(folder, import.meta.url));

/** The same names SvelteKit gives these folders, for builds and tests it does not run. */
export const alias = { $core: at('./core'), $store: at('./store'), $lib: at('./app/src/lib') };
