/** A floor that has waved by more than its thickness, scanned from both sides, from one, and as a mesh: with the answer known. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { fieldOf } from './field';
import type { Motion } from './motion';
import { cloudOf } from './simulate';
import { surfaceOf, type Hit } from './surface';
import { tryAll } from './testing';

const panel = newPlan('butt-panel', FAMILY_DEFAULTS['butt-panel']).plan!;
panel.meshSizeMm = 45;
const mesh = assemblyMesh(panel);
const surface = surfaceOf(mesh, tryAll(mesh));
const half = panel.parts[0].thicknessMm / 2;
const STILL: Motion = { r: [1, 0, 0, 0, 1, 0, 0, 0, 1], t: [0, 0, 0] };
const [long, wide] = [0, 1].map((d) => Math.max(...Array.from({ length: mesh.nodeCount }, (_, k) => mesh.xyz[3 * k + d])));

/** One half wave along and across, `mm` high, and as much again all over. */
const waved = (mm: number, lift = 0) =>
	Float64Array.from({ length: 3 * mesh.nodeCount }, (_, i) => {
		if (i % 3 !== 2) return 0;
		const [x, y] = [mesh.xyz[i - 2], mesh.xyz[i - 1]];
		return lift + mm * Math.sin((2 * Math.PI * x) / long) * Math.cos((2 * Math.PI * y) / wide);
	});
const seenFrom = (u: Float64Array, face: 1 | -1, count = 6000) => cloudOf(mesh, { count, u, face, noiseMm: 0.03 });
const both = (u: Float64Array, front: number, back: number) => Float32Array.from([...seenFrom(u, 1, front), ...seenFrom(u, -1, back)]);
/** Furthest that a node's height is told wrong, mm. */
const worst = (found: Float64Array, u: Float64Array) => {
	let most = 0;
	for (let i = 2; i < u.length; i += 3) most = Math.max(most, Math.abs(found[i] - u[i]));
	return most;
};
const far = waved(4 * half);

describe('which face each point is of', () => {
	it('seen from both sides: told, however far the sheet has moved', () => {
		expect(half).toBeGreaterThan(0.4);
		for (const [front, back] of [
			[6000, 6000],
			[9000, 3000]
		]) {
			const field = fieldOf(both(far, front, back), STILL, surface, mesh, { side: 'either' });
			expect(field.unsure).toEqual([]);
			expect(worst(field.u, far), `${front} and ${back}`).toBeLessThan(0.25 * half);
			// two layers taken for one would leave half the thickness
			expect(field.scatter).toBeLessThan(0.15 * half);
		}
	});
	it('seen from both sides over one half only, and from the front over the other: the rest follows', () => {
		const cloud: number[] = [...seenFrom(far, 1)];
		const back = seenFrom(far, -1);
		for (let i = 0; i < back.length; i += 3) if (back[i] < 0.5 * long) cloud.push(back[i], back[i + 1], back[i + 2]);
		const field = fieldOf(Float32Array.from(cloud), STILL, surface, mesh, { side: 'either' });
		expect(worst(field.u, far)).toBeLessThan(0.3 * half);
	});
	it('from one side: told where it has hardly moved, asked about where it has moved far', () => {
		const near = waved(0.3 * half);
		const told = fieldOf(seenFrom(near, 1), STILL, surface, mesh, { side: 'either' });
		expect(told.unsure).toEqual([]);
		expect(worst(told.u, near)).toBeLessThan(0.25 * half);
		expect(fieldOf(seenFrom(far, 1), STILL, surface, mesh, { side: 'either' }).unsure).toContain(0);
	});
	it('as a mesh: by the way it is wound, inside out or not; its edges are of no face', () => {
		const u = waved(4 * half, -1.3 * half);
		const cloud = both(u, 5000, 5000);
		const hit: Hit = { x: 0, y: 0, z: 0, tri: 0 };
		for (const wound of [1, -1]) {
			const normals = new Float32Array(cloud.length);
			for (let i = 0; i < cloud.length; i += 3) {
				surface.nearest(cloud[i], cloud[i + 1], cloud[i + 2], hit);
				for (let d = 0; d < 3; d++) normals[i + d] = wound * (i < 15_000 ? 1 : -1) * surface.normals[3 * hit.tri + d];
			}
			// an edge, out of the plane of everything
			const edged = { cloud: Float32Array.from([...cloud, ...seenFrom(waved(0, 6 * half), 1, 300)]), normals: new Float32Array(cloud.length + 900) };
			edged.normals.set(normals);
			for (let i = cloud.length; i < edged.normals.length; i += 3) edged.normals[i] = 1;
			const field = fieldOf(edged.cloud, STILL, surface, mesh, { side: 'either', normals: edged.normals });
			expect(worst(field.u, u), String(wound)).toBeLessThan(0.25 * half);
			expect(field.unsure).toEqual([]);
		}
	});
});
