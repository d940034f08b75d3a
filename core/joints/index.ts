/** Every kind of joint. A new one is a word in `document/words.ts`, a file here and a line below; the compiler asks for the rest. */
import type { Joint } from '../document/schema';
import type { JointType } from '../document/words';
import { butt } from './butt';
import { cornerEdge } from './cornerEdge';
import { cornerOverlap } from './cornerOverlap';
import { flangeToTube } from './flangeToTube';
import { lap } from './lap';
import { port } from './port';
import { tee } from './tee';
import type { JointKind } from './joint';

export const JOINTS: Record<JointType, JointKind> = {
	butt,
	'corner-edge': cornerEdge,
	'corner-overlap': cornerOverlap,
	lap,
	tee,
	'flange-to-tube': flangeToTube,
	port
};

/** A corner whose weld lies outside: what opens on the weld's side closes inside. */
export const isWeldedOutside = ({ type, weldSide }: Pick<Joint, 'type' | 'weldSide'>): boolean => JOINTS[type].isCorner && weldSide === 'front';
