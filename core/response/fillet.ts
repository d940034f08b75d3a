/** How heavy a fillet an arc can lay in one pass: the filler has to be melted, and not much of an arc's heat does that. */
import type { Material } from '../materials/grades';
import { hotMetal, metalOf } from '../materials/hot';

/** Of the net heat of a line source in thin sheet at most this share melts metal, however it is run (Wells 1952, quoted from memory). */
export const MELTING_SHARE = 0.48;

/** J to melt a mm3 of filler from the room: to where the last of it is liquid. */
const toMelt = (m: Material): number => hotMetal(m).heatContent(metalOf(m).curves.melts[1]);

/** Least net heat that melts the filler of a flat fillet, J/mm. @param legMm its leg */
export const heatForLeg = (legMm: number, m: Material): number => (toMelt(m) * legMm ** 2) / 2 / MELTING_SHARE;

/** Heaviest flat fillet that so much net heat can melt, mm of leg. @param netHeat J/mm */
export const largestLeg = (netHeat: number, m: Material): number => Math.sqrt((2 * MELTING_SHARE * netHeat) / toMelt(m));
