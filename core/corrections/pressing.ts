/**
 * How far beyond true a sheet is pressed so that it stays true: what it springs back by when the load comes off. Fully plastic section,
 * no hardening, the sheet alone without folds beside it (beam theory; Timoshenko, Strength of Materials).
 */

/** A flat strip on two supports, pressed in the middle: M L^2 / 12 E I with M = proof t^2 w / 4 and I = w t^3 / 12. @returns mm in the middle */
export const springOfStrip = (spanMm: number, thicknessMm: number, proofMPa: number, eMPa: number): number =>
	(proofMPa * spanMm ** 2) / (4 * eMPa * thicknessMm);

/** A leg bent about its fold, pressed at its tip: M a^2 / 3 E I with the same M and I. @returns mm at the tip */
export const springOfLeg = (reachMm: number, thicknessMm: number, proofMPa: number, eMPa: number): number =>
	(proofMPa * reachMm ** 2) / (eMPa * thicknessMm);
