/** Every kind of hold-down answers for itself: it is sound where it is put, it changes what is forecast, and it is named. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import { checkPlan } from '../plan/check';
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { HOLD_DOWN_KINDS, type HoldDownKind } from '../document/words';
import { HOLDS, holdKind } from '.';

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
		'table-tack': { part: a.id, at: middle(a), stiffnessNPerMm: 50_000 },
		weight: { part: a.id, at: middle(a), massKg: 10 },
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
		const grips = holdKind(h).grips(h);
		const spots = holdKind(h)
			.spots(h)
			.map((s) => s.id);
		const used = grips.flatMap((g) => (g.by === 'spot' ? [g.spot] : g.by === 'member' && g.along === 'spots' ? [...g.spots] : []));
		expect([...used].sort()).toEqual([...spots].sort());
		expect(holdKind(h).line(h) !== undefined).toBe(grips.some((g) => g.by === 'member' && g.along === 'line'));
		if (!grips.length) expect(kind).toBe('bar');
		expect(record.name.length).toBeGreaterThan(3);
		expect(['seam', 'part']).toContain(record.on);
	});
	it('on what is not there it is a fault with its field named', () => {
		const plan = base();
		const h = held(kind)[0] as unknown as Record<string, unknown>;
		plan.holdDowns = [{ ...h, ...('joint' in h ? { joint: 'none' } : { part: 'none' }) } as unknown as AnyHoldDown];
		expect(checkPlan(plan).map((f) => f.field)).toContain('joint' in h ? 'holdDowns[0].joint' : 'holdDowns[0].part');
	});
});
