/** Sheets for what comes before the arc: cutting list, fit-up sheet, hold sheet. */
import type { Content } from 'pdfmake/interfaces';
import { holdKind, holdWords } from '$core/holds';
import type { CutLine } from '$core/families/cuttingList';
import { drawingSvg, pointing } from '$core/draw/svg';
import { seamLetters } from '$core/layout/seamNames';
import { lifeWords } from '$core/sequence/lifeWords';
import { fitUpAdvice } from '$core/fitup/advice';
import { symbolOf, symbolSvg } from '$core/formats/weldSymbol';
import { isClosed, pathLength } from '$core/geometry/polyline';
import type { Vec2 } from '$core/geometry/vec';
import type { BenchPlan, Pointed } from '$core/weldout/benchPlan';
import type { BenchStep } from '$core/weldout/benchSteps';
import { rootWords } from '$core/weldout/purge';
import { stepLines } from '$core/weldout/stepWords';
import type { AnyHoldDown, PlanDocument } from '$core/document/schema';
import { JOINTS } from '$core/joints';
import type { WeldResponse } from '$core/response/weldResponse';
import { formatLength, type LengthUnit } from '$core/units/length';
import { lines, render, stepBlocks, type SheetHead } from './pdf';

const heading = (text: string): Content => ({ text, bold: true, fontSize: 15, margin: [0, 12, 0, 4] });
/** a new one each time: the printer draws a shared one only once */
const box = (): Content => ({
	svg: '<svg width="14" height="14" viewBox="0 0 14 14"><rect x="1" y="1" width="12" height="12" fill="#fff" stroke="#000"/></svg>'
});

