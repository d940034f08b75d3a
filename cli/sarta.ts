/** The command line: forecast and check job files without a browser or a database. Exit 0 done, 1 refused, 2 wrong use, 3 the computation failed. */
import 'reflect-metadata';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { VERDICT_WORDS } from '../core/features/verdict';
import { ForecastCache, scalesOf } from '../core/forecast/analysis';
import { finalForecast } from '../core/forecast/finalForecast';
import { forecast, type Depth } from '../core/forecast/forecast';
import { fullForecast } from '../core/forecast/fullForecast';
import { hotForecast } from '../core/hot/hotForecast';
import { writeCalculix } from '../core/formats/calculix';
import { writeGlb } from '../core/formats/glb';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { readJobFile, writeJobFile, type JobFile } from '../core/formats/jobFile';
import { JOB_FILE_LIMIT } from '../core/formats/limits';
import { pieceDeck } from '../core/formats/pieceDeck';
import { resultFile } from '../core/formats/resultFile';
import { writeStl } from '../core/formats/stl';
import { writeVtu } from '../core/formats/vtu';
import { priorFactors } from '../core/factors/factors';
import type { PlanDocument } from '../core/document/schema';
import { decided } from '../core/propose/decision';
import { FLAVOURS, FLAVOUR_WORDS, type Flavour } from '../core/propose/flavour';
import { propose } from '../core/propose/propose';
import { DEFAULT_GOALS } from '../core/search/cost';
import { adviseHolds, applyChange } from '../core/search/levers';
import { solvePresets } from '../core/search/presets';
import { searchOrders } from '../core/search/tableSearch';

const USE = `use: sarta forecast JOB.json [--depth quick|final-shape|hot|full] [--out RESULT.json] [--vtu FILE] [--glb FILE] [--stl FILE] [--deck FILE.inp]
     sarta search JOB.json [--out RESULT.json] [--restarts N] [--full yes]
     sarta presets JOB.json [--out RESULT.json] [--plan NEW-JOB.json]
     sarta holds JOB.json [--out RESULT.json] [--plan NEW-JOB.json]
     sarta propose JOB.json [--flavour quickest|between|truest] [--out RESULT.json] [--plan NEW-JOB.json]
     sarta check JOB.json
     sarta backup FILE, restore FILE, export FOLDER, admin unlock NAME: the shop's own database`;

const OPTIONS: Record<string, readonly string[]> = {
	forecast: ['--depth', '--out', '--vtu', '--glb', '--stl', '--deck'],
	search: ['--out', '--restarts', '--full'],
	presets: ['--out', '--plan'],
	holds: ['--out', '--plan'],
	propose: ['--flavour', '--out', '--plan'],
	check: []
};
const DEPTHS: readonly Depth[] = ['quick', 'final-shape', 'hot', 'full'];

class UseError extends Error {}

function search(plan: PlanDocument, options: Record<string, string>): number {
	const restarts = Number(options.restarts ?? DEFAULT_GOALS.restarts);
	if (!Number.isInteger(restarts) || restarts < 0 || restarts > 20) throw new UseError(`--restarts ${options.restarts}: a whole number from 0 to 20`);
	if (options.full !== undefined && options.full !== 'yes') throw new UseError(`--full ${options.full}: it is yes, or left out`);
	const r = searchOrders(plan, { ...DEFAULT_GOALS, restarts }, { kernel: kernelFactory(WebAssembly), full: options.full === 'yes' });
	for (const row of r.rows) {
		const cells = row.cells.map((c, k) => `${r.features[k].name} ${c.value.toFixed(2)} ${r.features[k].unit}`).join(', ');
		console.log(`${row.cost.toFixed(3)}  ${row.name}: ${(row.totalS / 60).toFixed(0)} min, ${row.flips} flips; ${cells}`);
	}
	console.log(r.matters);
	for (const reason of r.reasons) console.log(`- ${reason}`);
	if (options.out) writeFileSync(options.out, `${JSON.stringify(r, null, '\t')}\n`);
	return 0;
}

