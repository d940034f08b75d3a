/** Blanks out and in again: outlines, holes, bends, seams and marks of every family come back to the same piece. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '../families';
import { newPlan } from '../families/newPlan';
import { etchMarks } from './etchMarks';
import { etchedDxf } from './blankDxf';
import { readDxf } from './dxfIn';
import { distance } from '../geometry/vec';
import { seamsInSpace } from '../layout/space';
import { checkPlan } from '../plan/check';
import { isRefusal } from '../refusal/refusal';
import { ownPiece } from './ownPiece';

const oversize = (): [number, number] => [0.8, 0.35];
const roundTrip = (p: PlanDocument) => {
	const read = readDxf(etchedDxf(p, oversize));
	expect(read.faults).toEqual([]);
	return { read, back: ownPiece(read, 0.6)! };
};
/** the same ring, wherever it begins and whichever way it goes round */
const sameRing = (a: readonly (readonly number[])[], b: readonly (readonly number[])[]) =>
	a.length === b.length && a.every((p) => b.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < 2e-3));

const CASES: [string, (typeof MADE_FAMILIES)[number], object][] = [
	...MADE_FAMILIES.map((f): [string, (typeof MADE_FAMILIES)[number], object] => [f, f, {}]),
	['tank with everything', 'open-trough', { baffles: 2, crossBreakMm: 3, stiffeners: 2, portMm: 60, sumpMm: 80, lid: true }],
	['folded from one, rim turned out', 'open-trough', { body: 'cross-blank', rimFlangeMm: 25 }],
	['courses with ends', 'cylinder', { courses: 2, bottom: 'conical', top: 'dished', portMm: 60 }],
	['enclosure on feet', 'enclosure', { standOffMm: 40, doorFrame: true }]
];

describe('blanks of the program’s own', () => {
	it.each(CASES)('%s: the same parts, bends and seams', (_, family, more) => {
		const p = newPlan(family, { ...FAMILY_DEFAULTS[family], ...more } as never).plan!;
		const { read, back } = roundTrip(p);
		expect(checkPlan(back)).toEqual([]);
		expect(back.parts.map((x) => [x.id, x.material, x.thicknessMm])).toEqual(p.parts.map((x) => [x.id, x.material, x.thicknessMm]));
		p.parts.forEach((part, i) => {
			const got = back.parts[i];
			expect(sameRing(got.outline, part.outline), `outline of ${part.name}`).toBe(true);
			expect(got.holes.length).toBe(part.holes.length);
			part.holes.forEach((h) =>
				expect(
					got.holes.some((g) => sameRing(g, h)),
					`hole of ${part.name}`
				).toBe(true)
			);
			part.bends.forEach((b, k) => {
				expect([got.bends[k].id, got.bends[k].angleDeg, got.bends[k].insideRadiusMm]).toEqual([b.id, b.angleDeg, b.insideRadiusMm]);
				for (const end of ['from', 'to'] as const)
					expect(Math.hypot(got.bends[k][end][0] - b[end][0], got.bends[k][end][1] - b[end][1]), `bend ${b.id} of ${part.name}`).toBeLessThan(2e-3);
			});
			expect(read.flats.length).toBe(p.parts.length);
		});
		// every seam of the same kind, and at the same places in space
		const [was, is] = [seamsInSpace(p), seamsInSpace(back)];
		expect(is.map((s) => [s.joint.id, s.joint.type, s.joint.settings])).toEqual(was.map((s) => [s.joint.id, s.joint.type, s.joint.settings]));
		was.forEach((s, i) => {
			expect(Math.abs(is[i].lengthMm - s.lengthMm), s.joint.name).toBeLessThan(0.01);
			for (const share of [0, 0.3, 1]) expect(distance(is[i].at(share * is[i].lengthMm), s.at(share * s.lengthMm)), s.joint.name).toBeLessThan(0.05);
		});
		const lines = p.parts.flatMap((part) => etchMarks(p, part.id, new Map())).filter((m) => m.from[0] !== m.to[0] || m.from[1] !== m.to[1]);
		const strayed = read.unused.filter((u) => /^A mark/.test(u.words)).length;
		expect(read.flats.reduce((n, f) => n + f.marks.length, 0) + strayed).toBe(lines.length);
	});
	it('a drawing of somebody else’s is no piece; notes that do not go with their lines are refused in words', () => {
		const p = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'] }).plan!;
		const text = etchedDxf(p, oversize);
		const stranger = readDxf(text.replaceAll('PIECE_DATA', 'OTHER_TEXT'));
		expect(ownPiece(stranger, 0.6)).toBeUndefined();
		const read = readDxf(text);
		read.own.seams.pop();
		let said: unknown;
		try {
			ownPiece(read, 0.6);
		} catch (e) {
			said = e;
		}
		expect(isRefusal(said)).toBe(true);
		expect((said as Error).message).toMatch(/PIECE layers/);
	});
});
