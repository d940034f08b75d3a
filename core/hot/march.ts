/**
 * The arc goes along the seam: step by step the heat, then the balance of both sheets at it. Thermo-elastic-plastic, small strain,
 * quasi-static, in the plane of the sheets. docs/theory/hot.md says what it was checked against and what it leaves out.
 */
import type { KernelFactory } from '../linalg/kernel/kernel';
import { gridOf, type HotGrid } from './grid';
import { HeatField } from './heatField';
import { LINK, SeamLinks, type LinkState } from './links';
import { checkSeam, type HotSeam } from './seam';
import { Sheets } from './sheets';
import { TackWatch, type TackFate } from './tackWatch';
import { TimeLine } from './timeLine';

/** One moment: what lies between the edges along the seam. */
export interface HotMoment {
	s: number;
	/** mm, where the arc stands, and which run burns; null and -1 while none does */
	arcMm: number | null;
	run: number;
	/** mm by station */
	gap: Float64Array;
	state: Uint8Array;
	/** °C on the seam by station */
	seamC: Float64Array;
}

export interface HotOptions {
	/** called after each step with the share done; throws to end the march */
	onStep?: (share: number) => void;
	/** whole fields of temperature every so many steps, for looking on */
	fieldEvery?: number;
	/** the compiled kernel, where there is one: the same figures, sooner */
	kernel?: KernelFactory;
}

export interface HotField {
	s: number;
	arcMm: number | null;
	temperature: Float32Array;
}

export interface HotNumerics {
	unknowns: number;
	halfBand: number;
	steps: number;
	rounds: number;
	looks: number;
	/** steps that did not come into balance, of heat and of the sheets */
	openHeat: number;
	openSteps: number;
	/** largest force out of balance at the end, share of what a cell yields at */
	atEnd: number;
	/** J: given by the arc, to the air, into the bar, and the share that is in none of them nor in the sheets */
	given: number;
	lost: number;
	intoBar: number;
	heatError: number;
}

export interface HotMarch {
	seam: HotSeam;
	grid: HotGrid;
	moments: HotMoment[];
	fields: HotField[];
	tacks: TackFate[];
	/** °C, hottest that each node has been */
	peak: Float64Array;
	/** mm by node, plastic strain by point, cold and let go */
	u: Float64Array;
	plastic: Float64Array;
	/** mm at each station between the edges, cold; NaN where it was never joined */
	joinedGap: Float64Array;
	numerics: HotNumerics;
}

/** Out of balance as a share of what a cell of the first sheet yields at: on the way, and at the end. */
const ON_THE_WAY = 1e-3;
const AT_THE_END = 1e-5;
/** s in which what others have brought is laid on: long, so that nothing of it flows. */
const WARMING_S = 60;
/** A step that finds no balance is halved so often. */
const MOST_HALVINGS = 4;

/** @throws Refusal that names what the model cannot take */
export function marchSeam(seam: HotSeam, options: HotOptions = {}): HotMarch {
	checkSeam(seam);
	const line = new TimeLine(seam);
	const grid = gridOf(seam);
	const heat = new HeatField(seam, grid, line, options.kernel);
	const links = new SeamLinks(seam, grid);
	const sheets = new Sheets(seam, grid, links, options.kernel);
	const watch = new TackWatch(seam, grid, links);
	const yieldsAt = seam.sheets[0].metal.proof20 * seam.sheets[0].thicknessMm * (grid.x[1] - grid.x[0]);
	const peak = heat.t.slice();
	const before = heat.t.slice();
	const moments: HotMoment[] = [];
	const fields: HotField[] = [];
	let openSteps = 0;
	/** mm/s of each node in the step before, while the same run burns: a first guess for the next */
	const pace = new Float64Array(sheets.u.length);
	let heatError = 0;
	let burntMm = 0;

	const settle = (seconds: number, isGuessed: boolean) => {
		const atFirst = sheets.u.slice();
		let share = 0;
		for (let part = 1; share < 1 - 1e-9;) {
			const start = sheets.u.slice();
			sheets.setTemperatures(before, heat.t, Math.min(1, share + part), part * seconds);
			if (isGuessed) for (let d = 0; d < start.length; d++) sheets.u[d] += pace[d] * part * seconds;
			const isBalanced = sheets.balance(ON_THE_WAY * yieldsAt);
			if (!isBalanced && part > 0.5 ** MOST_HALVINGS) {
				sheets.u.set(start);
				part /= 2;
				continue;
			}
			if (!isBalanced) openSteps++;
			sheets.keep();
			share += part;
		}
		for (let d = 0; d < pace.length; d++) pace[d] = (sheets.u[d] - atFirst[d]) / seconds;
	};

	line.steps.forEach((step, k) => {
		before.set(heat.t);
		const isFirst = step.run >= 0 && line.steps[k - 1]?.run !== step.run;
		const warmth = isFirst ? seam.runs[step.run].warmth : undefined;
		if (warmth) {
			// what others have warmed stands wider, and what holds it feels that
			heat.warm(warmth);
			settle(WARMING_S, false);
			before.set(heat.t);
		}
		if (step.isLast) heatError = errorOf(heat);
		heat.step(step);
		for (let n = 0; n < peak.length; n++) peak[n] = Math.max(peak[n], heat.t[n]);
		const passed = step.run < 0 ? null : ([line.at(step.run, step.fromS), line.at(step.run, step.toS)] as const);
		links.melt(heat.t, passed);
		settle(step.toS - step.fromS, step.run >= 0 && !isFirst);
		links.freeze(heat.t, sheets.u);
		burntMm += passed ? Math.abs(passed[1] - passed[0]) : 0;
		watch.look(sheets.kept.hardening, passed ? passed[1] : null, burntMm);
		moments.push({
			s: step.toS,
			arcMm: passed ? passed[1] : null,
			run: step.run,
			gap: links.gaps(sheets.u),
			state: Uint8Array.from(links.all, (l) => l.state),
			seamC: Float64Array.from(links.all, (l) => heat.t[l.node])
		});
		if (options.fieldEvery && (k % options.fieldEvery === 0 || step.isLast))
			fields.push({ s: step.toS, arcMm: passed ? passed[1] : null, temperature: Float32Array.from(heat.t) });
		options.onStep?.((k + 1) / line.steps.length);
	});
	if (sheets.release() && !sheets.balance(ON_THE_WAY * yieldsAt)) openSteps++;
	sheets.keep();
	sheets.balance(AT_THE_END * yieldsAt);
	sheets.keep();
	const sides = seam.sheets.length === 1 ? 2 : 1;
	const joined: LinkState = LINK.joined;
	const gaps = links.gaps(sheets.u);
	return {
		seam,
		grid,
		moments,
		fields,
		tacks: watch.fates,
		peak,
		u: sheets.u,
		plastic: sheets.kept.plastic,
		joinedGap: Float64Array.from(links.all, (l, i) => (l.state === joined ? gaps[i] : NaN)),
		numerics: {
			unknowns: sheets.unknowns,
			halfBand: sheets.halfBand,
			steps: line.steps.length,
			rounds: sheets.rounds,
			looks: sheets.looks,
			openHeat: heat.openSteps,
			openSteps,
			atEnd: sheets.worst / yieldsAt,
			given: sides * heat.given,
			lost: sides * heat.lost,
			intoBar: sides * heat.intoBar,
			heatError
		}
	};
}

const errorOf = (heat: HeatField): number => (heat.brought + heat.given - heat.lost - heat.intoBar - heat.stored()) / Math.max(heat.given, 1e-9);
