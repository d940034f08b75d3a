/** Heat that other seams have left before an arc: nothing lost, nothing counted twice, and held against what the section says of it. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/cache';
import { forecast, type QuickForecast } from '../forecast/forecast';
import { profileAt } from '../forecast/residual';
import { settingsOf } from '../forecast/schedule';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { HotMetal } from '../materials/hot';
import type { SeamFactors } from '../response/arcFactors';
import { responseInput } from '../response/forPlan';
import { forceFactor } from '../response/weldResponse';
import { aroundOf } from './around';
import { marchSeam } from './march';
import { ArcMetal } from './metal';
import { hotSeamOf } from './ofPlan';
import { meanOver, stationsOf } from './results';
import type { HotSeam } from './seam';
import { isEven, warmthAt, warmthOf, type Warmth } from './warmth';

const kernel = kernelFactory(WebAssembly);
/** distances of a profile, mm: forecast/residual.ts */
const AWAY = [0, 10, 20, 35, 55, 80, 120];
const both = (of: (mm: number) => number): Warmth => {
	const side = AWAY.map(of);
	return { atMm: [50], profiles: [{ sides: [side, side] }], barC: 20 };
};
const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], lengthMm: 300 }).plan!;
const [joint] = plan.joints;

describe('warmth as it is told', () => {
	const w: Warmth = {
		atMm: [50, 150],
		profiles: [{ sides: [AWAY.map(() => 20), AWAY.map(() => 60)] }, { sides: [AWAY.map(() => 120), AWAY.map(() => 100)] }],
		barC: 40
	};
	it('straight between places along, held beyond the first and the last', () => {
		expect(warmthAt(w, 0, 5, 'A')).toBe(20);
		expect(warmthAt(w, 100, 5, 'A')).toBe(70);
		expect(warmthAt(w, 500, 5, 'B')).toBe(100);
		expect(warmthAt(w, 50, 5, 'both')).toBe(40);
	});
	it('one sheet stands for both only where they are about as warm', () => {
		expect(isEven(w)).toBe(true);
		expect(isEven({ ...w, profiles: [{ sides: [AWAY.map(() => 20), AWAY.map(() => 80)] }] })).toBe(false);
	});
});

describe('an arc over metal that is warm', () => {
	const { seam } = hotSeamOf(plan, joint.id);
	const whole: HotSeam = {
		...seam,
		runs: [{ fromMm: 0, toMm: seam.lengthMm, waitS: 0 }],
		tacks: [],
		isOnePiece: true,
		gapMm: 0,
		mesh: { ...seam.mesh, alongMm: 5, stepS: 2.5 / seam.speed }
	};
	const pull = (warmth?: Warmth) => {
		const m = marchSeam({ ...whole, runs: [{ ...whole.runs[0], warmth }] }, { kernel });
		const s = stationsOf(m);
		expect(Math.abs(m.numerics.heatError)).toBeLessThan(2e-3);
		expect(m.numerics.openSteps).toBe(0);
		return meanOver(s.middles, s.forceN, 0.3 * seam.lengthMm, 0.7 * seam.lengthMm);
	};
	const cold = pull();
	const input = responseInput(plan, joint, settingsOf(plan, { joint: joint.id }), undefined);
	const bySection = (w: Warmth) => forceFactor(input, { startC: profileAt(w.profiles[0]), isEven: true });

	it('warm throughout, it pulls about as hard as over cold metal, as the section says', () => {
		const warm = both(() => 150);
		const [arc, section] = [pull(warm) / cold, bySection(warm)];
		expect(arc).toBeCloseTo(1, 1);
		expect(Math.abs(arc - section)).toBeLessThan(0.05);
	});
	deeply(
		'a warm stripe along the seam: the section holds it fast and pulls harder, a seam of 300 mm lets it grow (docs/theory/hot.md): they disagree',
		() => {
			const warm = both((mm) => 20 + 130 * Math.exp(-mm / 40));
			const arc = pull(warm) / cold;
			expect(arc).toBeGreaterThan(0.95);
			expect(arc).toBeLessThan(1.05);
			expect(bySection(warm)).toBeGreaterThan(1.15);
		}
	);
	it('metal that never yields comes back to where it was', () => {
		const elastic: HotMetal = {
			conductivity: () => 0.04,
			heatContent: (c) => 4.5e-3 * (c - 20),
			elongation: (c) => 17e-6 * (c - 20),
			eModulus: () => 2e5,
			proof: () => 1e6,
			solidC: 1e6,
			topC: 1e6,
			source: 'none'
		};
		const metal = new ArcMetal(elastic, [1e6, 1e6], 0.3, { hardening: 0, hardensTo: Infinity, forgets: false, viscosity: 100 });
		const m = marchSeam(
			{
				...whole,
				lengthMm: 120,
				runs: [{ fromMm: 0, toMm: 120, waitS: 0, warmth: both((mm) => 300 - 2 * mm) }],
				sheets: [{ ...seam.sheets[0], metal }]
			},
			{ kernel }
		);
		expect(Math.max(...m.peak)).toBeGreaterThan(300);
		expect(Math.max(...m.u.map(Math.abs))).toBeLessThan(1e-4);
	});
});

