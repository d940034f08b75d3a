/** Every kind of hold-down answers for itself: it is sound where it is put, it changes what is forecast, and it is named. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { schedule } from '../forecast/schedule';
import { kernelFactory } from '../linalg/kernel/kernel';
import { findMaterial } from '../materials/grades';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import { condense } from '../staging/condense';
import type { AnyHoldDown, HoldingTable, PlanDocument } from '../document/schema';
import { HOLD_DOWN_KINDS, type HoldDownKind } from '../document/words';
import { blocksOf, HOLDS, holdKind } from '.';
import { placesOnTable } from './holding-table';

const kernel = kernelFactory(WebAssembly);
const base = (): PlanDocument => {
	const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!;
	// two tacks leave the pair free enough for every kind to have something to hold
	return { ...plan, meshSizeMm: 30, tacks: plan.tacks.filter((_, i) => i < 2) };
};
/** @param kind without an entry does not compile */
function held(kind: HoldDownKind): AnyHoldDown[] {
	const plan = base();
	const [a, b] = plan.parts;
	const joint = plan.joints[0].id;
	const middle = (p: typeof a): [number, number] => [
		p.outline.reduce((s, q) => s + q[0], 0) / p.outline.length,
		p.outline.reduce((s, q) => s + q[1], 0) / p.outline.length
	];
	const by: Record<HoldDownKind, object> = {
		bar: { joint, fromMm: 0, toMm: 240, material: 'copper', widthMm: 40, thicknessMm: 10, contact: 'tight' },
		clamp: { joint, stationMm: 120, holds: 'normal', stiffnessNPerMm: 5000 },
		jig: { joint, fromMm: 0, toMm: 240, holds: 'normal', stiffnessNPerMm: 5000 },
		support: { part: a.id, at: middle(a), holds: 'normal', stiffnessNPerMm: 5000 },
		bolts: {
			part: a.id,
			places: [
				[middle(a)[0], middle(a)[1] - 60],
				[middle(a)[0], middle(a)[1] + 60]
			],
			holeMm: 8,
			stiffnessNPerMm: 100_000
		},
		'table-tack': { part: a.id, at: middle(a), stiffnessNPerMm: 50_000 },
		weight: { part: a.id, at: middle(a), massKg: 10 },
		'holding-table': {
			parts: [a.id, b.id],
			by: 'vacuum',
			material: 'aluminium',
			thicknessMm: 20,
			contact: 'fair',
			pitchMm: 60,
			stiffnessNPerMm: 5000
		},
		brace: { part: a.id, at: middle(a), partB: b.id, atB: middle(b), areaMm2: 200, iMm4: 5000, eModulusMPa: 200_000 },
		strongback: {
			part: a.id,
			path: [
				[middle(a)[0], middle(a)[1] - 80],
				[middle(a)[0], middle(a)[1] + 80]
			],
			areaMm2: 240,
			iOutMm4: 32_000,
			iInMm4: 720,
			torsionMm4: 2880,
			eModulusMPa: 200_000,
			offsetMm: 20,
			pitchMm: 40
		}
	};
	const one = { id: 'h', name: 'Held', kind, life: { on: 'start', off: 'stays' }, ...by[kind] } as AnyHoldDown;
	if (!('at' in one) || kind === 'brace') return [one];
	// a single place holds nothing against bending: four of them
	return [a, b].flatMap((p, i) =>
		[-90, 90].map((dy) => ({ ...one, id: `h${i}${dy > 0 ? 'u' : 'l'}`, part: p.id, at: [middle(p)[0], middle(p)[1] + dy] }) as AnyHoldDown)
	);
}
const SHEETS = (plan: PlanDocument) =>
	plan.parts.map((p) => {
		const m = findMaterial(p.material);
		return { eModulus: m.eModulus, poisson: m.poisson, thickness: p.thicknessMm };
	});
const values = (plan: PlanDocument) => forecast(plan, { cache: new ForecastCache(kernel) }).result.features.map((f) => f.predicted);

describe.each(HOLD_DOWN_KINDS)('%s', (kind) => {
	const record = HOLDS[kind];
	it('is sound where it is put, and a forecast is another with it', () => {
		const plan = base();
		const free = values(plan);
		plan.holdDowns = held(kind);
		expect(checkPlan(plan)).toEqual([]);
		const with_ = values(plan);
		expect(with_.every(Number.isFinite)).toBe(true);
		const most = Math.max(...with_.map((v, i) => Math.abs(v - free[i])));
		expect(most, `${kind} changes nothing`).toBeGreaterThan(1e-4);
	});
	it('needs nodes only where it then grips, and one that grips nothing acts by its heat', () => {
		const [h] = held(kind);
		const plan = base();
		const grips = holdKind(h).grips(h, plan);
		const spots = holdKind(h)
			.spots(h, plan)
			.map((s) => s.id);
		const used = grips.flatMap((g) => (g.by === 'spot' ? [g.spot] : g.by === 'member' && g.along === 'spots' ? [...g.spots] : []));
		expect([...used].sort()).toEqual([...spots].sort());
		expect(holdKind(h).line(h) !== undefined).toBe(grips.some((g) => g.by === 'member' && g.along === 'line'));
		if (!grips.length) expect(holdKind(h).blocks(h, plan).length).toBeGreaterThan(0);
		expect(record.name.length).toBeGreaterThan(3);
		expect(['seam', 'part']).toContain(record.on);
	});
	it('on what is not there it is a fault with its field named', () => {
		const plan = base();
		const h = held(kind)[0] as unknown as Record<string, unknown>;
		plan.holdDowns = [
			{ ...h, ...('joint' in h ? { joint: 'none' } : 'parts' in h ? { parts: ['none'] } : { part: 'none' }) } as unknown as AnyHoldDown
		];
		expect(checkPlan(plan).map((f) => f.field)).toContain(`holdDowns[0].${'joint' in h ? 'joint' : 'parts' in h ? 'parts[0]' : 'part'}`);
	});
});

