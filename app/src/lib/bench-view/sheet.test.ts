/** The drawn solid: true thickness, closed rim, round where the sheet is, sharp where it is folded. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { SheetShape } from './sheet';

function solid(family: 'butt-panel' | 'cylinder' | 'open-trough', more: object = {}) {
	const plan = newPlan(family, { ...FAMILY_DEFAULTS[family], ...more } as never).plan!;
	const mesh = assemblyMesh(plan);
	const shape = new SheetShape(mesh, (p) => plan.parts[p].thicknessMm);
	const [position, normal] = [new Float32Array(3 * shape.corners), new Float32Array(3 * shape.corners)];
	shape.fill(mesh.xyz, position, normal);
	return { plan, mesh, shape, position, normal };
}
/** of the closed surface, by the divergence theorem */
function volume(position: Float32Array): number {
	let v = 0;
	for (let k = 0; k < position.length; k += 9) {
		const [a, b, c] = [0, 3, 6].map((o) => [position[k + o], position[k + o + 1], position[k + o + 2]]);
		v += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
	}
	return v;
}

describe('the sheet as it is drawn', () => {
	it('a flat panel encloses its area times its thickness', () => {
		const { plan, position } = solid('butt-panel', { widthsMm: [200, 150], lengthMm: 300, thicknessMm: 2 });
		expect(plan.parts).toHaveLength(2);
		// single precision on 300 mm
		expect(Math.abs(Math.abs(volume(position)) / (350 * 300 * 2) - 1)).toBeLessThan(2e-3);
	});
	it('a tube is shaded round: normals point from its axis', () => {
		const { position, normal, mesh, plan } = solid('cylinder');
		const tube = plan.parts.findIndex((p) => p.roll);
		let worst = 1;
		for (let k = 0; k < mesh.tri.length; k++) {
			if (mesh.triPart[Math.floor(k / 3)] !== tube) continue;
			const [x, y] = [position[3 * k], position[3 * k + 1]];
			worst = Math.min(worst, Math.abs((x * normal[3 * k] + y * normal[3 * k + 1]) / Math.hypot(x, y)));
		}
		// at the tube's own seam one facet's normal is all there is
		expect(worst).toBeGreaterThan(0.97);
	});
	it('a fold stays sharp', () => {
		const { normal, mesh } = solid('open-trough', { rimFlangeMm: 0 });
		for (let k = 0; k < mesh.tri.length; k++) {
			const n = [normal[3 * k], normal[3 * k + 1], normal[3 * k + 2]].map(Math.abs);
			expect(Math.max(...n)).toBeGreaterThan(0.999);
		}
	});
});
