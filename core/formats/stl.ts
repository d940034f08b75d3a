/** Binary STL of a shape, mm: one facet a triangle, normals from the corners. Format: 3D Systems (1989), as commonly read. */
export function writeStl(xyz: ArrayLike<number>, tri: ArrayLike<number>, title: string): Uint8Array {
	const n = tri.length / 3;
	const out = new Uint8Array(84 + 50 * n);
	const view = new DataView(out.buffer);
	// the header must not begin with "solid", or readers take the file for text
	const head = `binary STL, mm: ${title}`.replace(/[^\x20-\x7e]/g, '?').slice(0, 80);
	for (let i = 0; i < head.length; i++) out[i] = head.charCodeAt(i);
	view.setUint32(80, n, true);
	for (let e = 0; e < n; e++) {
		const p = [0, 1, 2].map((i) => [0, 1, 2].map((d) => xyz[3 * tri[3 * e + i] + d]));
		const u = [0, 1, 2].map((d) => p[1][d] - p[0][d]);
		const v = [0, 1, 2].map((d) => p[2][d] - p[0][d]);
		const c = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
		const l = Math.hypot(c[0], c[1], c[2]) || 1;
		let o = 84 + 50 * e;
		for (const x of [...c.map((w) => w / l), ...p.flat()]) {
			view.setFloat32(o, x, true);
			o += 4;
		}
	}
	return out;
}
