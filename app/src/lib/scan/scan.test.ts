/** Files as scanners write them, and the tree of nearest places against every triangle tried. */
import { describe, expect, it } from 'vitest';
import { BufferAttribute, BufferGeometry, Mesh } from 'three';
import { STLExporter } from 'three/addons/exporters/STLExporter.js';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { uniformFrom } from '$core/linalg/random';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import type { Hit } from '$core/scan/surface';
import { tryAll } from '$core/scan/testing';
import { readCloud } from './readCloud';
import { treeOf } from './tree';

const bytes = (text: string) => new TextEncoder().encode(text).buffer;

describe('a scanner’s file', () => {
	const points = [0, 0, 0, 10, 0.5, 0, 0, 10, 2.25];
	it('as text, as PLY in text and in bytes: the same points', () => {
		expect([...readCloud('a.XYZ', bytes('0 0 0\n10 0.5 0\n0 10 2.25\n')).points]).toEqual(points);
		const head = (format: string) =>
			`ply\nformat ${format} 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n`;
		expect(readCloud('a.ply', bytes(`${head('ascii')}0 0 0\n10 0.5 0\n0 10 2.25\n`))).toEqual({ points: Float32Array.from(points) });
		const start = new TextEncoder().encode(head('binary_little_endian'));
		const whole = new Uint8Array(start.length + 36);
		whole.set(start);
		points.forEach((v, i) => new DataView(whole.buffer).setFloat32(start.length + 4 * i, v, true));
		expect([...readCloud('a.ply', whole.buffer).points]).toEqual(points);
	});
	it('as STL, from another program’s writer: each corner once', () => {
		const g = new BufferGeometry();
		g.setAttribute('position', new BufferAttribute(Float32Array.from([...points, ...points]), 3));
		const stl = new STLExporter().parse(new Mesh(g), { binary: true });
		const read = readCloud('a.stl', stl.buffer as ArrayBuffer);
		expect([...read.points]).toEqual(points);
	});
	it('of a mesh it is kept which way its triangles face, as they are wound', () => {
		const face = (order: string) =>
			`ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n10 0 0\n0 10 0\n3 ${order}\n`;
		expect([...readCloud('a.ply', bytes(face('0 1 2'))).normals!]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
		expect([...readCloud('a.ply', bytes(face('0 2 1'))).normals!]).toEqual([0, 0, -1, 0, 0, -1, 0, 0, -1]);
	});
	it('of another kind, empty, too large or broken off: refused by name', () => {
		expect(() => readCloud('a.docx', bytes('x'))).toThrow(/no kind of scan.*/);
		expect(() => readCloud('a.ply', new ArrayBuffer(0))).toThrow(/is empty/);
		expect(() => readCloud('a.ply', bytes('solid nonsense'))).toThrow(/holds no points/);
		expect(() => readCloud('a.csv', { byteLength: 3e8 } as ArrayBuffer)).toThrow(/larger than 200 MB/);
	});
});

describe('nearest places', () => {
	it('are those that trying every triangle finds', () => {
		const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], rimFlangeMm: 0 }).plan!;
		const mesh = assemblyMesh({ ...plan, meshSizeMm: 60 });
		const [tree, all] = [treeOf(mesh.xyz, mesh.tri), tryAll(mesh)];
		const next = uniformFrom(9);
		const hit = (): Hit => ({ x: 0, y: 0, z: 0, tri: 0 });
		for (let i = 0; i < 300; i++) {
			const p = [900 * next() - 150, 500 * next() - 100, 350 * next() - 80] as const;
			const [a, b] = [hit(), hit()];
			tree(...p, a);
			all(...p, b);
			const far = (h: Hit) => Math.hypot(h.x - p[0], h.y - p[1], h.z - p[2]);
			expect(far(a)).toBeCloseTo(far(b), 3);
			// on that very triangle, by the mesh's own count
			const n = [0, 1, 2].map((k) => mesh.tri[3 * a.tri + k]);
			const box = [0, 1, 2].map((d) => n.map((k) => mesh.xyz[3 * k + d]));
			[a.x, a.y, a.z].forEach((v, d) => {
				expect(v).toBeGreaterThan(Math.min(...box[d]) - 1e-3);
				expect(v).toBeLessThan(Math.max(...box[d]) + 1e-3);
			});
		}
	});
});
