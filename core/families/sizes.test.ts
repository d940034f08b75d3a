/** Any sizes the catalogue allows: a family makes a sound piece of them, or says by name which size does not fit. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import { blankOf } from './blank';
import { CATALOGUE, FAMILY_DEFAULTS, MADE_FAMILIES, type MadeFamily } from '.';
import type { FamilyParameters, FieldDef } from './family';
import { familyFaults } from './readSizes';
import { newPlan } from './newPlan';

/** Values of one field, near its default as often as anywhere in its range: most sizes must go together to make a piece. */
function valuesOf(f: FieldDef, usual: FamilyParameters[string]): fc.Arbitrary<FamilyParameters[string]> {
	const number = (min: number, max: number, at: number) => {
		const tenths = (lo: number, hi: number) => fc.integer({ min: Math.ceil(lo * 10), max: Math.floor(hi * 10) }).map((v) => v / 10);
		return fc.oneof(tenths(Math.max(min, 0.6 * at), Math.min(max, Math.max(1.6 * at, min + 1))), tenths(min, max));
	};
	switch (f.kind) {
		case 'flag':
			return fc.boolean();
		case 'word':
			return fc.constantFrom(...Object.keys(f.options));
		case 'count':
			return fc.integer({ min: f.min, max: f.max });
		case 'lengths':
			return fc.array(number(f.min, f.max, (usual as number[])[0]), { minLength: f.atLeast, maxLength: f.atMost });
		default:
			// 0 leaves a fitting out; where that is usual it is tried as often as a size that fits most pieces
			return usual === 0 ? fc.oneof(fc.constant(0), number(f.min, f.max, Math.min(60, f.max / 2))) : number(f.min, f.max, usual as number);
	}
}
const sizesOf = (kind: MadeFamily): fc.Arbitrary<FamilyParameters> =>
	fc
		.record({
			...Object.fromEntries(CATALOGUE[kind].fields.map((f) => [f.name, valuesOf(f, FAMILY_DEFAULTS[kind][f.name])])),
			thicknessMm: fc.constantFrom(0.8, 1, 1.2, 1.5, 2, 3)
		})
		.map((p) => ({ ...p, material: '1.4301' }) as FamilyParameters);

describe('any sizes', () => {
	it.each(MADE_FAMILIES)('%s: a sound piece, or the size that does not fit by its name', (kind) => {
		let sound = 0;
		fc.assert(
			fc.property(sizesOf(kind), (sizes) => {
				const { plan, faults } = newPlan(kind, sizes);
				if (!plan) {
					expect(faults.length).toBeGreaterThan(0);
					for (const f of faults) {
						const names = [...CATALOGUE[kind].fields.map((x) => `family.parameters.${x.name}`), 'family.parameters.thicknessMm', 'family.parameters'];
						expect(names).toContain(f.field);
						expect(f.allowed.length).toBeGreaterThan(3);
					}
					return;
				}
				sound++;
				expect(checkPlan(plan)).toEqual([]);
				expect(familyFaults(plan)).toEqual([]);
				const largest = Math.max(...Object.values(sizes).filter((v) => typeof v === 'number'));
				const mesh = assemblyMesh(plan);
				expect(mesh.xyz.every(Number.isFinite)).toBe(true);
				for (const s of mesh.seams) {
					expect(s.lengthMm, s.joint.name).toBeGreaterThan(1);
					// edges that are to be welded lie on one another, but for the step of a lap and the sides of a ring of 48 (0.2 % of its radius)
					const apart = Math.max(...s.frames.map((f) => Math.hypot(...f.offset)));
					expect(apart, s.joint.name).toBeLessThan(s.joint.type === 'lap' ? plan.parts[0].thicknessMm + 0.01 : 0.1 + 0.0025 * largest);
				}
				for (const part of plan.parts) {
					const blank = blankOf(part, plan);
					expect(blank.weightKg, part.name).toBeGreaterThan(0);
					expect(Number.isFinite(blank.widthMm + blank.heightMm + blank.areaMm2), part.name).toBe(true);
				}
				// every metre of seam is in the order once: no run missing, none twice
				for (const j of plan.joints.filter((x) => !x.stock)) {
					const welded = plan.runs.filter((r) => r.joint === j.id).reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0);
					const length = mesh.seams.find((s) => s.joint.id === j.id)!.lengthMm;
					expect(Math.abs(welded - length), j.name).toBeLessThan(0.01 * length + 0.5);
				}
			}),
			{ numRuns: 24, seed: 1906 }
		);
		// the test says nothing where hardly anything fits
		expect(sound).toBeGreaterThan(2);
	});
});
