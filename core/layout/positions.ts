/**
 * How the piece must lie for each seam: the axis of the piece that points up while the seam is welded from above. A change
 * between two runs is a flip. Seams that face two axes alike (an outside corner) may be welded in either position.
 */
import { add, scale, unit, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import type { Run } from '../document/schema';

export const UP_AXES = ['top', 'underside', 'right', 'left', 'back', 'front'] as const;
/** The side of the piece that lies upwards. */
export type Up = (typeof UP_AXES)[number];

const AXES: Record<Up, Vec3> = { top: [0, 0, 1], underside: [0, 0, -1], right: [1, 0, 0], left: [-1, 0, 0], back: [0, 1, 0], front: [0, -1, 0] };
/** A seam whose side leans at most this far from straight up is welded from above (own estimate): cosine. */
export const LEAN = Math.cos((50 * Math.PI) / 180);

/** How the piece lies with that side up. */
export const UP_WORDS: Record<Up, string> = {
	top: 'as it stands',
	underside: 'upside down',
	right: 'on its left side',
	left: 'on its right side',
	back: 'on its front',
	front: 'on its back'
};

/** The side a seam's weld looks to, and the corner it sits in: a fillet looks between its two sheets. */
function facing(seam: SeamMesh, i: number): Vec3 {
	const f = seam.frames[i];
	if (seam.edgeA === seam.edgeB) return f.weldSide;
	const [out, face] = seam.edgeA ? [f.outA, f.normalB] : [f.outB, f.normalA];
	const towards = scale(face, out[0] * face[0] + out[1] * face[1] + out[2] * face[2] < 0 ? 1 : -1);
	return unit(add(f.weldSide, towards));
}

/** @returns by joint, the positions its whole length may be welded in; a ring that faces all round takes any */
export function positionsOf(mesh: AssemblyMesh): Map<string, readonly Up[]> {
	return new Map(
		mesh.seams.map((seam) => {
			const looks = seam.frames.map((_, i) => facing(seam, i));
			const good = UP_AXES.filter((up) => looks.every((v) => v[0] * AXES[up][0] + v[1] * AXES[up][1] + v[2] * AXES[up][2] >= LEAN - 1e-6));
			// nothing holds all along it (a girth): it is rolled or walked round, whatever the position
			return [seam.joint.id, good.length ? good : UP_AXES];
		})
	);
}

/** Positions run by run with as few changes as the order allows: each is kept as long as the next runs can be welded in it. */
export function liesFor(runs: readonly Pick<Run, 'joint'>[], positions: ReadonlyMap<string, readonly Up[]>): Up[] {
	const out: Up[] = [];
	for (let i = 0; i < runs.length;) {
		let open = [...(positions.get(runs[i].joint) ?? UP_AXES)];
		let j = i + 1;
		for (; j < runs.length; j++) {
			const both = open.filter((u) => (positions.get(runs[j].joint) ?? UP_AXES).includes(u));
			if (!both.length) break;
			open = both;
		}
		for (; i < j; i++) out.push(open[0]);
	}
	return out;
}

export const flipsOf = (lies: readonly Up[]): number => lies.reduce((n, u, i) => n + (i > 0 && u !== lies[i - 1] ? 1 : 0), 0);

/**
 * The same runs with those of one position together, as early as their first stands; the order within a position is kept. Locked runs
 * stay. Where going by what is most to do at each flip takes more flips than the order has already, it is left as it is.
 */
export function groupByPosition(runs: readonly Run[], positions: ReadonlyMap<string, readonly Up[]>): Run[] {
	const left = runs.filter((r) => !r.locked);
	const out: Run[] = [];
	let up: Up | undefined;
	while (left.length) {
		const may = (r: Run, u: Up) => (positions.get(r.joint) ?? UP_AXES).includes(u);
		if (!up || !left.some((r) => may(r, up!))) {
			// the position that takes most of what is left, of those the next run may lie in
			const options = positions.get(left[0].joint) ?? UP_AXES;
			up = options.reduce((best, u) => (left.filter((r) => may(r, u)).length > left.filter((r) => may(r, best)).length ? u : best), options[0]);
		}
		const now = up;
		out.push(...left.filter((r) => may(r, now)));
		for (const r of out) if (left.includes(r)) left.splice(left.indexOf(r), 1);
	}
	runs.forEach((r, i) => r.locked && out.splice(Math.min(i, out.length), 0, r));
	return flipsOf(liesFor(out, positions)) <= flipsOf(liesFor(runs, positions)) ? out : [...runs];
}