/** What would make the features come true: over-angles, or bars, clamps, stiffeners and heat; with the plan as it would then be. */
function advise(which: 'presets' | 'holds', { job, plan }: JobFile, options: Record<string, string>): number {
	const kernel = kernelFactory(WebAssembly);
	const advice = which === 'presets' ? solvePresets(plan, DEFAULT_GOALS, { kernel, final: true }) : adviseHolds(plan, DEFAULT_GOALS, { kernel });
	if ('joints' in advice) for (const j of advice.joints) console.log(`${j.name}: ${j.fromDeg.toFixed(2)}° to ${j.toDeg.toFixed(2)}°`);
	else for (const s of advice.steps) console.log(`${s.lever.label}: what counts falls by ${s.lever.gain.toFixed(3)} with it alone`);
	const quick = 'joints' in advice ? advice.after : (advice.steps[advice.steps.length - 1]?.values ?? advice.before);
	advice.features.forEach((f, k) => {
		const final = advice.final ? `; final shape ${advice.final.before[k].toFixed(3)} to ${advice.final.after[k].toFixed(3)}` : '';
		console.log(`  ${f.name.padEnd(34)} ${advice.before[k].toFixed(3)} to ${quick[k].toFixed(3)}${final}`);
	});
	console.log(advice.words);
	if (options.out) writeFileSync(options.out, `${JSON.stringify(advice, null, '\t')}\n`);
	if (options.plan) writeFileSync(options.plan, writeJobFile(job, applyChange(plan, advice.change)));
	return 0;
}

/** A whole plan: each decision with what it is worth, three sets of them, and the plan as it would then be. */
function proposePlan({ job, plan }: JobFile, options: Record<string, string>): number {
	const flavour = (options.flavour ?? 'between') as Flavour;
	if (!FLAVOURS.includes(flavour)) throw new UseError(`--flavour ${flavour}: it is one of ${FLAVOURS.join(', ')}`);
	const r = propose(plan, { goals: DEFAULT_GOALS, kernel: kernelFactory(WebAssembly) });
	for (const c of r.cards) {
		const most =
			c.gain.most &&
			`; ${c.gain.most.name} ${c.gain.most.without.toFixed(2)} to ${(c.gain.most.without + c.gain.most.difference.predicted).toFixed(2)} ${c.gain.most.unit}`;
		console.log(`- ${c.what} (${c.gain.minutes >= 0 ? '+' : ''}${c.gain.minutes.toFixed(1)} min${most ?? ''}). ${c.why}`);
	}
	const column = (name: string, c: typeof r.now) =>
		console.log(
			`${name}: ${c.minutes.toFixed(0)} min; ${r.features.map((f, k) => `${f.name} ${c.values[k].predicted.toFixed(2)} ${f.unit}`).join(', ')}`
		);
	column('As it stands', r.now);
	for (const f of FLAVOURS) column(FLAVOUR_WORDS[f], r.flavours[f].column);
	for (const u of r.unmet) console.log(u);
	console.log(r.words);
	if (options.out) writeFileSync(options.out, `${JSON.stringify(r, null, '\t')}\n`);
	const taken = r.cards.filter((c) => r.flavours[flavour].take.includes(c.id));
	if (options.plan) writeFileSync(options.plan, writeJobFile(job, decided(plan, taken)));
	return 0;
}

