/** Every way of reading a feature. */
import { angle } from './angle';
import { calliper } from './calliper';
import { corners } from './corners';
import { cornerSquare } from './cornerSquare';
import { dialLine } from './dialLine';
import { dialRing } from './dialRing';
import { diagonals } from './diagonals';
import { freePoints } from './freePoints';
import { grid } from './grid';
import { laserSpot } from './laserSpot';
import type { MethodKind, ReadingContext } from './method';
import { piTape } from './piTape';
import { rock } from './rock';
import { scan, scanAngle } from './scan';
import { square } from './square';
import { straightedge } from './straightedge';
import { straightedgeCrown } from './straightedgeCrown';
import { tape } from './tape';
import { tapeRepeated } from './tapeRepeated';
import { windingSticks } from './windingSticks';

const KINDS = {
	grid,
	points: freePoints,
	straightedge,
	'straightedge-crown': straightedgeCrown,
	'dial-line': dialLine,
	'dial-ring': dialRing,
	diagonals,
	'corner-square': cornerSquare,
	tape,
	'tape-repeated': tapeRepeated,
	calliper,
	'pi-tape': piTape,
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

/** Of a kind's ways those that one of its features can be read by, the usual one first. */
export const waysOf = (methods: readonly Method[], context: ReadingContext): Method[] =>
	methods.filter((m) => METHOD_KINDS[m].suits?.(context) ?? true);

/** What each is read with, where nobody says otherwise. */
export const ORDINARY: Readonly<Record<Method, string>> = {
	grid: 'Height gauge on a plate',
	points: 'Height gauge on a plate',
	straightedge: 'Straightedge and feeler gauges',
	'straightedge-crown': 'Straightedge and feeler gauges',
	'dial-line': 'Dial indicator on a stand',
	'dial-ring': 'Dial indicator on a stand',
	diagonals: 'Tape',
	'corner-square': 'Square and feeler gauges',
	tape: 'Tape',
	'tape-repeated': 'Tape',
	calliper: 'Calliper',
	'pi-tape': 'Circumference tape',
	angle: 'Protractor',
	square: 'Square and feeler gauges',
	'laser-spot': 'Laser and target',
	rock: 'Plate and feeler gauges',
	corners: 'Height gauge on a plate',
	'winding-sticks': 'Winding sticks',
	scan: 'Scanner',
	'scan-angle': 'Scanner'
};
