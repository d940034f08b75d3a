/** From where the piece is looked at: as it lies, from above one of its corners. */
import { cross, dot, unit, type Vec3 } from '../geometry/vec';
import type { Up } from '../layout/positions';

/** Quarter turns about the upright. */
export const TURNS = [0, 1, 2, 3] as const;
export type Turn = (typeof TURNS)[number];

export interface View {
	/** towards whoever looks */
	eye: Vec3;
	/** across the page, and up it */
	right: Vec3;
	up: Vec3;
}

/** Which way the piece's own axes point once it lies so: rows are across, away and up. */
const LYING: Record<Up, readonly [Vec3, Vec3, Vec3]> = {
	top: [
		[1, 0, 0],
		[0, 1, 0],
		[0, 0, 1]
	],
	underside: [
		[1, 0, 0],
		[0, -1, 0],
		[0, 0, -1]
	],
	right: [
		[0, 0, -1],
		[0, 1, 0],
		[1, 0, 0]
	],
	left: [
		[0, 0, 1],
		[0, 1, 0],
		[-1, 0, 0]
	],
	back: [
		[1, 0, 0],
		[0, 0, -1],
		[0, 1, 0]
	],
	front: [
		[1, 0, 0],
		[0, 0, 1],
		[0, -1, 0]
	]
};
/** Of the eye: across, towards the looker, up. Not quite isometric, so that no two edges of a box fall on one line. */
const EYE: Vec3 = [0.52, -0.78, 0.6];

const mixed = (rows: readonly [Vec3, Vec3, Vec3], v: Vec3): Vec3 =>
	[0, 1, 2].map((d) => rows[0][d] * v[0] + rows[1][d] * v[1] + rows[2][d] * v[2]) as Vec3;

export function viewOf(lies: Up, turn: Turn): View {
	const [c, s] = [
		[1, 0],
		[0, 1],
		[-1, 0],
		[0, -1]
	][turn];
	const eye = unit(mixed(LYING[lies], [c * EYE[0] - s * EYE[1], s * EYE[0] + c * EYE[1], EYE[2]]));
	const upright = LYING[lies][2];
	const right = unit(cross(upright, eye));
	return { eye, right, up: cross(eye, right) };
}

/** On the page, mm of the piece: across, and downwards as a page counts. */
export const onPage = (v: View, p: Vec3): [number, number] => [dot(p, v.right), -dot(p, v.up)];
