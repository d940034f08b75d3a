// Imports may point inwards only: see docs/architecture.md. Run by `npm run check`.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';

/** What each folder may import besides itself and packages. Within core, `ORDER` holds too. */
const MAY = {
	core: [],
	store: ['core'],
	app: ['core', 'store', 'worker'],
	worker: ['core', 'store'],
	cli: ['core'],
	standins: ['core', 'store'],
	bench: ['core', 'cli']
};
/** Core folders from the inside out: each may import those of its own rank and below. */
const RANK = {
	refusal: 0,
	units: 0,
	geometry: 0,
	linalg: 0,
	materials: 1,
	plan: 2,
	holds: 3,
	heat: 3,
	mesh: 2,
	shell: 3,
	measure: 3,
	equilibrium: 4,
	response: 4,
	families: 4,
	compose: 5,
	staging: 5,
	learn: 5,
	fitup: 6,
	forecast: 6,
	estimate: 7,
	search: 7,
	formats: 7
};
/** Seen and allowed, each with its reason. */
const EXCEPTIONS = new Set([
	'core/plan -> core/mesh', // one rank
	'core/plan -> core/holds', // the check asks each kind
	'core/mesh -> core/holds', // places that each kind needs as nodes
	'core/plan -> core/forecast', // type of the schedule only (bench steps)
	'core/measure -> core/forecast', // points of a feature
	'core/learn -> core/forecast' // a lesson runs forecasts
]);

const files = (dir) => readdirSync(dir).flatMap((f) => (statSync(path.join(dir, f)).isDirectory() ? files(path.join(dir, f)) : [path.join(dir, f)]));
const faults = [];
for (const top of Object.keys(MAY))
	for (const file of files(top)) {
		if (!/\.(ts|svelte)$/.test(file) || /\.test\.ts$/.test(file)) continue;
		const text = readFileSync(file, 'utf8');
		for (const m of text.matchAll(/(import|export)\s+(type\s+)?[^;'"]*?from\s+'([^']+)'|import\('([^']+)'\)/g)) {
			const isType = Boolean(m[2]);
			let target = m[3] ?? m[4];
			if (target.startsWith('$core')) target = target.replace('$core', 'core');
			else if (target.startsWith('$store')) target = target.replace('$store', 'store');
			else if (target.startsWith('$lib')) target = target.replace('$lib', 'app/src/lib');
			else if (target.startsWith('.')) target = path.normalize(path.join(path.dirname(file), target));
			else {
				if (top === 'core' && /^(node:|svelte|three|pg|drizzle|@sveltejs)/.test(target)) faults.push(`${file}: core imports ${target}`);
				continue;
			}
			const to = target.split(path.sep)[0];
			if (to !== top && !MAY[top].includes(to) && to in MAY) faults.push(`${file}: ${top} must not import ${to}`);
			// pages and components run in the browser: the database stays on the server's side
			if (top === 'app' && to === 'store' && !isType && !/(\.server\.ts|\+server\.ts|server\/[^/]+\.ts)$/.test(file))
				faults.push(`${file}: only server modules import the store`);
			if (top === 'core' && to === 'core') {
				const [a, b] = [file.split(path.sep)[1], target.split(path.sep)[1]];
				if (!(a in RANK) || !(b in RANK)) faults.push(`${file}: core folder without a rank`);
				else if (RANK[b] > RANK[a] && !isType && !EXCEPTIONS.has(`core/${a} -> core/${b}`))
					faults.push(`${file}: core/${a} must not import core/${b}`);
			}
		}
	}
if (faults.length) {
	console.error(faults.join('\n'));
	process.exit(1);
}
console.log('layers in order');
