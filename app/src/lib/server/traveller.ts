/** Sheets that go to the bench with the piece: the traveller, and strips at full size. */
import type { Content } from 'pdfmake/interfaces';
import { stripBody, stripWindows, STRIP_MM } from '$core/formats/seamStrip';
import { pathLength } from '$core/geometry/polyline';
import type { BenchPlan } from '$core/weldout/benchPlan';
import type { PlanDocument } from '$core/document/schema';
import { seamLetters } from '$core/layout/seamNames';
import type { WeldResponse } from '$core/response/weldResponse';
import { formatLength, type LengthUnit } from '$core/units/length';
import { lines, marksContent, render, runContent, type SheetHead } from './pdf';
import { fitUpContent, holdContent } from './prepSheets';

const chapter = (text: string): Content => ({ text, bold: true, fontSize: 20, pageBreak: 'before', margin: [0, 0, 0, 8] });
/** Points in a millimetre. */
const PT = 72 / 25.4;
/** What fits across a page on its side, mm. */
const ACROSS_MM = 250;

export interface TravellerData {
	plan: PlanDocument;
	responses: ReadonlyMap<string, WeldResponse>;
	bench: BenchPlan;
	/** the job's */
	notes: string | null;
	serials: readonly string[];
	quantity: number;
	/** address of the run screen */
	address: string;
}

export function traveller(head: SheetHead, d: TravellerData, unit: LengthUnit) {
	const { plan } = d;
	const letters = seamLetters(plan.joints);
	return render(head, [
		{
			columns: [
				{
					width: '*',
					stack: [
						{ text: `${d.quantity} piece${d.quantity === 1 ? '' : 's'}: ${d.serials.join(', ') || 'no serials yet'}`, margin: [0, 0, 0, 6] },
						{ text: `${plan.parts.length} parts, ${letters.size} seams, ${plan.tacks.length} tacks, ${plan.runs.length} runs` },
						{
							text: 'In this traveller: fit-up, hold, tack marks, run sheet. Tick as you go; the run screen keeps the record.',
							margin: [0, 8, 0, 0]
						},
						...(d.notes ? [{ text: d.notes, bold: true, margin: [0, 8, 0, 0] as [number, number, number, number] }] : [])
					]
				},
				{
					width: 130,
					stack: [
						{ qr: d.address, fit: 110, alignment: 'right' },
						{ text: 'Run screen', fontSize: 10, alignment: 'right' }
					]
				}
			]
		},
		{ text: 'Seams', bold: true, fontSize: 15, margin: [0, 10, 0, 4] },
		{
			layout: lines,
			table: {
				headerRows: 1,
				widths: [24, '*', 80, 120],
				body: [
					['', 'Seam', 'Length', 'Settings'].map((text) => ({ text, bold: true })),
					...plan.joints
						.filter((j) => !j.stock)
						.map((j) => [
							{ text: letters.get(j.id)!, bold: true },
							j.name,
							formatLength(pathLength(j.a.path), unit, 0),
							plan.settings.find((s) => s.id === j.settings)!.name
						])
				]
			}
		},
		chapter('Fit-up'),
		...fitUpContent(plan, d.bench, d.responses, unit),
		chapter('Hold'),
		...holdContent(plan, d.bench, unit),
		chapter('Tack marks'),
		...marksContent(plan, d.bench, unit),
		chapter('Run sheet'),
		...runContent(plan, d.bench, unit)
	]);
}

/** Every seam at full size, cut in windows that fit on the page. Print at 100 %. */
export function stripsSheet(head: SheetHead, plan: PlanDocument) {
	const letters = seamLetters(plan.joints);
	const strip = (svg: string, widthMm: number): Content => ({
		svg: `<svg width="${(widthMm * PT).toFixed(3)}" height="${(STRIP_MM * PT).toFixed(3)}" viewBox="0 0 ${widthMm.toFixed(2)} ${STRIP_MM}">${svg}</svg>`,
		margin: [0, 2, 0, 8]
	});
	return render(
		head,
		[
			{
				text: 'Full size: print at 100 %, not fitted to the page, and check this line with a rule. Cut out and tape beside the seam, datum end to datum end.'
			},
			{
				svg: `<svg width="${(100 * PT).toFixed(3)}" height="16" viewBox="0 0 100 ${(16 / PT).toFixed(3)}"><path d="M0.2 0.5v3M99.8 0.5v3M0.2 2h99.6" stroke="#000" stroke-width="0.3" fill="none"/></svg>`,
				margin: [0, 4, 0, 0]
			},
			{ text: '100 mm', fontSize: 9, margin: [0, 0, 0, 6] },
			...plan.joints
				.filter((j) => !j.stock)
				.flatMap((j) =>
					stripWindows(pathLength(j.a.path), ACROSS_MM).map(([from, to]) =>
						strip(stripBody(plan, j, `${letters.get(j.id)} ${j.name}`, from, to), to - from)
					)
				)
		],
		true
	);
}
