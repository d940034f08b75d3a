/** Sheets for the bench, legible at arm's length in black and white. */
import path from 'node:path';
import pdfmake from 'pdfmake';
import type { Column, Content, ContentText, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { pathLength } from '$core/geometry/polyline';
import { currentWords, rampWords } from '$core/weldout/currentWords';
import { fillerOfSettings } from '$core/weldout/fillerWords';
import { drawingSvg } from '$core/draw/svg';
import { seamLetters } from '$core/layout/seamNames';
import type { BenchPlan } from '$core/weldout/benchPlan';
import type { BenchStep, StepOf } from '$core/weldout/benchSteps';
import { stepLines } from '$core/weldout/stepWords';
import type { PlanDocument } from '$core/document/schema';
import { formatLength, type LengthUnit } from '$core/units/length';

const fontFile = (family: string, file: string) => path.resolve('node_modules/@fontsource', family, 'files', file);
let ready = false;
function prepare() {
	if (ready) return;
	pdfmake.setFonts({
		Plex: {
			normal: fontFile('ibm-plex-sans', 'ibm-plex-sans-latin-400-normal.woff'),
			bold: fontFile('ibm-plex-sans', 'ibm-plex-sans-latin-600-normal.woff'),
			italics: fontFile('ibm-plex-sans', 'ibm-plex-sans-latin-400-normal.woff'),
			bolditalics: fontFile('ibm-plex-sans', 'ibm-plex-sans-latin-600-normal.woff')
		}
	});
	// nothing from the network, and from the disk the fonts only
	pdfmake.setUrlAccessPolicy(() => false);
	pdfmake.setLocalAccessPolicy((file: string) => path.resolve(file).startsWith(path.resolve('node_modules/@fontsource')));
	ready = true;
}

export interface SheetHead {
	title: string;
	job: string;
	/** as it is told: of a piece that was planned on, its number and the plan's own */
	revision: string;
	state: string;
	printedBy: string;
}

const CAUTION =
	'Forecasts are estimates: check on a coupon. Arc light, fume with hexavalent chromium, argon in closed spaces, hot metal: shop rules and local codes come first.';

export async function render(head: SheetHead, content: Content[], landscape = false): Promise<Uint8Array<ArrayBuffer>> {
	prepare();
	const doc: TDocumentDefinitions = {
		pageSize: 'A4',
		pageOrientation: landscape ? 'landscape' : 'portrait',
		pageMargins: [32, 62, 32, 44],
		defaultStyle: { font: 'Plex', fontSize: 12, lineHeight: 1.15 },
		info: { title: `${head.title}: ${head.job}`, creator: 'Sarta' },
		header: {
			margin: [32, 20, 32, 0],
			stack: [
				{
					columns: [
						{ text: head.title, bold: true, fontSize: 18, width: 'auto' },
						{ text: `${head.job}\nrevision ${head.revision}, ${head.state}`, alignment: 'right', fontSize: 10 }
					]
				},
				{ canvas: [{ type: 'line', x1: 0, y1: 2, x2: landscape ? 778 : 531, y2: 2, lineWidth: 1.5 }] }
			]
		},
		footer: (page, pages) => ({
			margin: [32, 8, 32, 0],
			columns: [
				{ text: CAUTION, fontSize: 7.5, width: '*' },
				{
					text: `${head.printedBy}, ${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC    ${page} / ${pages}`,
					fontSize: 8,
					width: 190,
					alignment: 'right'
				}
			]
		}),
		content
	};
	return new Uint8Array(await pdfmake.createPdf(doc).getBuffer());
}

export const lines = { hLineWidth: () => 0.7, vLineWidth: () => 0, paddingTop: () => 4, paddingBottom: () => 4 };

/** An SVG rule of one seam with its tacks, beside its picture. */
function rule(lengthMm: number, marks: { at: number; label: string }[]): Content {
	const W = 400;
	const x = (mm: number) => 6 + (mm / lengthMm) * (W - 12);
	const step = lengthMm > 900 ? 100 : 50;
	let svg = `<svg width="${W}" height="52" viewBox="0 0 ${W} 52"><rect x="${x(0)}" y="20" width="${x(lengthMm) - x(0)}" height="10" fill="#fff" stroke="#000"/><path d="M${x(0)} 15v20" stroke="#000" stroke-width="3"/>`;
	for (let t = 0; t <= lengthMm; t += step)
		svg += `<path d="M${x(t)} 30v-5" stroke="#000"/><text x="${x(t)}" y="41" font-size="8" text-anchor="middle">${t}</text>`;
	for (const m of marks)
		svg += `<path d="M${x(m.at)} 20v10" stroke="#000" stroke-width="3"/><text x="${x(m.at)}" y="14" font-size="8" text-anchor="middle">${m.label}</text>`;
	return { svg: `${svg}</svg>`, margin: [0, 2, 0, 2] };
}

export const runSheet = (head: SheetHead, plan: PlanDocument, bench: BenchPlan, unit: LengthUnit) => render(head, runContent(plan, bench, unit));

const TICK = '<svg width="12" height="12" viewBox="0 0 14 14"><rect x="1" y="1" width="12" height="12" fill="#fff" stroke="#000"/></svg>';
/** Of a picture beside its steps, points. */
const PICTURE = { width: 150, height: 112 };
/** Runs of a block that are numbered on its picture; more would lie on one another. */
const MOST_NUMBERED = 24;

/** Steps that are done with the piece lying in one way, with what is on it by then. */
interface Block {
	steps: Numbered[];
	picture?: string;
}
interface Numbered {
	step: BenchStep;
	number: number;
}

/** A block for each way the piece lies and for each set of parts that is on; the picture is the one most of its runs are seen in. */
function blocksOf(steps: readonly Numbered[]): Block[] {
	const out: Block[] = [];
	for (const { step, number } of steps) {
		const last = out[out.length - 1];
		if (!last || step.kind === 'flip' || (step.kind === 'parts' && last.steps.some((s) => s.step.kind !== 'flip'))) out.push({ steps: [] });
		out[out.length - 1].steps.push({ step, number });
	}
	for (const block of out) {
		const count = new Map<string, number>();
		const drawn = block.steps.filter(({ step }) => step.picture && (step.kind === 'run' || step.kind === 'tack'));
		for (const { step } of drawn.length ? drawn : block.steps) if (step.picture) count.set(step.picture, (count.get(step.picture) ?? 0) + 1);
		block.picture = [...count].sort((p, q) => q[1] - p[1])[0]?.[0];
	}
	return out;
}

/** Steps of the list in their blocks, each with its picture; the numbers are the list's own, on every sheet. @param keep those this sheet is about */
export function stepBlocks(
	plan: PlanDocument,
	{ steps, pictures }: BenchPlan,
	unit: LengthUnit,
	keep: (s: BenchStep) => boolean = () => true
): Content[] {
	const l = (mm: number) => formatLength(mm, unit, 1);
	const letters = seamLetters(plan.joints);
	const block = (b: Block): Content => {
		const drawing = b.picture ? pictures[b.picture] : undefined;
		const runs = b.steps.flatMap(({ step }) => (step.kind === 'run' ? [step] : []));
		const arrows = runs.map((r) => ({ joint: r.joint, fromMm: r.fromMm, toMm: r.toMm, label: String(r.number) }));
		const rows: Column = {
			width: '*',
			layout: { ...lines, paddingTop: () => 0.8, paddingBottom: () => 0.8 },
			table: { widths: [34, '*', 12], dontBreakRows: true, body: rowsOf(b.steps, plan, l, letters) }
		};
		if (!drawing) return { columns: [rows] };
		const picture = drawingSvg(drawing, { letters: !runs.length || runs.length > MOST_NUMBERED, arrows }, PICTURE.width, PICTURE.height);
		return { columns: [{ width: PICTURE.width + 6, stack: [{ svg: picture }] }, rows], margin: [0, 3, 0, 3] };
	};
	const kept = steps.map((step, i) => ({ step, number: i + 1 })).filter(({ step }) => keep(step));
	return blocksOf(kept).map(block);
}

export function runContent(plan: PlanDocument, bench: BenchPlan, unit: LengthUnit): Content[] {
	const settings = plan.settings.map(
		(s) =>
			`${s.name}: ${currentWords(s)}${rampWords(s) ? ` (${rampWords(s)})` : ''}, ${s.speedMmPerS} mm/s, ${fillerOfSettings(plan, s)}, ${s.gas} ${s.gasLPerMin} L/min${s.postFlowS === undefined ? '' : `, post-flow ${s.postFlowS} s`}${s.purgeLPerMin === undefined ? '' : `, purge ${s.purgeLPerMin} L/min`}${s.source ? `, on ${s.source}` : ''}`
	);
	return [
		{ text: settings.join('\n'), margin: [0, 0, 0, 4], fontSize: 10.5 },
		// a table without rows cannot be laid out
		...(bench.steps.length ? stepBlocks(plan, bench, unit) : [{ text: 'None yet: give the plan tacks and runs.' }])
	];
}

/** Rows of a block: what is tacked in one go is one row, for its stations are on the marks sheet. */
function rowsOf(steps: Block['steps'], plan: PlanDocument, l: (mm: number) => string, letters: ReadonlyMap<string, string>): TableCell[][] {
	const out: TableCell[][] = [];
	/** the seam of the row before: its name is said once */
	let seam = '';
	const row = (numbers: string, text: Content) => out.push([{ text: numbers, fontSize: 8 }, text, { svg: TICK, alignment: 'right' }]);
	for (let i = 0; i < steps.length; i++) {
		const { step, number } = steps[i];
		const next = steps[i + 1]?.step as BenchStep | undefined;
		if (step.kind === 'wait' && next?.kind === 'run' && step.before === next.run) {
			// a wait and its run are one row
			i++;
			row(`${number}-${number + 1}`, {
				text: [
					{
						text: `wait ${minutes(step.seconds)} min, ${step.id === 'wait:purge' ? 'purged' : `${plan.interpassLimitC} °C at most`}:  `,
						fontSize: 8.5
					},
					runText(next, plan, l, letters, next.joint !== seam)
				],
				fontSize: 10
			});
			seam = next.joint;
			continue;
		}
		if (step.kind === 'run') {
			row(String(number), { ...runText(step, plan, l, letters, step.joint !== seam), fontSize: 10 });
			seam = step.joint;
			continue;
		}
		if (step.kind !== 'tack') {
			row(String(number), stepText(step, plan, l, letters));
			continue;
		}
		const tacked: string[] = [];
		let last = number;
		for (let next: BenchStep | undefined = step; next?.kind === 'tack' && next.stage === step.stage; next = steps[++i]?.step) {
			tacked.push(`${letters.get(next.joint)} ${next.stations.length}`);
			last = steps[i].number;
		}
		i--;
		row(last > number ? `${number}-${last}` : String(number), {
			text: [
				{ text: `Tack ${step.stage === 1 ? 'to locate' : 'to close up'}: `, bold: true },
				`${tacked.join(', ')}. Seam and how many, in this order; stations on the marks sheet.`
			],
			fontSize: 10.5
		});
	}
	return out;
}

const minutes = (seconds: number) => Math.max(1, Math.ceil(seconds / 60));
const runText = (
	s: StepOf<'run'>,
	plan: PlanDocument,
	l: (mm: number) => string,
	letters: ReadonlyMap<string, string>,
	isNamed = true
): { text: ContentText['text'] } => ({
	text: [
		{ text: `Run ${s.number}  ${letters.get(s.joint)}  `, bold: true },
		`${l(s.fromMm).replace(/ (mm|in)$/, '')} to ${l(s.toMm)}`,
		{ text: isNamed ? `   ${plan.joints.find((j) => j.id === s.joint)?.name}` : '', fontSize: 8.5 }
	]
});

/** A step as a line of a sheet: its title, and what it says below it; a run and a wait on one line. */
export function stepText(s: BenchStep, plan: PlanDocument, l: (mm: number) => string, letters: ReadonlyMap<string, string>): Content {
	const said = stepLines(s, plan, l);
	const letter = 'joint' in s ? `${letters.get(s.joint) ?? ''}  ` : '';
	if (s.kind === 'wait') return { text: `${s.title}: about ${minutes(s.seconds)} min`, fontSize: 9.5 };
	if (s.kind === 'flip') return { text: s.title, bold: true, fontSize: 10.5 };
	return {
		text: [
			{ text: `${letter}${s.title}`, bold: true, fontSize: 10.5 },
			{ text: said.map((line) => `\n${line}`).join(''), fontSize: 8.5 },
			...(s.kind === 'sign' ? [{ text: '\nSigned ______________________   Date ______________', fontSize: 10.5 }] : [])
		]
	};
}

export const marksSheet = (head: SheetHead, plan: PlanDocument, bench: BenchPlan, unit: LengthUnit) => render(head, marksContent(plan, bench, unit));

export function marksContent(plan: PlanDocument, { steps, pictures }: BenchPlan, unit: LengthUnit): Content[] {
	const letters = seamLetters(plan.joints);
	/** the seam where it lies on the piece, its zero end marked */
	const picture = (joint: string, stations: readonly number[]): Column => {
		const key =
			steps.find((s) => s.kind === 'tack' && s.joint === joint)?.picture ?? steps.find((s) => s.kind === 'run' && s.joint === joint)?.picture;
		const drawing = key ? pictures[key] : undefined;
		return drawing ? { width: 120, stack: [{ svg: drawingSvg(drawing, { joint, marks: stations }, 116, 92) }] } : { width: 120, text: '' };
	};
	const l = (mm: number) => formatLength(mm, unit, 1).replace(/ (mm|in)$/, '');
	return [
		{
			text: `Stations in ${unit} from each seam's datum end. Bold locates first, light closes up.${plan.tacks.some((t) => t.fusionOnly) ? ' Fusion only (b): may be broken while adjusting.' : ''}${plan.tacks.some((t) => t.flush) ? ' Ground flush (g) before the run passes.' : ''}`,
			margin: [0, 0, 0, 4]
		},
		...plan.joints
			.filter((j) => !j.stock)
			.map((j): Content => {
				const tacks = plan.tacks.map((t, i) => ({ ...t, number: i + 1 })).filter((t) => t.joint === j.id);
				const stage = (n: number) =>
					tacks
						.filter((t) => t.stage === n)
						.map((t) => `${l(t.stationMm)}${t.fusionOnly ? ' b' : ''}${t.flush ? ' g' : ''}`)
						.join('   ');
				return {
					unbreakable: true,
					columns: [
						picture(
							j.id,
							tacks.map((t) => t.stationMm)
						),
						{
							width: '*',
							stack: [
								{ text: `${letters.get(j.id)}   ${j.name}   ${l(pathLength(j.a.path))} ${unit}`, bold: true, fontSize: 14 },
								rule(
									pathLength(j.a.path),
									tacks.filter((t) => t.stage === 1).map((t) => ({ at: t.stationMm, label: l(t.stationMm) }))
								),
								{ text: stage(1) || 'no tacks', bold: true, fontSize: 13.5 },
								{ text: stage(2), fontSize: 12 }
							]
						}
					],
					margin: [0, 6, 0, 0]
				};
			})
	];
}
