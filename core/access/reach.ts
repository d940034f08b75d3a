/**
 * Whether torch, eye or hand gets to a place past the parts that stand: rays over the half space it faces, and how many get out.
 */
import { add, cross, dot, norm, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import { locate, type AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import { nodeAt } from '../shell/model';
import { meetingAt, type SheetTree, type Triangle } from '../geometry/sheetTree';
import { sheetTrees } from '../mesh/sheetTrees';

/** Rays to a place, over the half space it faces. */
const RAYS = 96;
/** Of the rays, so many must get out. */
const NEEDED = 2;
/** Start of a ray off the sheet, shares of the piece's size: clear of the sheets that meet there. */
const OFF = 4e-3;

/** Directions over a half space, the same every time (Fibonacci's spiral). */
function directions(pole: Vec3): Vec3[] {
	const helper: Vec3 = Math.abs(pole[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
	const u = unit(cross(pole, helper));
	const v = cross(pole, u);
	return Array.from({ length: RAYS }, (_, i) => {
		const z = (i + 0.5) / RAYS;
		const r = Math.sqrt(1 - z * z);
		const a = i * Math.PI * (3 - Math.sqrt(5));
		return add(scale(pole, z), add(scale(u, r * Math.cos(a)), scale(v, r * Math.sin(a))));
	});
}

/** Does a ray meet a triangle ahead of it? */
const meets = (o: Vec3, d: Vec3, t: Triangle) => meetingAt(o, d, t) > 1e-9;
const meetsWithin = (o: Vec3, d: Vec3, triangle: Triangle) => {
	// an edge counts as the sheet
	const t = meetingAt(o, d, triangle, 1e-6);
	return t >= 0 && t <= 1;
};

/** Where torch and eye stand off a seam: on its side, and in the corner where one sheet stands on the other's face. */
export function clearOf(seam: SeamMesh, i: number, pole: Vec3): Vec3 {
	const f = seam.frames[i];
	if (seam.edgeA === seam.edgeB) return pole;
	const [out, face] = seam.edgeA ? [f.outA, f.normalB] : [f.outB, f.normalA];
	// a tee's edge points into the face, a lap's runs along it
	return add(pole, scale(out, Math.abs(dot(out, face)) > 0.5 ? -1 : 1));
}

const AXES: readonly Vec3[] = [
	[1, 0, 0],
	[0, 1, 0],
	[0, 0, 1]
];

export class Solid {
	private readonly sheets: SheetTree[];
	private readonly off: number;
	constructor(mesh: AssemblyMesh) {
		const { trees, size } = sheetTrees(mesh);
		this.sheets = trees;
		this.off = OFF * size;
	}
	/** Which parts cross the short way from just below a place to above it, or lie where that ends. */
	covers(at: Vec3, pole: Vec3, standing: ReadonlySet<number>): Set<number> {
		const small = this.off / 8;
		const above = add(at, scale(pole, this.off));
		const ways: [Vec3, Vec3][] = [
			[add(at, scale(pole, -small)), scale(pole, this.off + small)],
			...AXES.map((axis): [Vec3, Vec3] => [add(above, scale(axis, -small)), scale(axis, 2 * small)])
		];
		return new Set([...standing].filter((k) => ways.some(([from, way]) => this.sheets[k].some(from, way, (t) => meetsWithin(from, way, t)))));
	}
	/** Can a place be reached from the side `pole` with these parts standing? */
	reached(at: Vec3, pole: Vec3, standing: ReadonlySet<number>, off: Vec3 = pole): boolean {
		return this.waysOut(at, pole, standing, off, NEEDED) >= NEEDED;
	}
	/** How many of the rays from there get out; counted to `enough` at most. */
	waysOut(at: Vec3, pole: Vec3, standing: ReadonlySet<number>, off: Vec3 = pole, enough = RAYS): number {
		const from = add(at, scale(off, this.off));
		let out = 0;
		for (const d of directions(pole)) {
			let free = true;
			for (const k of standing) {
				if (this.sheets[k].some(from, d, (t) => meets(from, d, t))) {
					free = false;
					break;
				}
			}
			if (free && ++out >= enough) break;
		}
		return out;
	}
}

/** The middle of a part's first panel, with its normal. */
export function middleOfPart(mesh: AssemblyMesh, part: number): { at: Vec3; normal: Vec3 } {
	const own = [...mesh.triPart.keys()].filter((e) => mesh.triPart[e] === part && mesh.triPanel[e] === 0);
	const centre = (e: number) =>
		scale(add(add(nodeAt(mesh.xyz, mesh.tri[3 * e]), nodeAt(mesh.xyz, mesh.tri[3 * e + 1])), nodeAt(mesh.xyz, mesh.tri[3 * e + 2])), 1 / 3);
	const mean = own.reduce<Vec3>((s, e) => add(s, scale(centre(e), 1 / own.length)), [0, 0, 0]);
	const best = own.reduce((b, e) => (norm(sub(centre(e), mean)) < norm(sub(centre(b), mean)) ? e : b));
	const [p, q, r] = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * best + i]));
	return { at: centre(best), normal: unit(cross(sub(q, p), sub(r, p))) };
}

/** A place on a part's layout, in space, with the part's normal there (towards its front). */
export function normalAt(mesh: AssemblyMesh, part: string, at: Vec2): { at: Vec3; normal: Vec3 } {
	const place = locate(mesh, part, at);
	const corners = place.nodes.map((n) => nodeAt(mesh.xyz, n));
	const [p, q, r] = corners;
	return {
		at: corners.reduce<Vec3>((s, x, i) => add(s, scale(x, place.weights[i])), [0, 0, 0]),
		normal: unit(cross(sub(q, p), sub(r, p)))
	};
}