/** A blank to no scale: outline, holes and bend lines. */
function blankSvg(l: CutLine): string {
	const b = l.blank;
	const xs = b.outline.map((p) => p[0]);
	const ys = b.outline.map((p) => p[1]);
	const [x0, y0, w, h] = [Math.min(...xs), Math.min(...ys), Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
	const s = Math.min(150 / w, 100 / h);
	const at = (p: Vec2) => `${((p[0] - x0) * s + 5).toFixed(1)} ${((y0 + h - p[1]) * s + 5).toFixed(1)}`;
	const ring = (r: readonly Vec2[]) => `M${r.map(at).join('L')}Z`;
	return (
		`<svg width="160" height="${(h * s + 10).toFixed(0)}" viewBox="0 0 160 ${(h * s + 10).toFixed(0)}">` +
		`<path d="${ring(b.outline)}${b.holes.map(ring).join('')}" fill="#eee" fill-rule="evenodd" stroke="#000"/>` +
		b.bendLines.map((x) => `<path d="M${at(x.from)}L${at(x.to)}" stroke="#000" stroke-dasharray="6 3" fill="none"/>`).join('') +
		'</svg>'
	);
}

export function cuttingListSheet(head: SheetHead, list: readonly CutLine[], quantity: number, rule: string, unit: LengthUnit) {
	const l = (mm: number) => formatLength(mm, unit, 1);
	return render(
		head,
		[
			{
				text: `For ${quantity} piece${quantity === 1 ? '' : 's'}. Sizes with the oversize that the forecast shrinkage asks for; ${rule}.`,
				margin: [0, 0, 0, 6]
			},
			{
				layout: lines,
				table: {
					headerRows: 1,
					dontBreakRows: true,
					widths: [160, '*', 105, 74, 74, 40, 52],
					body: [
						['', 'Blank', 'Size', 'of that oversize', 'Grain, film', 'Count', 'Weight'].map((t) => ({ text: t, bold: true })),
						...list.map((c): Content[] => [
							{ svg: blankSvg(c) },
							{
								text: [
									{ text: `${c.part.name}\n`, bold: true },
									`${c.part.material}, ${l(c.part.thicknessMm)}${c.part.heatNumber ? `, heat ${c.part.heatNumber}` : ''}\n${c.part.bends.length} bends, ${c.part.holes.length} holes${c.part.roll ? ', rolled' : c.part.cone ? ', coned' : ''}`
								]
							},
							{ text: `${l(c.widthMm)} x ${l(c.heightMm)}`, fontSize: 13, bold: true },
							`${l(c.oversize[0])} x ${l(c.oversize[1])}`,
							`grain ${c.grain}\nfilm ${c.film}`,
							{ text: String(c.count), fontSize: 14, bold: true },
							`${c.weightKg.toFixed(2)} kg`
						])
					]
				}
			}
		],
		true
	);
}

/** Steps that make the piece ready for its runs. */
const FIT_UP: readonly BenchStep['kind'][] = ['check', 'film', 'parts', 'preset', 'tack', 'grind', 'look', 'sign'];
const isFitUp = (s: BenchStep) =>
	(FIT_UP.includes(s.kind) && !(s.kind === 'look' && s.at === 'pinholes')) ||
	(s.kind === 'measure' && s.moment === 'as-tacked') ||
	// turned for what comes on next
	(s.kind === 'flip' && s.before.startsWith('parts:'));

export const fitUpSheet = (head: SheetHead, plan: PlanDocument, bench: BenchPlan, responses: ReadonlyMap<string, WeldResponse>, unit: LengthUnit) =>
	render(head, fitUpContent(plan, bench, responses, unit));

export function fitUpContent(plan: PlanDocument, bench: BenchPlan, responses: ReadonlyMap<string, WeldResponse>, unit: LengthUnit): Content[] {
	const l = (mm: number, digits = 1) => formatLength(mm, unit, digits);
	const advice = fitUpAdvice(plan, new Map([...responses].map(([id, r]) => [id, r.tintWidthMm])), (mm) => l(mm, 1));
	const trueJoint = plan.joints.find((j) => j.id === plan.fitUp.trueJoint);
	const adjusting = plan.joints.find((j) => j.id === plan.fitUp.adjustingJoint);
	const letters = seamLetters(plan.joints);
	return [
		{
			text: trueJoint
				? `True first: the ${plan.fitUp.trueEnd === 'far' ? 'far' : 'datum'} end of “${trueJoint.name}”, then work away from it.${adjusting ? ` Leave “${adjusting.name}” until last: it takes up the error of the rest.` : ''}`
				: 'No true corner is chosen.'
		},
		...(bench.findings.length ? [{ ul: bench.findings, margin: [0, 6, 0, 0] } as Content] : []),
		heading('Steps'),
		{
			text: 'Numbers are those of the run sheet and of the run screen: what lies between them is on the hold sheet and the run sheet.',
			fontSize: 9,
			margin: [0, 0, 0, 4]
		},
		...stepBlocks(plan, bench, unit, isFitUp),
		heading('Seams'),
		{
			layout: lines,
			table: {
				headerRows: 1,
				dontBreakRows: true,
				widths: [135, '*', 58, 62, 50],
				body: [
					['Weld', 'Seam', 'Film back', 'Gap at most', 'Preset'].map((t) => ({ text: t, bold: true })),
					...plan.joints
						.filter((j) => !j.stock)
						.map((j): Content[] => {
							const a = advice.find((x) => x.joint === j.id)!;
							const thickness = Math.min(...[j.a.part, j.b.part].map((id) => plan.parts.find((p) => p.id === id)!.thicknessMm));
							const length = pathLength(j.a.path);
							const process = plan.settings.find((s) => s.id === j.settings)!.process;
							return [
								{ svg: symbolSvg(symbolOf(j, length, thickness, process, isClosed(j.a.path) || isClosed(j.b.path))) },
								{
									text: [
										{ text: `${letters.get(j.id)}   ${j.name}\n`, bold: true },
										`${JOINTS[j.type].name}, ${l(length)}, ${j.filler ? 'filler' : 'fusion'}, ${j.penetration}${a.notes.length ? `\n${a.notes.join(' ')}` : ''}`
									],
									fontSize: 11
								},
								l(a.filmMm, 0),
								`${l(a.gapLimitMm, 2)}\n0.01 mm a tenth`,
								j.presetDeg ? `${j.presetDeg}°` : 'none'
							];
						})
				]
			}
		},
		{ text: 'Symbols after ISO 2553, system A. Gap limits: common practice, no source.', fontSize: 8, margin: [0, 6, 0, 0] }
	];
}

const sentences = (lines: readonly string[]) => lines.map((s) => (/[.!?:]$/.test(s) ? s : `${s}.`)).join(' ');

export const holdSheet = (head: SheetHead, plan: PlanDocument, bench: BenchPlan, unit: LengthUnit) => render(head, holdContent(plan, bench, unit));

export function holdContent(plan: PlanDocument, bench: BenchPlan, unit: LengthUnit): Content[] {
	const l = (mm: number) => formatLength(mm, unit, 0);
	const words = holdWords(plan, l);
	const numbered = bench.steps.map((step, i) => ({ step, number: i + 1 }));
	const stepOf = (id: string, on: boolean) => numbered.find(({ step }) => step.kind === 'hold' && step.holdDown === id && step.on === on)?.number;
	/** in the order they go on */
	const holds = [...plan.holdDowns].sort((p, q) => (stepOf(p.id, true) ?? 0) - (stepOf(q.id, true) ?? 0));
	const picture = (id: string): Content => {
		const spot = bench.holds[id] as Pointed | undefined;
		return spot ? { svg: drawingSvg(bench.pictures[spot.picture], pointing(spot), 120, 92) } : '';
	};
	const when = (h: AnyHoldDown, on: boolean): Content => {
		const number = stepOf(h.id, on);
		return [
			{ text: number ? `step ${number}` : '', bold: true },
			{ text: lifeWords(on ? h.life.on : h.life.off, plan), fontSize: 10 }
		];
	};
	const purging = numbered.filter(({ step }) => step.kind === 'purge' || step.id === 'wait:purge');
	return [
		holds.length
			? {
					layout: lines,
					table: {
						headerRows: 1,
						dontBreakRows: true,
						widths: [124, '*', 82, 82, 18],
						body: [
							['', 'What and where', 'On', 'Off', ''].map((t) => ({ text: t, bold: true })),
							...holds.map((h): Content[] => [
								picture(h.id),
								{
									text: [
										{ text: `${h.name}\n`, bold: true },
										{ text: holdKind(h).where(h, words), fontSize: 11 }
									]
								},
								when(h, true),
								when(h, false),
								box()
							])
						]
					}
				}
			: { text: 'Nothing holds this piece: it is welded free.' },
		heading('Behind the root'),
		{ text: rootWords(plan) },
		...purging.map(({ step, number }): Content => ({
			text: [{ text: `Step ${number}: ${step.title}. `, bold: true }, sentences(stepLines(step, plan, l))],
			margin: [0, 4, 0, 0]
		}))
	];
}
