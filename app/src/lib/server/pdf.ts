/** Sheets for the bench, legible at arm's length in black and white. */
import path from 'node:path';
import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { pathLength } from '$core/geometry/polyline';
import { fillerOfSettings } from '$core/weldout/fillerWords';
import type { BenchStep } from '$core/weldout/benchSteps';
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
	revision: number;
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
						{ text: head.title, bold: true, fontSize: 18 },
						{ text: `${head.job}\nrevision ${head.revision}, ${head.state}`, alignment: 'right', fontSize: 11 }
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

/** An SVG rule of one seam with runs or tacks, as wide as the page. */
function rule(lengthMm: number, marks: { at: number; label: string }[], runs: { from: number; to: number; label: string }[]): Content {
	const W = 520;
	const x = (mm: number) => 6 + (mm / lengthMm) * (W - 12);
	const step = lengthMm > 900 ? 100 : 50;
	let svg = `<svg width="${W}" height="52" viewBox="0 0 ${W} 52"><rect x="${x(0)}" y="20" width="${x(lengthMm) - x(0)}" height="10" fill="#fff" stroke="#000"/><path d="M${x(0)} 15v20" stroke="#000" stroke-width="3"/>`;
	for (let t = 0; t <= lengthMm; t += step)
		svg += `<path d="M${x(t)} 30v-5" stroke="#000"/><text x="${x(t)}" y="41" font-size="8" text-anchor="middle">${t}</text>`;
	for (const m of marks)
		svg += `<path d="M${x(m.at)} 20v10" stroke="#000" stroke-width="3"/><text x="${x(m.at)}" y="14" font-size="8" text-anchor="middle">${m.label}</text>`;
	for (const r of runs) {
		const d = Math.sign(r.to - r.from);
		svg += `<path d="M${x(r.from) + d * 2} 11H${x(r.to) - d * 2}m${-d * 5} -3l${d * 5} 3l${-d * 5} 3" fill="none" stroke="#000" stroke-width="1.4"/><text x="${(x(r.from) + x(r.to)) / 2}" y="7" font-size="9" text-anchor="middle">${r.label}</text>`;
	}
	return { svg: `${svg}</svg>`, margin: [0, 2, 0, 2] };
}

export const runSheet = (head: SheetHead, plan: PlanDocument, steps: readonly BenchStep[], unit: LengthUnit) =>
	render(head, runContent(plan, steps, unit));

export function runContent(plan: PlanDocument, steps: readonly BenchStep[], unit: LengthUnit): Content[] {
	const l = (mm: number) => formatLength(mm, unit, 1);
	const settings = plan.settings.map(
		(s) =>
			`${s.name}: ${s.current === 'pulsed' ? `${s.ampsA}/${s.backgroundA ?? '-'} A pulsed` : `${s.ampsA} A`}, ${s.speedMmPerS} mm/s, ${fillerOfSettings(plan, s)}, ${s.gas} ${s.gasLPerMin} L/min${s.postFlowS === undefined ? '' : `, post-flow ${s.postFlowS} s`}`
	);
	const bySeam = plan.joints
		.filter((j) => !j.stock)
		.map((j): Content => ({
			unbreakable: true,
			stack: [
				{ text: `${j.name}, ${l(pathLength(j.a.path))}`, bold: true, margin: [0, 6, 0, 0] },
				rule(
					pathLength(j.a.path),
					[],
					plan.runs.flatMap((r, i) => (r.joint === j.id ? [{ from: r.fromMm, to: r.toMm, label: String(i + 1) }] : []))
				)
			]
		}));
	return [
		{ text: settings.join('\n'), margin: [0, 0, 0, 6] },
		...bySeam,
		{ text: 'Steps', bold: true, fontSize: 15, margin: [0, 10, 0, 4] },
		// a table without rows cannot be laid out
		!steps.length
			? { text: 'None yet: give the plan tacks and runs.' }
			: {
					layout: lines,
					table: {
						widths: [26, '*', 60],
						dontBreakRows: true,
						body: steps.map((s, i) => [
							{ text: String(i + 1), fontSize: 13 },
							stepText(s, plan, l),
							{
								svg: '<svg width="14" height="14" viewBox="0 0 14 14"><rect x="1" y="1" width="12" height="12" fill="#fff" stroke="#000"/></svg>',
								alignment: 'right'
							}
						])
					}
				}
	];
}

/** A step as a line of a sheet: its title, and what it says below it. */
export const stepText = (s: BenchStep, plan: PlanDocument, l: (mm: number) => string): Content => ({
	text: [
		{ text: s.title, bold: s.kind === 'run', fontSize: s.kind === 'run' || s.kind === 'tack' ? 14 : 12 },
		{
			text: stepLines(s, plan, l)
				.map((line) => `\n${line}`)
				.join(''),
			fontSize: s.kind === 'run' || s.kind === 'tack' ? 13 : 10.5
		}
	]
});

export const marksSheet = (head: SheetHead, plan: PlanDocument, unit: LengthUnit) => render(head, marksContent(plan, unit));

export function marksContent(plan: PlanDocument, unit: LengthUnit): Content[] {
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
					stack: [
						{ text: `${j.name}   ${l(pathLength(j.a.path))} ${unit}`, bold: true, fontSize: 15, margin: [0, 8, 0, 0] },
						rule(
							pathLength(j.a.path),
							tacks.filter((t) => t.stage === 1).map((t) => ({ at: t.stationMm, label: l(t.stationMm) })),
							[]
						),
						{ text: stage(1) || 'no tacks', bold: true, fontSize: 15 },
						{ text: stage(2), fontSize: 13 }
					]
				};
			})
	];
}

export interface RecordData {
	serial: string;
	customer: string | null;
	results: { name: string; limit: string; value: string; verdict: string }[];
	problems: string[];
	signature?: { person: string; signedAt: Date; statement: string; accepted: boolean };
	heats: string[];
}

export function recordSheet(head: SheetHead, d: RecordData) {
	return render(head, [
		{
			columns: [
				{ text: `Piece ${d.serial}`, bold: true, fontSize: 16 },
				{ text: d.customer ? `For ${d.customer}` : '', alignment: 'right' }
			],
			margin: [0, 0, 0, 6]
		},
		{ text: d.heats.join('; '), margin: [0, 0, 0, 6] },
		{
			layout: lines,
			table: {
				headerRows: 1,
				widths: ['*', 110, 110, 70],
				body: [
					['Feature', 'Measured', 'Limit', ''].map((text) => ({ text, bold: true })),
					...d.results.map((r) => [r.name, r.value, r.limit, r.verdict])
				]
			}
		},
		{ text: 'Problems logged at the bench', bold: true, margin: [0, 10, 0, 2] },
		d.problems.length ? { ul: d.problems.slice(0, 12) } : { text: 'None.' },
		{ text: 'Signature', bold: true, margin: [0, 12, 0, 2] },
		{
			text: d.signature
				? `${d.signature.accepted ? 'ACCEPTED' : 'REJECTED'}. “${d.signature.statement}”\n${d.signature.person}, ${d.signature.signedAt.toISOString().slice(0, 16).replace('T', ' ')} UTC`
				: 'Not signed yet.'
		},
		{
			text: 'Pressure vessels, boilers, food and drinking-water duty: code, licensed engineer and inspector decide; this record does not replace them.',
			fontSize: 9,
			margin: [0, 12, 0, 0]
		}
	]);
}
