/** Carries a flat mesh into space: frame, then bends panel by panel, or a roll. */
import { add, cross, dot, rotate, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import type { Bend, Frame, Roll } from '../plan/schema';
import { edgeKey, type FlatMesh } from './flatMesh';

/** A rigid placing of the layout plane: point = o + x ex + y ey. */
export interface Placing {
	o: Vec3;
	ex: Vec3;
	ey: Vec3;
}

export const placingOf = (frame: Frame): Placing => {
	const ex = unit(frame.x);
	const ey = unit(sub(frame.y, scale(ex, dot(frame.y, ex))));
	return { o: frame.origin, ex, ey };
};

const place = (p: Placing, x: number, y: number): Vec3 => add(p.o, add(scale(p.ex, x), scale(p.ey, y)));

/** The placing of the panel beyond a bend, from the placing of the near panel and a layout point on the far side. */
export function beyond(near: Placing, bend: Bend, far: Vec2): Placing {
	const a = place(near, ...bend.from);
	const b = place(near, ...bend.to);
	const along = unit(sub(b, a));
	const n = cross(near.ex, near.ey);
	let out = cross(n, along);
	if (dot(sub(place(near, ...far), a), out) < 0) out = scale(out, -1);
	const axis = cross(out, n); // turns `out` towards the front
	const angle = (bend.angleDeg * Math.PI) / 180;
	const turn = (p: Vec3) => rotate(p, axis, angle);
	return { o: add(a, turn(sub(near.o, a))), ex: turn(near.ex), ey: turn(near.ey) };
}

export interface Formed {
	/** n x 3, mm */
	xyz: Float64Array;
	/** panel of each triangle, 0 is the base */
	panel: Int32Array;
	panelCount: number;
}

/** @param base a point of the panel that keeps the frame */
export function form(mesh: FlatMesh, bends: readonly Bend[], roll: Roll | undefined, frame: Frame, base: Vec2): Formed {
	const m = mesh.tri.length / 3;
	const n = mesh.xy.length / 2;
	const xyz = new Float64Array(3 * n);
	const placing = placingOf(frame);
	if (roll) {
		const normal = cross(placing.ex, placing.ey);
		const [hoopAxis, straight] = roll.hoop === 'x' ? [placing.ex, placing.ey] : [placing.ey, placing.ex];
		for (let k = 0; k < n; k++) {
			const [h, s] = roll.hoop === 'x' ? [mesh.xy[2 * k], mesh.xy[2 * k + 1]] : [mesh.xy[2 * k + 1], mesh.xy[2 * k]];
			const theta = (h - (roll.hoop === 'x' ? base[0] : base[1])) / roll.radiusMm;
			const p = add(
				add(placing.o, scale(straight, s)),
				add(scale(hoopAxis, roll.radiusMm * Math.sin(theta)), scale(normal, roll.radiusMm * (Math.cos(theta) - 1)))
			);
			xyz.set(p, 3 * k);
		}
		return { xyz, panel: new Int32Array(m), panelCount: 1 };
	}
	// triangles on each edge, then flood: an ordinary edge keeps the panel, a bend edge opens the next one
	const onEdge = new Map<string, number[]>();
	for (let e = 0; e < m; e++)
		for (let i = 0; i < 3; i++) {
			const key = edgeKey(mesh.tri[3 * e + i], mesh.tri[3 * e + ((i + 1) % 3)]);
			const list = onEdge.get(key);
			if (list) list.push(e);
			else onEdge.set(key, [e]);
		}
	const middle = (e: number): Vec2 => {
		let x = 0;
		let y = 0;
		for (let i = 0; i < 3; i++) {
			x += mesh.xy[2 * mesh.tri[3 * e + i]] / 3;
			y += mesh.xy[2 * mesh.tri[3 * e + i] + 1] / 3;
		}
		return [x, y];
	};
	let first = 0;
	let best = Infinity;
	for (let e = 0; e < m; e++) {
		const [x, y] = middle(e);
		const d = Math.hypot(x - base[0], y - base[1]);
		if (d < best) [first, best] = [e, d];
	}
	const panel = new Int32Array(m).fill(-1);
	const placings: Placing[] = [];
	const open: { triangle: number; placing: Placing }[] = [{ triangle: first, placing }];
	for (let q = 0; q < open.length; q++) {
		if (panel[open[q].triangle] >= 0) continue;
		const id = placings.push(open[q].placing) - 1;
		const stack = [open[q].triangle];
		panel[open[q].triangle] = id;
		while (stack.length) {
			const e = stack.pop()!;
			for (let i = 0; i < 3; i++) {
				const key = edgeKey(mesh.tri[3 * e + i], mesh.tri[3 * e + ((i + 1) % 3)]);
				const bend = mesh.bendEdges.get(key);
				for (const f of onEdge.get(key)!) {
					if (panel[f] >= 0) continue;
					if (bend === undefined) {
						panel[f] = id;
						stack.push(f);
					} else open.push({ triangle: f, placing: beyond(open[q].placing, bends[bend], middle(f)) });
				}
			}
		}
	}
	const done = new Uint8Array(n);
	for (let e = 0; e < m; e++) {
		if (panel[e] < 0) throw new RangeError('A part of this layout hangs together by no edge: check its outline');
		for (let i = 0; i < 3; i++) {
			const k = mesh.tri[3 * e + i];
			if (done[k]) continue;
			done[k] = 1;
			xyz.set(place(placings[panel[e]], mesh.xy[2 * k], mesh.xy[2 * k + 1]), 3 * k);
		}
	}
	return { xyz, panel, panelCount: placings.length };
}