describe('seams of a piece that is welded all round', () => {
	const trough = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 200, widthMm: 120, depthMm: 80 }).plan!;
	trough.meshSizeMm = 30;
	const quick = forecast(trough, { cache: new ForecastCache(kernel) });
	const around = aroundOf(quick);
	const first = trough.runs[0].joint;
	const warm = [...around.warmth!.keys()];

	it('the first is cold, later ones are warm, and it is said how warm', () => {
		expect(around.warmth!.get(first)?.[0]).toBeUndefined();
		expect(warm.length).toBeGreaterThan(0);
		const { seam, notes } = hotSeamOf(trough, warm[0], {}, { around });
		expect(seam.runs.map((r) => r.warmth)).toEqual(seam.runs.map((_, k) => around.warmth!.get(warm[0])![k]));
		expect(notes.join(' ')).toMatch(/Other seams have left the metal here at up to \d+ °C|other seams warm it by up to \d+ K/);
		expect(hotSeamOf(trough, first, {}, { around: { ...around, warmth: undefined } }).notes.join(' ')).not.toMatch(/ther seams/);
	});
	it('runs that take turns with another seam’s: what came between them, and no more', () => {
		const own = trough.runs.filter((r) => r.joint === warm[0]);
		const [a1, a2] = [own[0], own[own.length - 1]];
		const others = trough.runs.slice(0, trough.runs.indexOf(a1));
		const { mesh } = quick.analysis;
		const told = (runs: typeof trough.runs) => warmthOf({ ...trough, runs }, mesh).get(warm[0]);
		const apart = told([a1, ...others, a2]);
		expect(apart?.[0]).toBeUndefined();
		expect(apart?.[1]).toBeDefined();
		// with its own first run taken away, the others leave the same heat
		const alone = told([...others, a2]);
		expect(apart?.[1]).toEqual(alone?.[0]);
		// nothing comes between runs that follow one another
		expect(told([a1, a2, ...others])).toBeUndefined();
	});
	it('asked about many orders, every seam is taken cold', () => {
		expect(aroundOf(quick, { isCold: true }).warmth).toBeUndefined();
	});
	it('what the arc has met is not in the section’s factor too', () => {
		const seam = (isWarm: boolean): SeamFactors => ({
			joint: warm[0],
			force: {},
			stations: [
				{ atMm: 0, across: 1 },
				{ atMm: 1, across: 1 }
			],
			gapMm: 0,
			gapRange: [0, 0],
			heldNmm2: 0,
			isWarm,
			isBalanced: true
		});
		const alone = trough.runs.find((r) => r.joint === warm[0])!;
		const factor = ({ analysis }: QuickForecast) => analysis.responses.flatMap((r) => [...r.runs]).find(([id]) => id === alone.id)![1];
		const watched = (isWarm: boolean) => factor(quick.watched({ seams: [seam(isWarm)], leftOut: [] }));
		const bySection = factor(quick.warmed());
		expect(bySection).not.toBe(1);
		expect(watched(false)).toBe(bySection);
		expect(watched(true)).toBe(1);
	});
});
