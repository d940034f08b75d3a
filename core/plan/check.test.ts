import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { readPlan } from '../reading/readPlan';
import type { PlanDocument } from '../document/schema';

const good = (): PlanDocument => JSON.parse(JSON.stringify(newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan));
/** Spoils a good plan in one place and returns what was found. */
const faults = (spoil: (p: PlanDocument) => void) => {
	const p = good();
	spoil(p);
	return readPlan(p).faults;
};
const only = (field: string, allowed: RegExp, spoil: (p: PlanDocument) => void) => {
	const found = faults(spoil);
	expect(found.map((f) => f.field)).toContain(field);
	expect(found.find((f) => f.field === field)!.allowed).toMatch(allowed);
};

describe('every bad input is named: field, value, what is allowed', () => {
	it('a good plan has no faults', () => expect(faults(() => {})).toEqual([]));
	it('zero, negative and NaN sizes', () => {
		only('parts[0].thicknessMm', /at least 0.3|number from/, (p) => (p.parts[0].thicknessMm = 0));
		only('parts[0].thicknessMm', /at least|number from/, (p) => (p.parts[0].thicknessMm = -2));
		only('parts[0].thicknessMm', /number/, (p) => (p.parts[0].thicknessMm = NaN));
		only('parts[0].outline', /points/, (p) => (p.parts[0].outline[0] = [NaN, 0]));
	});
	it('thickness above half the smallest side', () =>
		only('parts[1].thicknessMm', /half the smallest side \(3\.00 mm\)/, (p) => {
			p.parts[1].outline = [
				[0, 0],
				[301.5, 0],
				[301.5, 6],
				[0, 6]
			];
			p.parts[1].thicknessMm = 4;
			p.parts[1].bends = [];
		}));
	it('an outline that crosses itself, or has no area', () => {
		only(
			'parts[0].outline',
			/must not cross/,
			(p) =>
				(p.parts[0].outline = [
					[0, 0],
					[300, 0],
					[50, 200],
					[250, 220]
				])
		);
		only(
			'parts[0].outline',
			/area/,
			(p) =>
				(p.parts[0].outline = [
					[0, 0],
					[100, 0],
					[200, 0]
				])
		);
	});
	it('a hole beyond the outline, a bend off the part, a frame that is none, an unknown metal', () => {
		only(
			'parts[1].holes[0]',
			/inside the outline/,
			(p) =>
				(p.parts[1].holes = [
					[
						[290, 20],
						[330, 20],
						[330, 60]
					]
				])
		);
		only('parts[0].bends[0]', /edge to edge|1 mm long/, (p) => (p.parts[0].bends[0].to = [9000, 9000]));
		only('parts[0].frame', /two different directions/, (p) => (p.parts[0].frame.y = [2, 0, 0]));
		only('parts[0].material', /must be one of/, (p) => (p.parts[0].material = 'tin'));
	});
	it('a seam of no length, off its part, of unequal sides, or to a part that is not there', () => {
		only(
			'joints[0].a.path',
			/at least 2 mm/,
			(p) =>
				(p.joints[0].a.path = [
					[0, 0],
					[0, 0.5]
				])
		);
		only(
			'joints[0].a.path',
			/must lie on part/,
			(p) =>
				(p.joints[0].a.path = [
					[-50, 0],
					[-50, 301.5]
				])
		);
		only(
			'joints[0].b.path',
			/same length within 2 %/,
			(p) =>
				(p.joints[0].b.path = [
					[0, 0],
					[200, 0]
				])
		);
		only('joints[0].b.part', /id of a part/, (p) => (p.joints[0].b.part = 'ghost'));
	});
	it('runs beyond a seam’s end, of no length, or on top of each other; another pass is allowed', () => {
		only('runs[0].fromMm', /ends at 301\.5 mm/, (p) => (p.runs[0].fromMm = 400));
		only('runs[0].toMm', /at least 1 mm/, (p) => (p.runs[0].toMm = p.runs[0].fromMm));
		only('runs[1]', /overlaps run 1/, (p) => Object.assign(p.runs[1], { fromMm: p.runs[0].fromMm, toMm: p.runs[0].toMm }));
		expect(faults((p) => Object.assign(p.runs[1], { fromMm: p.runs[0].fromMm, toMm: p.runs[0].toMm, pass: 2 }))).toEqual([]);
	});
	it('tacks and hold-downs off their seam, lives that end before they begin or name no run', () => {
		only('tacks[0].stationMm', /0 to/, (p) => (p.tacks[0].stationMm = 5000));
		const clamp = {
			id: 'c',
			name: 'C',
			kind: 'clamp' as const,
			joint: 'bl',
			stationMm: 10,
			holds: 'all' as const,
			stiffnessNPerMm: 100,
			life: { on: 'start', off: 'when-cold' }
		};
		expect(faults((p) => p.holdDowns.push(clamp))).toEqual([]);
		// two in one place, unless one is off before the other comes on
		only('holdDowns[1]', /where “C” is/, (p) => p.holdDowns.push(clamp, { ...clamp, id: 'd', name: 'D' }));
		expect(faults((p) => p.holdDowns.push(clamp, { ...clamp, id: 'd', stationMm: 30 }))).toEqual([]);
		const bar = {
			id: 'b',
			name: 'B',
			kind: 'bar' as const,
			joint: 'bl',
			fromMm: 0,
			toMm: 40,
			material: 'copper' as const,
			widthMm: 40,
			thicknessMm: 10,
			contact: 'fair' as const
		};
		const [first, then] = [
			{ ...bar, life: { on: 'start', off: 'after-tacks' } },
			{ ...bar, id: 'b2', life: { on: 'after-tacks', off: 'when-cold' } }
		];
		expect(faults((p) => p.holdDowns.push(first, then))).toEqual([]);
		only('holdDowns[1]', /where “B” is/, (p) => p.holdDowns.push(first, { ...then, life: first.life }));
		expect(faults((p) => p.holdDowns.push(first, { ...then, life: first.life, fromMm: 40, toMm: 50 }))).toEqual([]);
		expect(faults((p) => p.holdDowns.push(first, { ...then, life: first.life, offsetMm: 40 }))).toEqual([]);
		only('holdDowns[0].stationMm', /must be on seam/, (p) => p.holdDowns.push({ ...clamp, stationMm: 900 }));
		only('holdDowns[0].stiffnessNPerMm', /at least 1/, (p) => p.holdDowns.push({ ...clamp, stiffnessNPerMm: 0 }));
		only('holdDowns[0].life.off', /after it goes on/, (p) => p.holdDowns.push({ ...clamp, life: { on: 'after-tacks', off: 'start' } }));
		only('holdDowns[0].life.on', /must be start/, (p) => p.holdDowns.push({ ...clamp, life: { on: 'before-run:nobody', off: 'when-cold' } }));
	});
	it('an impossible tolerance, a feature of points that are not there or twice the same', () => {
		only('features[0].tolerance.upper', /above 0/, (p) => (p.features[0].tolerance = { upper: 0, source: 'typed' }));
		only('features[2].points[1]', /differ/, (p) => Object.assign(p.features[2], { points: ['rim-fm', 'rim-fm'] }));
		only('features[2].points[0]', /named point/, (p) => Object.assign(p.features[2], { points: ['nowhere', 'rim-fm'] }));
		only('features[0].kind', /must be one of/, (p) => Object.assign(p.features[0], { kind: 'beauty' }));
	});
	it('ids used twice, unknown fields, what cannot be printed in names', () => {
		only('parts[1].id', /once only/, (p) => (p.parts[1].id = p.parts[0].id));
		only('joints[0].colour', /not known here/, (p) => Object.assign(p.joints[0], { colour: 'red' }));
		for (const bad of ['a\u0000b', 'a\nb', 'half \ud800']) only('joints[0].name', /without control characters/, (p) => (p.joints[0].name = bad));
		expect(faults((p) => (p.joints[0].name = '<img src=x> & "5 > 3" \u{1f525}'))).toEqual([]);
	});
});
