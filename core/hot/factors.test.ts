/** What the moving arc makes of a plan’s seams: against what it must be where there are no ends, what must be mirrored, and what the trade says of tacks. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { finalForecast } from '../forecast/finalForecast';
import { analyse, ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import { acrossAt, type SeamFactors } from '../response/arcFactors';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { orderPattern } from '../schools/orderPattern';
import type { PlanDocument } from '../document/schema';
import { hotFactors, HotMemory } from './factors';
import { METAL_RANGE } from './metalRange';
import { evenTacks, gripOf, hotSeamOf } from './ofPlan';
import { runsOf } from './results';
import { HOT_SHARE, hotForecast } from './hotForecast';
import { needsHot } from './needed';

const kernel = kernelFactory(WebAssembly);
const memory = new HotMemory(kernel);
const LENGTH = 180;

interface Way {
	spacing: number;
	isTurned?: boolean;
	runs?: [number, number][];
}
function panel({ spacing, isTurned, runs }: Way): PlanDocument {
	const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [100, 100], lengthMm: LENGTH }).plan!;
	const [run] = plan.runs;
	const ways = runs ?? [isTurned ? [LENGTH, 0] : [0, LENGTH]];
	return {
		...plan,
		meshSizeMm: 20,
		tacks: evenTacks(LENGTH, spacing).map((stationMm, i) => ({ ...plan.tacks[0], id: `t${i}`, stationMm, lengthMm: 6 })),
		runs: ways.map(([fromMm, toMm], i) => ({ ...run, id: `r${i}`, fromMm, toMm, pass: 1 }))
	};
}
const seamOf = (way: Way): SeamFactors => hotFactors(panel(way), { memory }).seams[0];

describe('factors of a watched seam', () => {
	const close = seamOf({ spacing: 20 });
	const ends = seamOf({ spacing: 0 });

	it('closely tacked and run through: its middle is the endless seam’s, within a tenth', () => {
		expect(acrossAt(close, LENGTH / 2)).toBeGreaterThan(0.9);
		expect(acrossAt(close, LENGTH / 2)).toBeLessThan(1.1);
		expect(close.isBalanced).toBe(true);
	});
	it('tacked at both ends only, the start opens and closes less: the sheets swing; close tacks even it out (common practice, no source)', () => {
		const swing = (s: SeamFactors) => acrossAt(s, LENGTH) - acrossAt(s, 0);
		expect(swing(ends)).toBeGreaterThan(1.5 * swing(close));
		expect(ends.gapMm).toBeGreaterThan(2 * close.gapMm);
	});
	it('a gap that is too wide is a range by how soft the hot metal is; one that is not is not looked into', () => {
		const [wide] = hotFactors(panel({ spacing: 0 }), { memory, isRanged: true }).seams;
		expect(wide.gapMm).toBe(ends.gapMm);
		expect(wide.gapRange[0]).toBeLessThanOrEqual(wide.gapMm);
		expect(wide.gapRange[1]).toBeGreaterThan(wide.gapRange[0]);
		expect(ends.gapRange).toEqual([ends.gapMm, ends.gapMm]);
		expect(hotFactors(panel({ spacing: 20 }), { memory, isRanged: true }).seams[0].gapRange).toEqual([close.gapMm, close.gapMm]);
	});
	it('other hot metals: the middle of a closely tacked seam is the endless one’s whatever the metal; at its ends they part', () => {
		const { seams, ends: causes } = hotFactors(panel({ spacing: 20 }), { memory, isRanged: true });
		expect(causes!.map((c) => c.label)).toEqual(METAL_RANGE.map((c) => c.label));
		const others = causes!.flatMap((c) => c.seams.map(([s]) => s));
		for (const s of others) expect(Math.abs(acrossAt(s, LENGTH / 2) - acrossAt(seams[0], LENGTH / 2))).toBeLessThan(0.05);
		const apart = (at: number) => Math.max(...others.map((s) => Math.abs(acrossAt(s, at) - acrossAt(seams[0], at))));
		expect(Math.max(apart(0), apart(LENGTH))).toBeGreaterThan(0.005);
		for (const s of others) expect(s.force.r0).toBeGreaterThan(0.5 * seams[0].force.r0);
		// nobody asks for them in a search
		expect(hotFactors(panel({ spacing: 20 }), { memory }).ends).toBeUndefined();
	}, 240_000);
	it('run from the other end, everything is turned round', () => {
		const turned = seamOf({ spacing: 0, isTurned: true });
		for (const { atMm, across } of ends.stations) expect(acrossAt(turned, LENGTH - atMm)).toBeCloseTo(across, 1);
		expect(turned.force.r0 / ends.force.r0).toBeCloseTo(1, 2);
	});
	it('stepped back in three, the edges close more evenly than straight through (common practice, no source)', () => {
		const stepped = seamOf({
			spacing: 0,
			runs: [
				[60, 0],
				[120, 60],
				[180, 120]
			]
		});
		const unevenness = (s: SeamFactors) => Math.max(...s.stations.map((x) => x.across)) - Math.min(...s.stations.map((x) => x.across));
		expect(unevenness(stepped)).toBeLessThan(0.6 * unevenness(ends));
		expect(Object.keys(stepped.force)).toEqual(['r0', 'r1', 'r2']);
	});
	deeply(
		'what stepping back and pausing takes of the pull in all is what travelling sources by themselves say (response/ownRuns), within a tenth',
		() => {
			const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!;
			const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
			const both = (pattern: 'one-hit' | 'back-step', waitBeforeS: number) => {
				const runs = orderPattern(plan, { pattern, runLengthMm: 40 }).map((r) => ({ ...r, waitBeforeS }));
				const p = { ...plan, meshSizeMm: 30, runs };
				const { responses } = analyse(p, new ForecastCache(kernel), { warm: true });
				return { arc: mean(Object.values(hotFactors(p, { memory }).seams[0].force)), sources: mean([...responses[0].cut.values()]) };
			};
			const one = both('one-hit', 0);
			for (const wait of [0, 60, 600]) {
				const stepped = both('back-step', wait);
				const [arc, sources] = [stepped.arc / one.arc, stepped.sources / one.sources];
				expect(Math.abs(sources - arc), `${wait} s: ${sources} for ${arc}`).toBeLessThan(0.1);
			}
		},
		180_000
	);
	deeply(
		'runs of unlike settings: each by its own arc and over its own endless seam',
		() => {
			const plan = panel({
				spacing: 0,
				runs: [
					[0, LENGTH / 2],
					[LENGTH / 2, LENGTH]
				]
			});
			const [settings] = plan.settings;
			const hotter = { ...settings, id: 'hotter', ampsA: 1.3 * settings.ampsA };
			const own = { ...plan, settings: [settings, hotter], runs: plan.runs.map((r, i) => (i ? { ...r, settings: 'hotter' } : r)) };
			const { seam, notes } = hotSeamOf(own, 's1');
			expect(seam.runs[0].heat).toBeUndefined();
			expect(seam.runs[1].heat! / seam.heat).toBeCloseTo(1.3, 9);
			expect(notes.join(' ')).not.toMatch(/settings of their own/);
			const [a, b] = [plan, own].map((p) => memory.march(hotSeamOf(p, 's1').seam));
			const [cold, hot] = [a, b].map((m) => runsOf(m));
			// the second run pulls by its own heat, the first as before
			expect(hot[1].forceN / cold[1].forceN).toBeGreaterThan(1.15);
			expect(hot[0].forceN / cold[0].forceN).toBeCloseTo(1, 1);
			// over the endless seam of the hotter arc: what a plan that is hotter throughout is held against
			const through = {
				...plan,
				settings: [hotter],
				runs: plan.runs.map((r) => ({ ...r, settings: 'hotter' })),
				joints: plan.joints.map((j) => ({ ...j, settings: 'hotter' }))
			};
			const endless = (p: PlanDocument, force: number) => force / hotFactors(p, { memory }).seams[0].force.r1;
			const [mild, fierce] = [endless(plan, cold[1].forceN), endless(through, runsOf(memory.march(hotSeamOf(through, 's1').seam))[1].forceN)];
			expect(fierce / mild).toBeGreaterThan(1.05);
			expect(endless(own, hot[1].forceN) / fierce).toBeCloseTo(1, 1);
		},
		240_000
	);
	it('like seams of a piece have like factors, and both come from one march', () => {
		const plan = panel({ spacing: 0 });
		const again = hotFactors(plan, { memory: new HotMemory(kernel) }).seams[0];
		expect(again).toEqual(ends);
	});
	it('held edges pull harder than free ones; in steps, so that a hair of stiffness changes nothing', () => {
		const held = hotFactors(panel({ spacing: 0 }), {
			memory,
			around: { seams: assemblyMesh(panel({ spacing: 0 })).seams, held: new Map([['s1', 5000]]) }
		}).seams[0];
		expect(held.force.r0).toBeGreaterThan(1.05 * ends.force.r0);
		expect(gripOf(0.5)).toBe(0);
		expect(gripOf(5000)).toBe(gripOf(5300));
		expect(gripOf(Infinity)).toBe(gripOf(1e9));
	});
});

describe('which plans need it', () => {
	it('says why: few tacks, a gap, stepped runs; nothing of a closely tacked seam run through', () => {
		const words = (p: PlanDocument) => needsHot(p).map((n) => n.words);
		expect(words(panel({ spacing: 20 }))).toEqual([]);
		expect(words(panel({ spacing: 0 }))).toEqual(['few tacks']);
		expect(
			words(
				panel({
					spacing: 20,
					runs: [
						[90, 0],
						[180, 90]
					]
				})
			)
		).toEqual(['stepped or skipped runs']);
		const gap = panel({ spacing: 20 });
		gap.joints[0].gapMm = 0.5;
		expect(words(gap)).toEqual(['a gap']);
	});
});

describe('the hot depth', () => {
	const plan = panel({ spacing: 0 });
	const quick = forecast(plan, { cache: new ForecastCache(kernel) });
	const plain = finalForecast(quick);
	const hot = hotForecast(quick, { kernel, memory, plain: plain.result });

	it('says which it is, what the shallower ones said, and what it is not sure of', () => {
		expect(hot.result.depth).toBe('hot');
		for (const [i, f] of hot.result.features.entries()) {
			expect(f.quick).toBe(quick.result.features[i].predicted);
			expect(f.finalShape).toBe(plain.result.features[i].predicted);
			expect(f.low).toBeLessThanOrEqual(f.predicted);
			expect(f.high).toBeGreaterThanOrEqual(f.predicted);
		}
		expect(hot.result.features.some((f) => f.bandParts!.some((p) => p.label === 'what the arc does while it passes'))).toBe(true);
		// what nobody has measured of hot metal is in the band, by other metals, and is not sent on with the factors
		const flat = { label: 'what the arc does while it passes', ends: [quick.warmed().analysis], share: HOT_SHARE };
		const without = finalForecast(quick.watched(hot.result.hot!), { beside: [flat] });
		const width = (f: { low: number; high: number }) => f.high - f.low;
		expect(hot.result.features.some((f, i) => width(f) > 1.0001 * width(without.result.features[i]))).toBe(true);
		expect(Object.keys(hot.result.hot!).sort()).toEqual(['leftOut', 'seams']);
		expect(hot.shape.length).toBe(plain.shape.length);
	});
	it('two ends only swing the panel out of square more than the final shape knows; tacked closely it hardly does', () => {
		const angle = (p: PlanDocument) => {
			const q = forecast(p, { cache: new ForecastCache(kernel) });
			return Math.abs(hotForecast(q, { kernel, memory }).result.features.find((f) => f.kind === 'angle')!.predicted);
		};
		expect(angle(plan)).toBeGreaterThan(1.02 * angle(panel({ spacing: 20 })));
	});
	it('what was measured for a joint stays as it was given', () => {
		const given = structuredClone(plan);
		given.joints[0].response = { tendonForceN: 20_000, transverseShrinkageMm: 0.2, angularChangeRad: 0.01 } as (typeof given.joints)[0]['response'];
		const q = forecast(given, { cache: new ForecastCache(kernel) });
		const factors = hotFactors(given, { memory });
		const watched = q.watched(factors).result.features.map((f) => f.predicted);
		q.warmed().result.features.forEach((f, i) => expect(watched[i]).toBeCloseTo(f.predicted, 9));
	});
	deeply('carbon steel is said to do what the model does not know, and its band takes all that watching changes', () => {
		const steel = structuredClone(plan);
		for (const p of steel.parts) p.material = 'S235';
		const q = forecast(steel, { cache: new ForecastCache(kernel) });
		const { result } = hotForecast(q, { kernel, memory });
		expect(result.warnings.join(' ')).toMatch(/swells as it turns hard/);
		expect(hot.result.warnings.join(' ')).not.toMatch(/swells/);
		const plainly = finalForecast(q).result.features.find((f) => f.kind === 'angle')!;
		const watched = result.features.find((f) => f.kind === 'angle')!;
		expect(Math.abs(plainly.predicted - watched.predicted)).toBeGreaterThan(0.01);
		expect(watched.low).toBeLessThanOrEqual(plainly.predicted);
		expect(watched.high).toBeGreaterThanOrEqual(plainly.predicted);
	});
	it('a tee is left out by name and keeps its values', () => {
		const tee = newPlan('stiffened-plate', FAMILY_DEFAULTS['stiffened-plate']).plan!;
		tee.meshSizeMm = 30;
		const q = forecast(tee, { cache: new ForecastCache(kernel) });
		const factors = hotFactors(tee, { memory });
		expect(factors.seams).toEqual([]);
		expect(factors.leftOut.map((l) => l.words).join(' ')).toMatch(/runs on the face of a sheet/);
		q.watched(factors).result.features.forEach((f, i) => expect(f.predicted).toBe(q.warmed().result.features[i].predicted));
	});
});