function main(argv: string[]): number {
	const [command, ...rest] = argv;
	if (command === '--help' || command === '-h') {
		console.log(USE);
		return 0;
	}
	if (!OPTIONS[command]) throw new UseError(command ? `unknown command “${command}”` : 'a command is needed');
	const options: Record<string, string> = {};
	const files: string[] = [];
	for (let i = 0; i < rest.length; i++) {
		if (!rest[i].startsWith('--')) files.push(rest[i]);
		else if (OPTIONS[command].includes(rest[i])) {
			if (!rest[i + 1]) throw new UseError(`${rest[i]} needs a value`);
			options[rest[i].slice(2)] = rest[++i];
		} else throw new UseError(`unknown option ${rest[i]}`);
	}
	const depth = (options.depth ?? 'quick') as Depth;
	if (!DEPTHS.includes(depth)) throw new UseError(`--depth ${depth}: it is one of ${DEPTHS.join(', ')}`);
	if (files.length !== 1) throw new UseError('one job file is needed');
	let text: string;
	try {
		if (statSync(files[0]).size > JOB_FILE_LIMIT) {
			console.error(`${files[0]}: larger than ${JOB_FILE_LIMIT / 1e6} MB: refused`);
			return 1;
		}
		text = readFileSync(files[0], 'utf8');
	} catch (e) {
		throw new UseError(`${files[0]} cannot be read: ${(e as Error).message}`);
	}
	const read = readJobFile(text);
	if (!read.file) {
		console.error(`${files[0]} is refused:`);
		for (const f of read.faults) console.error(`  ${f.field}: ${f.value}; ${f.allowed}`);
		return 1;
	}
	const { job, plan } = read.file;
	if (command === 'check') {
		console.log(
			`${files[0]}: ${job.name}: ${plan.parts.length} parts, ${plan.joints.length} seams, ${plan.tacks.length} tacks, ${plan.runs.length} runs, ${plan.features.length} features. In order.`
		);
		return 0;
	}
	if (command === 'search') return search(plan, options);
	if (command === 'propose') return proposePlan(read.file, options);
	if (command === 'presets' || command === 'holds') return advise(command, read.file, options);
	const clock = () => performance.now();
	const kernel = kernelFactory(WebAssembly);
	const quick = forecast(plan, { clock, cache: new ForecastCache(kernel) });
	quick.heat();
	const shapes = options.vtu || options.glb || options.stl ? quick.shapes() : undefined;
	let { result } = quick;
	if (depth === 'final-shape' || depth === 'hot') {
		const plain = finalForecast(quick, { clock });
		const final = depth === 'hot' ? hotForecast(quick, { clock, kernel, plain: plain.result }) : plain;
		result = final.result;
		shapes?.steps.push(final.shape);
	} else if (depth === 'full') {
		const full = fullForecast(quick, { clock });
		result = full.result;
		full.steps.forEach((s, i) => shapes && (shapes.steps[i] = s));
	}
	if (options.out) writeFileSync(options.out, resultFile(job.name, result));
	if (shapes) {
		const last = shapes.steps[shapes.steps.length - 1];
		const xyz = shapes.xyz.map((v, i) => v + last[i]);
		if (options.vtu) writeFileSync(options.vtu, writeVtu(shapes));
		if (options.stl) writeFileSync(options.stl, writeStl(xyz, shapes.tri, job.name));
		if (options.glb) {
			const parts = plan.parts.map((p, k) => ({ name: p.name, tri: [...shapes.tri].filter((_, i) => shapes.triPart[Math.floor(i / 3)] === k) }));
			writeFileSync(options.glb, writeGlb(xyz, parts, job.name));
		}
	}
	if (options.deck) {
		const deck = pieceDeck(quick.analysis, job.name, scalesOf(priorFactors().mean));
		writeFileSync(options.deck, writeCalculix(deck, { kind: 'staged', stages: deck.stages }));
	}
	console.log(`${job.name}: ${result.method.name}. ${result.checked.words}`);
	for (const f of result.features)
		console.log(
			f.notFound
				? `  ${f.name.padEnd(34)} no shape was found, so no number`
				: `  ${f.name.padEnd(34)} ${f.predicted.toFixed(3).padStart(9)} ${f.unit.padEnd(2)} (${f.low.toFixed(3)} to ${f.high.toFixed(3)}), limit ${f.tolerance.lower === undefined ? 'at most' : 'plus or minus'} ${f.tolerance.upper}: ${VERDICT_WORDS[f.verdict]}`
		);
	for (const p of result.probes) console.log(`  probe ${p.name.padEnd(28)} ${p.displacement.map((v) => v.toFixed(4)).join('  ')} mm`);
	for (const m of result.margins) console.log(`  ${m.words}`);
	for (const w of result.warnings) console.log(`  caution: ${w}`);
	return 0;
}

try {
	process.exitCode = main(process.argv.slice(2));
} catch (e) {
	console.error(e instanceof UseError ? `sarta: ${e.message}\n${USE}` : `sarta: ${(e as Error).message}`);
	process.exitCode = e instanceof UseError ? 2 : 3;
}
