/**
 * The study of docs/studies/orders.md: six invented pieces, every school that applies and the search, by the final shape, the
 * best two by the full method. `npm run study` writes it anew (about half an hour); `npm run study -- --only NAME` runs one.
 */
import 'reflect-metadata';
import { readFileSync, writeFileSync, mkdirSync, existsSync } from 'node:fs';
import { FAMILY_DEFAULTS, type MadeFamily } from '../core/families';
import type { FamilyParameters } from '../core/families/family';
import { newPlan } from '../core/families/newPlan';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { orderPattern } from '../core/schools/orderPattern';
import type { OrderPattern } from '../core/schools/orders';
import { tackStart } from '../core/schools/tacks';
import { tackPattern } from '../core/schools/tackPattern';
import type { PlanDocument } from '../core/document/schema';
import type { TackPattern } from '../core/document/words';
import { DEFAULT_GOALS } from '../core/search/cost';
import { searchOrders } from '../core/search/tableSearch';
import type { SearchResult, TableRow } from '../core/search/table';

interface Piece {
	id: string;
	name: string;
	family: MadeFamily;
	change: FamilyParameters;
	tacks: TackPattern;
	order: OrderPattern;
	runLengthMm: number;
}

/** Invented; sizes chosen so that each shows another kind of piece in a few minutes. */
const PIECES: readonly Piece[] = [
	{
		id: 'tray',
		name: 'Sprouting tray, tacked at corners and middles',
		family: 'open-trough',
		change: { lengthMm: 320, widthMm: 200, depthMm: 90, rimFlangeMm: 15 },
		tacks: 'corners-and-middles',
		order: 'back-step',
		runLengthMm: 80
	},
	{
		id: 'tub',
		name: 'Dye tub of five plates, tacked close',
		family: 'open-trough',
		change: { lengthMm: 360, widthMm: 260, depthMm: 160, rimFlangeMm: 20, body: 'five-plates' },
		tacks: 'two-stage',
		order: 'skip-round',
		runLengthMm: 120
	},
	{
		id: 'box',
		name: 'Relay box with a flanged opening',
		family: 'enclosure',
		change: { widthMm: 260, heightMm: 320, depthMm: 110 },
		tacks: 'long-tacks',
		order: 'straight-through',
		runLengthMm: 90
	},
	{
		id: 'panel',
		name: 'Worktop of two sheets, butted',
		family: 'butt-panel',
		change: {},
		tacks: 'two-stage',
		order: 'straight-through',
		runLengthMm: 60
	},
	{ id: 'shell', name: 'Whey settling shell with an end', family: 'cylinder', change: {}, tacks: 'two-stage', order: 'back-step', runLengthMm: 60 },
	{ id: 'collar', name: 'Duct with a collar ring', family: 'collar', change: {}, tacks: 'corners-and-middles', order: 'quarters', runLengthMm: 60 }
];

function planOf(p: Piece): PlanDocument {
	const made = newPlan(p.family, { ...FAMILY_DEFAULTS[p.family], ...p.change });
	if (!made.plan) throw new Error(`${p.id}: ${made.faults.map((f) => `${f.field} ${f.allowed}`).join('; ')}`);
	const plan = made.plan;
	plan.runs = [];
	plan.tacks = tackPattern(plan, tackStart(p.tacks));
	plan.runs = orderPattern(plan, { pattern: p.order, runLengthMm: p.runLengthMm });
	return plan;
}

function table(p: Piece, r: SearchResult, seconds: number): string {
	const head = ['order', ...r.features.map((f) => `${f.name}, ${f.unit}`), 'min', 'flips', 'all'];
	const rows = r.rows.map((row) => [
		row.kind === 'search' ? `**${row.name}**` : row.name,
		...row.cells.map((c) => {
			const difference = row.kind === 'now' ? '' : ` (${c.difference.low.toFixed(2)} to ${c.difference.high.toFixed(2)})`;
			return `${c.value.toFixed(2)}${difference}${c.hot === undefined ? '' : `; hot ${c.hot.toFixed(2)}`}${c.full === undefined ? '' : `; full ${c.full.toFixed(2)}`}`;
		}),
		(row.totalS / 60).toFixed(0),
		String(row.flips),
		row.hotCost === undefined ? row.cost.toFixed(3) : `${row.hotCost.toFixed(3)} (plain ${row.cost.toFixed(3)})`
	]);
	return [
		`## ${p.name}`,
		'',
		`${r.rows.find((x) => x.kind === 'now')!.runs.length} runs, ${r.evaluated} orders weighed; the whole took ${seconds.toFixed(0)} s. ${r.matters}`,
		'',
		`| ${head.join(' | ')} |`,
		`| ${head.map(() => '---').join(' | ')} |`,
		...rows.map((x) => `| ${x.join(' | ')} |`),
		'',
		'Why, as the page says it:',
		'',
		...r.reasons.map((x) => `* ${x}`),
		...(r.levers.length ? ['', `Besides the order: ${r.levers.map((l) => `${l.label} (${l.gain.toFixed(2)})`).join('; ')}.`] : []),
		''
	].join('\n');
}

