/**
 * `npm run coupons [id ...]`: thermo-plastic coupons by a general solver (CalculiX, Debian's `calculix-ccx`). Each takes from five
 * minutes to half an hour; results are kept in tests/verification/coupons.json, one beside the other, and compared there.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { COUPONS } from './cases';
import { deckOf, meshOf } from './coupon';
import { readPrinted, reduce } from './reduce';

const CCX = ['/usr/bin/ccx', '/usr/local/bin/ccx'].find(existsSync);
const OUT = 'tests/verification/coupons.json';

const asked = process.argv.slice(2).filter((a) => !a.startsWith('--'));
const isDeckOnly = process.argv.includes('--deck');
if (!CCX) {
	console.error('ccx is not installed: apt-get install calculix-ccx');
	process.exit(1);
}
for (const c of COUPONS.filter((x) => !asked.length || asked.includes(x.id))) {
	const folder = mkdtempSync(path.join(tmpdir(), 'coupon-'));
	const mesh = meshOf(c);
	writeFileSync(path.join(folder, 'coupon.inp'), deckOf(c, mesh));
	if (isDeckOnly) {
		console.log(folder);
		continue;
	}
	const start = Date.now();
	try {
		execFileSync(CCX, ['-i', 'coupon'], { cwd: folder, env: { ...process.env, OMP_NUM_THREADS: '1' }, stdio: 'pipe', maxBuffer: 1 << 30 });
		const result = reduce(c, mesh, readPrinted(readFileSync(path.join(folder, 'coupon.dat'), 'utf8')));
		// read again at the end: several may run side by side
		const kept = existsSync(OUT) ? (JSON.parse(readFileSync(OUT, 'utf8')) as Record<string, unknown>) : {};
		writeFileSync(
			OUT,
			JSON.stringify(
				Object.fromEntries(COUPONS.flatMap(({ id }) => (id === c.id ? [[id, result]] : id in kept ? [[id, kept[id]]] : []))),
				null,
				'\t'
			) + '\n'
		);
		console.log(c.id, `${Math.round((Date.now() - start) / 1000)} s`, JSON.stringify(result));
		rmSync(folder, { recursive: true });
	} catch (e) {
		console.log(c.id, 'failed', folder, e instanceof Error ? e.message.slice(0, 300) : e);
	}
}
