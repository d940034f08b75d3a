/** Every way of reading a feature. */
import { angle } from './angle';
import { calliper } from './calliper';
import { corners } from './corners';
import { cornerSquare } from './cornerSquare';
import { dialLine } from './dialLine';
import { diagonals } from './diagonals';
import { freePoints } from './freePoints';
import { grid } from './grid';
import { laserSpot } from './laserSpot';
import type { MethodKind } from './method';
import { rock } from './rock';
import { scan, scanAngle } from './scan';
import { square } from './square';
import { straightedge } from './straightedge';
import { tape } from './tape';
import { tapeRepeated } from './tapeRepeated';
import { windingSticks } from './windingSticks';

const KINDS = {
	grid,
	points: freePoints,
	straightedge,
	'dial-line': dialLine,
	diagonals,
	'corner-square': cornerSquare,
	tape,
	'tape-repeated': tapeRepeated,
	calliper,
	angle,
	square,
	'laser-spot': laserSpot,
	rock,
	corners,
	'winding-sticks': windingSticks,
	scan,
	'scan-angle': scanAngle
} satisfies Record<string, MethodKind>;

export type Method = keyof typeof KINDS;
export const METHODS = Object.keys(KINDS) as Method[];
export const METHOD_KINDS: Record<Method, MethodKind> = KINDS;