interface Kept {
	id: string;
	text: string;
	/** with each arc watched: weighted cost of the search, of the best and the worst school */
	search: number;
	bestSchool: number;
	bestSchoolName: string;
	worstSchool: number;
	/** search's largest gain of one feature over the best school against the forecast's band */
	matters: number;
	byFull?: 'kept' | 'turned';
	/** whether the watched arcs keep first what the final shape alone has there */
	byHot?: 'kept' | 'turned';
}

const FOLDER = 'docs/studies';
const KEPT = '.test/study.json';

function summary(kept: readonly Kept[]): string {
	const gain = (k: Kept) => 100 * (1 - k.search / k.bestSchool);
	const won = kept.filter((k) => gain(k) > 1);
	const turned = kept.filter((k) => k.byFull === 'turned');
	return [
		'| piece | search | best school | | gain over it | worst school | order moves a feature by, share of its band | best two by the full method | first with and without the arcs |',
		'| --- | --- | --- | --- | --- | --- | --- | --- | --- |',
		...kept.map(
			(k) =>
				`| ${k.id} | ${k.search.toFixed(3)} | ${k.bestSchool.toFixed(3)} | ${k.bestSchoolName} | ${gain(k).toFixed(0)} % | ${k.worstSchool.toFixed(3)} | ${(100 * k.matters).toFixed(0)} % | ${k.byFull === 'turned' ? '**the other way round**' : k.byFull === 'kept' ? 'the same order' : 'not run'} | ${k.byHot === 'turned' ? '**another**' : k.byHot === 'kept' ? 'the same' : 'not run'} |`
		),
		'',
		`The figures are what counts, together (features near their limits squared, a little for time, heat and flips), by the final shape with each arc watched: lower is better. The search beats the best school by more than a hundredth on ${won.length} of ${kept.length} pieces${
			won.length < kept.length
				? `, and does not on ${kept
						.filter((k) => !won.includes(k))
						.map((k) => k.id)
						.join(', ')}`
				: ''
		}.${
			turned.length
				? ` On ${turned.map((k) => k.id).join(', ')} the full method turns the best two round, so that gain is none: ${won.filter((k) => !turned.includes(k)).length} remain.`
				: ''
		}`,
		...(kept.length < PIECES.length
			? [
					'',
					`Not run yet: ${PIECES.filter((p) => !kept.some((k) => k.id === p.id))
						.map((p) => p.id)
						.join(', ')} (\`npm run study -- --only NAME\`).`
				]
			: [])
	].join('\n');
}

/** what the table goes by */
const standing = (r: TableRow) => r.hotCost ?? r.cost;

const at = process.argv.indexOf('--only');
const only = at < 0 ? undefined : process.argv[at + 1];
const isQuick = process.argv.includes('--no-full');
const kernel = kernelFactory(WebAssembly);
mkdirSync('.test', { recursive: true });
const kept: Kept[] = only && existsSync(KEPT) ? (JSON.parse(readFileSync(KEPT, 'utf8')) as Kept[]) : [];
for (const p of PIECES.filter((x) => !only || x.id === only)) {
	const began = performance.now();
	const r = searchOrders(planOf(p), DEFAULT_GOALS, { kernel, full: !isQuick, runLengthMm: p.runLengthMm, mostWatchedMm: Infinity });
	const seconds = (performance.now() - began) / 1000;
	const schools = r.rows.filter((x) => x.kind === 'school');
	const own = r.rows.find((x) => x.kind === 'search')!;
	const entry: Kept = {
		id: p.id,
		text: table(p, r, seconds),
		search: standing(own),
		bestSchool: standing(schools[0]),
		bestSchoolName: schools[0].name,
		worstSchool: standing(schools[schools.length - 1]),
		matters: r.orderMatters,
		byFull: r.byFull,
		byHot: r.byHot
	};
	const i = kept.findIndex((k) => k.id === p.id);
	if (i < 0) kept.push(entry);
	else kept[i] = entry;
	console.log(
		`${p.id}: search ${standing(own).toFixed(3)}, best school ${standing(schools[0]).toFixed(3)} (${schools[0].name}), ${seconds.toFixed(0)} s`
	);
	writeFileSync(KEPT, JSON.stringify(kept));
	const order = PIECES.map((x) => x.id);
	kept.sort((x, y) => order.indexOf(x.id) - order.indexOf(y.id));
	const intro = readFileSync(`${FOLDER}/orders-intro.md`, 'utf8').trimEnd();
	writeFileSync(`${FOLDER}/orders.md`, [intro, '', summary(kept), '', ...kept.map((k) => k.text)].join('\n'));
}
