/** Carries a flat mesh into space: frame, then bends panel by panel, or a roll, or a cone; cross-breaks and dishes on top. */
import { add, cross, dot, rotate, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import type { Bend, Cone, CrossBreak, Dish, Frame, Part } from '../document/schema';
import { edgeKey, type FlatMesh } from './flatMesh';
import { Refusal } from '../refusal/refusal';

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

export type Shape = Pick<Part, 'bends' | 'roll' | 'cone' | 'crossBreaks' | 'dish' | 'frame'>;

/** @param base a point of the panel that keeps the frame; on a cone, the direction in the layout that lies on the frame's x */
// eslint-disable-next-line complexity -- a branch for each way a sheet is formed
export function form(mesh: FlatMesh, shape: Shape, base: Vec2): Formed {
	const { bends, roll, frame } = shape;
	const m = mesh.tri.length / 3;
	const n = mesh.xy.length / 2;
	const xyz = new Float64Array(3 * n);
	const placing = placingOf(frame);
	if (shape.cone) return formCone(mesh, shape.cone, placing, base);
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
				for (const f of onEdge.get(key) ?? []) {
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
		if (panel[e] < 0) throw new Refusal('A part of this layout hangs together by no edge: check its outline');
		for (let i = 0; i < 3; i++) {
			const k = mesh.tri[3 * e + i];
			if (done[k]) continue;
			done[k] = 1;
			const placing = placings[panel[e]];
			const at: Vec2 = [mesh.xy[2 * k], mesh.xy[2 * k + 1]];
			const raise = raiseAt(at, shape.crossBreaks, shape.dish);
			xyz.set(add(place(placing, ...at), scale(cross(placing.ex, placing.ey), raise)), 3 * k);
		}
	}
	return { xyz, panel, panelCount: placings.length };
}

/** Polar about the apex: distance along the wall, angle by the ratio of full turn to sector. Frame: origin the apex, y the axis. */
function formCone(mesh: FlatMesh, cone: Cone, placing: Placing, base: Vec2): Formed {
	const n = mesh.xy.length / 2;
	const xyz = new Float64Array(3 * n);
	const half = (cone.halfAngleDeg * Math.PI) / 180;
	const { ex, ey } = placing;
	const ez = cross(ex, ey);
	const zero = Math.atan2(base[1] - cone.apex[1], base[0] - cone.apex[0]);
	for (let k = 0; k < n; k++) {
		const [x, y] = [mesh.xy[2 * k] - cone.apex[0], mesh.xy[2 * k + 1] - cone.apex[1]];
		const along = Math.hypot(x, y);
		let turn = Math.atan2(y, x) - zero;
		if (turn > Math.PI) turn -= 2 * Math.PI;
		if (turn < -Math.PI) turn += 2 * Math.PI;
		const around = turn / Math.sin(half);
		const radius = along * Math.sin(half);
		const p = add(scale(ey, along * Math.cos(half)), add(scale(ex, radius * Math.cos(around)), scale(ez, radius * Math.sin(around))));
		xyz.set(add(placing.o, p), 3 * k);
	}
	return { xyz, panel: new Int32Array(mesh.tri.length / 3), panelCount: 1 };
}

/** Middle of a cross-break's field: where its creases meet. */
export const crossingOf = (b: CrossBreak): Vec2 => [b.corners.reduce((s, p) => s + p[0], 0) / 4, b.corners.reduce((s, p) => s + p[1], 0) / 4];

/** Height above the panel, mm: a pyramid over each cross-break, a paraboloid over a dish. */
function raiseAt(p: Vec2, breaks: readonly CrossBreak[] = [], dish?: Dish): number {
	let raise = 0;
	for (const b of breaks) {
		const c = crossingOf(b);
		for (let i = 0; i < 4; i++) {
			const [q, r] = [b.corners[i], b.corners[(i + 1) % 4]];
			const det = (q[0] - c[0]) * (r[1] - c[1]) - (q[1] - c[1]) * (r[0] - c[0]);
			const u = ((p[0] - c[0]) * (r[1] - c[1]) - (p[1] - c[1]) * (r[0] - c[0])) / det;
			const v = ((q[0] - c[0]) * (p[1] - c[1]) - (q[1] - c[1]) * (p[0] - c[0])) / det;
			if (u < -1e-9 || v < -1e-9 || u + v > 1) continue;
			raise += b.heightMm * (1 - u - v);
			break;
		}
	}
	if (dish) raise += dish.heightMm * Math.max(0, 1 - ((p[0] - dish.centre[0]) ** 2 + (p[1] - dish.centre[1]) ** 2) / dish.radiusMm ** 2);
	return raise;
}
