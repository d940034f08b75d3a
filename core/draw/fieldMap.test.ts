/** The piece coloured by how far its sheets stand off the drawing. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { fieldMapSvg, fieldScaleSvg, offDrawing } from './fieldMap';
import { colourOf } from './heightMap';

const trough = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], rimFlangeMm: 0 }).plan!;
trough.meshSizeMm = 60;
const mesh = assemblyMesh(trough);
const moved = (by: readonly [number, number, number]) => Float64Array.from({ length: 3 * mesh.nodeCount }, (_, i) => by[i % 3]);
/** Area of the triangles on a part, mm2, by the heights and sides they are drawn with. */
const flatTo = (axis: number) =>
	Array.from({ length: mesh.tri.length / 3 }, (_, e) => e).filter(
		(e) => new Set([0, 1, 2].map((k) => mesh.xyz[3 * mesh.tri[3 * e + k] + axis].toFixed(6))).size === 1
	);

describe('off the drawing', () => {
	it('a piece lifted as a whole: its floor by all of it one way or the other, its upright walls not at all', () => {
		const off = offDrawing(mesh, moved([0, 0, 2]));
		const floor = flatTo(2);
		const walls = [...flatTo(0), ...flatTo(1)];
		expect(floor.length).toBeGreaterThan(10);
		expect(walls.length).toBeGreaterThan(10);
		for (const e of floor) expect(Math.abs(off[e])).toBeCloseTo(2, 6);
		for (const e of walls) expect(off[e]).toBeCloseTo(0, 6);
		// every triangle of one sheet has its front on the same side
		expect(new Set(floor.map((e) => Math.sign(off[e]))).size).toBe(1);
	});
	it('the picture draws every triangle once, what is far first, and names the ends of its scale', () => {
		const off = offDrawing(mesh, moved([0, 0, 2]));
		const svg = fieldMapSvg(mesh, off, 2, 0, 300);
		const scale = fieldScaleSvg(2, 200, (mm) => `${mm.toFixed(2)} mm`);
		expect(svg.match(/<path /g)!.length).toBe(mesh.tri.length / 3);
		expect(scale).toContain('>-2.00 mm<');
		expect(scale).toContain('>+2.00 mm<');
		expect(svg).not.toMatch(/NaN|undefined/);
		const colours = new Set([...svg.matchAll(/<path [^>]*fill="(#[0-9a-f]+)"/g)].map((m) => m[1]));
		expect(colours).toContain(colourOf(0, 2));
		expect(colours).toContain(colourOf(2 * Math.sign(off[flatTo(2)[0]]), 2));
		// seen from above one corner the last thing drawn is not the floor, which lies under everything
		const last = svg.lastIndexOf('<path ');
		expect(svg.slice(last, last + 200)).not.toContain(`fill="${colourOf(2 * Math.sign(off[flatTo(2)[0]]), 2)}"`);
	});
});
