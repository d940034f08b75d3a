// Writes docs/licences.md: what ships, and under which licence. `--check` fails where the file is not what the packages say.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const OUT = 'docs/licences.md';
const own = JSON.parse(readFileSync('package.json', 'utf8'));
/** built into the pages, though npm calls them tools */
const IN_PAGES = ['svelte', '@sveltejs/kit', 'three', 'chart.js', 'comlink', 'flowbite', 'flowbite-svelte', 'flowbite-svelte-icons', 'tailwindcss'];
/** asked for by a package above and in no page: none of ours imports what needs it */
const LEFT_OUT = ['apexcharts'];
const missing = IN_PAGES.filter((n) => !own.devDependencies[n]);
if (missing.length) throw new Error(`no longer used: ${missing.join(', ')}`);

const seen = new Map();
/** Node's own way: beside the package that asks, then outwards. */
function folderOf(name, from) {
	for (let at = from; ; at = path.dirname(at)) {
		const here = path.join(at, 'node_modules', name);
		if (existsSync(path.join(here, 'package.json'))) return here;
		if (at === '.' || at === path.dirname(at)) return undefined;
	}
}
/** Where the package names none, its licence file does. */
function byFile(folder) {
	const file = ['LICENSE', 'LICENSE.md', 'LICENCE', 'license'].map((f) => path.join(folder, f)).find((f) => existsSync(f));
	return file && /Permission is hereby granted, free of charge/.test(readFileSync(file, 'utf8')) ? 'MIT' : undefined;
}
function walk(name, from, isTool) {
	const folder = folderOf(name, from);
	// optional ones for other platforms are not installed here; they carry the licence of the package that asks for them
	if (!folder) return;
	if (LEFT_OUT.includes(name)) return;
	const p = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
	const key = `${p.name}@${p.version}`;
	if (seen.has(key)) return;
	const named = typeof p.license === 'string' ? p.license : (p.license?.type ?? p.licenses?.map((l) => l.type).join(' OR '));
	const licence = named ?? byFile(folder);
	if (!licence) throw new Error(`${key} names no licence`);
	seen.set(key, { name: p.name, version: p.version, licence });
	if (isTool) return;
	for (const d of Object.keys({ ...p.dependencies, ...p.optionalDependencies })) walk(d, folder, false);
}
for (const n of Object.keys(own.dependencies)) walk(n, '.', false);
// of what is built into pages only the package itself: its tools stay behind
for (const n of IN_PAGES) walk(n, '.', n === '@sveltejs/kit' || n === 'tailwindcss');

// binaries of one platform vary from machine to machine
const rows = [...seen.values()].filter((p) => !/-(linux|darwin|win32|freebsd|android|openharmony|wasm32)-/.test(p.name));
rows.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.version < b.version ? -1 : 1));
const count = new Map();
for (const r of rows) count.set(r.licence, (count.get(r.licence) ?? 0) + 1);
const text = `# Licences

Written by \`npm run licences\` from the packages themselves. ${rows.length} packages ship: ${[...count]
	.sort((a, b) => b[1] - a[1])
	.map(([l, n]) => `${l} (${n})`)
	.join(', ')}.

**LGPL.** STEP files are read by \`occt-import-js\`, a build of Open CASCADE Technology under the GNU Lesser General Public License 2.1. It is used as it comes, as a file of its own (\`node_modules/occt-import-js/dist\`) that is loaded when a STEP file is read and can be exchanged for another build of the same interface; its source is named in its package. Photographs are made small by \`sharp\`, whose prebuilt image library (libvips, a shared library of its own under \`node_modules/@img\`) is under the GNU Lesser General Public License 3.0 or later and can be exchanged for another build. **Fonts** (Barlow, IBM Plex Sans, JetBrains Mono) are under the SIL Open Font License 1.1. PostgreSQL and Chromium are Debian's packages and no part of this one; CalculiX is used by tests only.

| package | version | licence |
| --- | --- | --- |
${rows.map((r) => `| ${r.name} | ${r.version} | ${r.licence} |`).join('\n')}
`;
const { format, resolveConfig } = await import('prettier');
const whole = await format(text, { ...(await resolveConfig(OUT)), filepath: OUT });
if (process.argv.includes('--check')) {
	if (!existsSync(OUT) || readFileSync(OUT, 'utf8') !== whole) {
		console.error(`${OUT} is not what the packages say: npm run licences`);
		process.exit(1);
	}
} else writeFileSync(OUT, whole);