it('a jig holds from where it begins to where it ends, and nothing before it', () => {
	const jig = (fromMm: number, toMm: number) => {
		const plan = base();
		plan.holdDowns = held('jig').map((h) => ({ ...h, fromMm, toMm }) as AnyHoldDown);
		const mesh = assemblyMesh(plan);
		return condense(plan, mesh, SHEETS(plan), [], () => {}, kernel).holdRows.get('h')!.length;
	};
	// two sheets at each pair, held flat only: a row each; pairs some 20 mm apart on 240
	const whole = jig(0, 240);
	expect(jig(180, 240)).toBeLessThan(0.4 * whole);
	expect(jig(0, 60)).toBe(jig(180, 240));
});

describe('a table that draws sheets down', () => {
	const on = (change: object = {}) => {
		const plan = base();
		plan.holdDowns = held('holding-table').map((h) => ({ ...h, life: { on: 'start', off: 'when-cold' }, ...change }) as AnyHoldDown);
		return plan;
	};
	const made = (plan: PlanDocument) => forecast(plan, { cache: new ForecastCache(kernel) }).result;
	const turned = (plan: PlanDocument, moment: 'cold' | 'unclamped') =>
		Math.abs(made(plan).features.find((f) => f.kind === 'angle')!.moments[moment].predicted);

	it('holds the panel flat while it is on, and lets go of less than the free panel turns', () => {
		// held flat a butt turns less, and springs back when let go (common practice, no source)
		const free = turned(base(), 'unclamped');
		expect(turned(on(), 'cold')).toBeLessThan(0.2 * free);
		expect(turned(on(), 'unclamped')).toBeLessThan(free);
		expect(turned(on(), 'unclamped')).toBeGreaterThan(turned(on(), 'cold'));
	});
	it('takes heat like a bar of the same metal, width and contact, from seams between two of its sheets only', () => {
		const table = on();
		const [b] = blocksOf(table);
		expect([b.joint, b.toMm]).toEqual([table.joints[0].id, 240]);
		const bar = on();
		bar.holdDowns.push({ ...b, id: 'bar' } as AnyHoldDown);
		// of two behind one seam the first is the one that touches: the seam's force is that of the table alone
		const force = (p: PlanDocument) => made(p).seams[0].tendonForceN;
		expect(force(table)).toBeCloseTo(force(bar), 6);
		expect(force(table)).not.toBeCloseTo(force({ ...base(), holdDowns: [] }), 0);
		expect(blocksOf(on({ parts: [table.parts[0].id] }))).toEqual([]);
	});
	it('behind several seams it is one line of the heat all the same', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [100, 100, 100], lengthMm: 160 }).plan!;
		plan.holdDowns = held('holding-table').map((h) => ({ ...h, parts: plan.parts.map((p) => p.id) }) as AnyHoldDown);
		expect(blocksOf(plan)).toHaveLength(2);
		const { bars } = schedule(plan, assemblyMesh(plan));
		expect(bars.map((b) => b.bar)).toEqual(['h']);
		expect(bars[0].peakC).toBeGreaterThan(plan.ambientC);
	});
	it('by magnets it holds what a magnet draws', () => {
		expect(checkPlan(on({ by: 'magnet' })).map((f) => [f.field, f.allowed.slice(0, 14)])).toContainEqual(['holdDowns[0].by', 'must be vacuum']);
		const mild = on({ by: 'magnet' });
		mild.parts.forEach((p) => (p.material = 'S235'));
		expect(checkPlan(mild)).toEqual([]);
	});
	it('under no sheet it is a fault, before anything is stored', () =>
		expect(checkPlan(on({ parts: [] })).map((f) => f.field)).toEqual(['holdDowns[0].parts']));
	it('keeps off edges and holes, and a folded sheet does not lie on it', () => {
		const plan = on();
		const part = plan.parts[0];
		part.holes = [
			[
				[20, 20],
				[100, 20],
				[100, 100],
				[20, 100]
			]
		];
		const places = placesOnTable(plan.holdDowns[0] as HoldingTable, plan.parts).filter((p) => p.part === part.id);
		expect(places.length).toBeGreaterThan(0);
		for (const { at } of places) expect(at[0] > 20 - 5 && at[0] < 105 && at[1] > 20 - 5 && at[1] < 105).toBe(false);
		part.bends = [{ id: 'b', from: [60, 0], to: [60, 240], angleDeg: 90, insideRadiusMm: 2 }];
		expect(
			checkPlan(plan)
				.map((f) => f.allowed)
				.join()
		).toMatch(/must be a flat sheet/);
	});
});
