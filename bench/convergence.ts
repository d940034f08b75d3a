/**
 * Mesh convergence of every family: the features of its own piece by the quick forecast on triangles of 35, 20, 12 and 8 mm.
 * `npm run convergence` writes docs/studies/mesh.md (some minutes). Nothing is passed or failed here: the table says what it is.
 */
import 'reflect-metadata';
import { writeFileSync } from 'node:fs';
import { FAMILY_DEFAULTS, FAMILY_WORDS, MADE_FAMILIES } from '../core/families';
import { newPlan } from '../core/families/newPlan';
import { ForecastCache } from '../core/forecast/analysis';
import { forecast, type FeatureForecast } from '../core/forecast/forecast';
import { kernelFactory } from '../core/linalg/kernel/kernel';

const SIZES = [35, 20, 12, 8] as const;
/** The bound the issue of a mesh is judged by. */
const BOUND = 0.05;
/** A change below this share of the tolerance cannot be measured and does not count against the mesh. */
const NOTHING = 0.02;

const kernel = kernelFactory(WebAssembly);
const rows: string[] = [];
let [within, all] = [0, 0];
for (const kind of MADE_FAMILIES) {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind] });
	if (!made.plan) throw new Error(`${kind}: ${JSON.stringify(made.faults)}`);
	const answers = SIZES.map((meshSizeMm): { features?: FeatureForecast[]; words: string } => {
		try {
			const { features, size } = forecast({ ...made.plan, meshSizeMm }, { cache: new ForecastCache(kernel) }).result;
			return { features, words: `${size.nodes}` };
		} catch (e) {
			return { words: (e as Error).message };
		}
	});
	console.log(kind, answers.map((a) => a.words).join(' | '));
	made.plan.features.forEach((f) => {
		const values = answers.map((a) => a.features?.find((g) => g.id === f.id)?.predicted);
		const known = values.filter((v): v is number => v !== undefined);
		const floor = NOTHING * Math.abs(f.tolerance.upper);
		const changes = known.slice(1).map((v, k) => Math.abs(v - known[k]) / Math.max(Math.abs(v), 1e-12));
		const counts = known.slice(1).map((v, k) => Math.abs(v - known[k]) > floor);
		const last = changes[changes.length - 1];
		const isWithin = !(counts[counts.length - 1] && last > BOUND);
		all++;
		if (isWithin) within++;
		const how = isWithin ? (last <= BOUND ? 'within' : 'within 2 % of its limit') : '**not within**';
		const show = (v: number | undefined) => (v === undefined ? '-' : Number(v.toPrecision(3)).toString());
		rows.push(
			`| ${FAMILY_WORDS[kind]} | ${f.name} (${f.kind}) | ${values.map(show).join(' | ')} | ${changes.map((c) => `${(100 * c).toFixed(1)}`).join(', ')} | ${how} |`
		);
	});
}
writeFileSync(
	'docs/studies/mesh.md',
	`# Mesh convergence by family

Written by \`npm run convergence\`: each family's own piece, quick forecast, triangles of ${SIZES.join(', ')} mm everywhere. Change: each
size against the one before, per cent of the finer value. Judged by the last change: within ${100 * BOUND} %, or less than ${100 * NOTHING} % of the
feature's limit. A dash: more nodes than a forecast takes. ${within} of ${all} features are within.

Two things change with the mesh here: the elements, and where tacks and ends of runs fall among the pairs of nodes along a seam.

| family | feature | ${SIZES.map((s) => `${s} mm`).join(' | ')} | change, % | |
| --- | --- | ${SIZES.map(() => '---').join(' | ')} | --- | --- |
${rows.join('\n')}
`
);
