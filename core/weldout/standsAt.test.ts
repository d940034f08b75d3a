import { describe, expect, it } from 'vitest';
import { newPlan } from '../families/newPlan';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { standsOf, standWords } from './standsAt';

const made = (kind: MadeFamily, sizes: object) => newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...sizes }).plan!;
const words = (plan: ReturnType<typeof made>) =>
	standWords(
		standsOf(plan, plan.joints),
		(id) => plan.parts.find((p) => p.id === id)!.name,
		(mm) => `${Number(mm.toFixed(1))} mm`
	);

describe('where a sheet stands', () => {
	it('one bar in the middle of a plate: half its width from either edge, once for both its fillets', () => {
		const plan = made('stiffened-plate', { lengthMm: 400, widthMm: 240, stiffenerHeightMm: 50, stiffeners: 1, bothSides: true });
		expect(words(plan)).toEqual(['Mark on Plate a line halfway, 120 mm from the edge, from the edge to the edge: the middle of Web on it.']);
	});
	it('two bars divide it in three', () => {
		const said = words(made('stiffened-plate', { lengthMm: 400, widthMm: 240, stiffenerHeightMm: 50, stiffeners: 2, bothSides: false }));
		expect(said).toHaveLength(2);
		for (const s of said) expect(s).toMatch(/80 mm from the edge \(160 mm from the other edge\)/);
	});
	it('a lap: the overlap in from the lower sheet’s edge; the edge goes to it, on both sheets where both are welded', () => {
		const [lower, upper] = words(made('lap-panel', { widthsMm: [200, 180], lengthMm: 300, overlapMm: 25, bothEdges: true }));
		expect(lower).toMatch(/Mark on Lower.*25 mm from the edge \(175 mm from the other edge\).*the edge of Upper/);
		expect(upper).toMatch(/Mark on Upper.*25 mm from the edge \(155 mm from the other edge\).*the edge of Lower/);
	});
	it('edges that meet edges, and a patch in its hole, show by themselves where they go', () => {
		expect(words(made('butt-panel', { widthsMm: [100, 100], lengthMm: 200 }))).toEqual([]);
		expect(words(made('patched-panel', {}))).toEqual([]);
	});
	it('a ring on a duct: as far in from the end as it stands', () => {
		const [ring] = words(made('collar', { shape: 'round', ductMm: 100, ductLengthMm: 150, ringMm: 40, standMm: 4, bothSides: false }));
		expect(ring).toMatch(/Mark on Duct a line 4 mm from the edge \(146 mm from the other edge\)/);
	});
	it('baffles in a folded body: measured from its ends, from fold to fold on the floor and up to below the rim on both walls', () => {
		const plan = made('open-trough', { lengthMm: 900, widthMm: 300, depthMm: 250, baffles: 2 });
		const said = words(plan);
		expect(said).toHaveLength(2);
		for (const s of said) {
			expect(s).toMatch(
				/a line 300[.0-9]* mm from the edge \(60[01][.0-9]* mm from the other edge\), from the fold to the fold, 2 times from the fold to [0-9.]+ mm short/
			);
		}
	});
	it('walls that are marked alike are told together', () => {
		const plan = made('open-trough', {
			body: 'five-plates',
			lengthMm: 320,
			widthMm: 220,
			depthMm: 140,
			rimFlangeMm: 0,
			baffles: 1,
			baffleHeightMm: 90
		});
		const said = words(plan);
		expect(said).toHaveLength(2);
		expect(said[1]).toMatch(/^Mark on Front side and Back side a line halfway/);
	});
	it('a bent line is marked piece by piece; a ring by its middle', () => {
		const plan = made('stiffened-plate', { lengthMm: 400, widthMm: 240, stiffenerHeightMm: 50, stiffeners: 1, bothSides: false });
		const [joint] = plan.joints;
		const bent = {
			...joint,
			b: {
				...joint.b,
				path: [
					[100, 60],
					[200, 60],
					[200, 140]
				] as [number, number][]
			}
		};
		const ring = Array.from({ length: 33 }, (_, i): [number, number] => {
			const a = (2 * Math.PI * (i % 32)) / 32;
			return [150 + 40 * Math.cos(a), 100 + 40 * Math.sin(a)];
		});
		const [two] = standsOf(plan, [bent]);
		expect(two.marks).toHaveLength(2);
		expect(two.marks[0]).toMatchObject({ is: 'line', before: { mm: 100, from: 'edge' }, beyond: { mm: 200, from: 'edge' } });
		const [round] = standsOf(plan, [{ ...joint, b: { ...joint.b, path: ring } }]);
		expect(round.marks).toHaveLength(1);
		const [mark] = round.marks;
		if (mark.is !== 'circle') throw new Error('a ring is marked by its middle');
		expect(mark.diameterMm).toBeCloseTo(80, 6);
		// in a plate of 400 by 240
		expect(mark.across[0].mm).toBeCloseTo(150, 6);
		expect(mark.across[1].mm).toBeCloseTo(250, 6);
		expect(mark.up[0].mm).toBeCloseTo(100, 6);
		expect(mark.up[1].mm).toBeCloseTo(140, 6);
	});
});
