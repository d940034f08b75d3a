/** Space that standing parts shut off from the air outside: sheets marked in a grid of cells, and the air let in from without. */
import { pathLength } from '../geometry/polyline';
import { add, distance, scale, sub, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { nodeAt } from '../shell/model';
import { normalAt } from './reach';

/** Cells along the longest side: openings narrower than two of them count as shut, but for holes, which are looked at one by one. */
const CELLS = 72;
/** Less than this is where sheets lie close, not a space, share of the whole. */
const LEAST_SHARE = 2e-4;

class Grid {
	readonly state: Uint8Array;
	private readonly n: [number, number, number];
	constructor(
		private readonly lo: Vec3,
		hi: Vec3,
		readonly cell: number
	) {
		this.n = [0, 1, 2].map((d) => Math.ceil((hi[d] - lo[d]) / cell) + 1) as [number, number, number];
		this.state = new Uint8Array(this.n[0] * this.n[1] * this.n[2]);
	}
	at(p: Vec3): number {
		const [i, j, k] = [0, 1, 2].map((d) => Math.floor((p[d] - this.lo[d]) / this.cell));
		return (k * this.n[1] + j) * this.n[0] + i;
	}
	/** Lets air in at the first cell, which lies outside: it goes through the faces of open cells. */
	flood() {
		const [nx, ny, nz] = this.n;
		const todo = [0];
		this.state[0] = AIR;
		for (let c = todo.pop(); c !== undefined; c = todo.pop()) {
			const [i, j, k] = [c % nx, Math.floor(c / nx) % ny, Math.floor(c / (nx * ny))];
			const go = (ok: boolean, to: number) => {
				if (!ok || this.state[to] !== OPEN) return;
				this.state[to] = AIR;
				todo.push(to);
			};
			go(i > 0, c - 1);
			go(i < nx - 1, c + 1);
			go(j > 0, c - nx);
			go(j < ny - 1, c + nx);
			go(k > 0, c - nx * ny);
			go(k < nz - 1, c + nx * ny);
		}
	}
}
const [OPEN, SHEET, AIR] = [0, 1, 2];

/** @returns litres that no air gets to, to a cell's nearness; nothing where the parts enclose no space */
export function enclosedLitres(mesh: AssemblyMesh, standing: ReadonlySet<number>): number {
	const corners: [Vec3, Vec3, Vec3][] = [];
	let [lo, hi]: Vec3[] = [
		[Infinity, Infinity, Infinity],
		[-Infinity, -Infinity, -Infinity]
	];
	for (let e = 0; e < mesh.triPart.length; e++) {
		if (!standing.has(mesh.triPart[e])) continue;
		const t = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i])) as [Vec3, Vec3, Vec3];
		corners.push(t);
		for (const p of t) [lo, hi] = [lo.map((x, d) => Math.min(x, p[d])) as Vec3, hi.map((x, d) => Math.max(x, p[d])) as Vec3];
	}
	if (!corners.length) return 0;
	const cell = Math.max(...sub(hi, lo)) / CELLS;
	const margin: Vec3 = [1.5 * cell, 1.5 * cell, 1.5 * cell];
	const grid = new Grid(sub(lo, margin), add(hi, margin), cell);
	for (const [p, q, r] of corners) {
		const steps = Math.max(1, Math.ceil((4 * Math.max(distance(p, q), distance(p, r), distance(q, r))) / cell));
		for (let i = 0; i <= steps; i++)
			for (let j = 0; j <= steps - i; j++) {
				const [u, v] = [i / steps, j / steps];
				grid.state[grid.at(add(p, add(scale(sub(q, p), u), scale(sub(r, p), v))))] = SHEET;
			}
	}
	for (const hole of openHoles(mesh, standing)) for (let s = -2; s <= 2; s++) grid.state[grid.at(add(hole.at, scale(hole.normal, s * cell)))] = OPEN;
	grid.flood();
	const shut = grid.state.reduce((sum, s) => sum + Number(s === OPEN), 0);
	return shut < LEAST_SHARE * grid.state.length ? 0 : (shut * cell ** 3) / 1e6;
}

/** Holes that nothing is welded into, at their middles. */
function openHoles(mesh: AssemblyMesh, standing: ReadonlySet<number>): { at: Vec3; normal: Vec3 }[] {
	return [...standing].flatMap((k) => {
		const { part } = mesh.parts[k];
		return part.holes.flatMap((ring) => {
			const welded = mesh.seams.some(({ joint }) =>
				[joint.a, joint.b].some((s) => s.part === part.id && s.path.some((p) => ring.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < 0.5)))
			);
			if (welded || pathLength(ring) < 1) return [];
			// the middle of a hole is on no triangle: by the places of its rim
			const rim = ring.map((p) => normalAt(mesh, part.id, p));
			const at = rim.reduce<Vec3>((m, p) => add(m, scale(p.at, 1 / rim.length)), [0, 0, 0]);
			return [{ at, normal: rim[0].normal }];
		});
	});
}
