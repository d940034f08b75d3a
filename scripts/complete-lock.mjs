// Adds to package-lock.json the optional packages of other platforms where the registry in use did not list them: without an entry
// `npm ci` calls the lock file out of step, even on a platform that would never fetch them. Run after `npm install` changed the lock.
import { readFileSync, writeFileSync } from 'node:fs';

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const OS = ['android', 'darwin', 'freebsd', 'linux', 'netbsd', 'openbsd', 'openharmony', 'sunos', 'win32', 'aix'];
const CPU = {
	arm64: 'arm64',
	x64: 'x64',
	ia32: 'ia32',
	arm: 'arm',
	armv7: 'arm',
	loong64: 'loong64',
	ppc64: 'ppc64',
	ppc64le: 'ppc64',
	riscv64: 'riscv64',
	s390x: 's390x',
	mips64el: 'mips64el',
	wasm32: 'wasm32'
};
let added = 0;
for (const [where, entry] of Object.entries({ ...lock.packages })) {
	for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
		const at = `node_modules/${name}`;
		if (lock.packages[at] || lock.packages[`${where}/${at}`]) continue;
		const words = name.split(/[-/]/);
		const os = OS.filter((o) => words.includes(o));
		const cpu = Object.entries(CPU).flatMap(([w, c]) => (words.includes(w) || words.some((x) => x.startsWith(w) && w === 'armv7') ? [c] : []));
		const plain = version.replace(/^[\^~]/, '');
		if (!/^\d+\.\d+\.\d+/.test(plain)) continue;
		lock.packages[at] = {
			version: plain,
			...(cpu.length ? { cpu: [...new Set(cpu)] } : {}),
			...(entry.dev ? { dev: true } : {}),
			optional: true,
			...(os.length ? { os } : {})
		};
		added++;
	}
}
const sorted = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
lock.packages = sorted;
writeFileSync('package-lock.json', `${JSON.stringify(lock, null, '\t')}\n`);
console.log(`${added} entries added`);
