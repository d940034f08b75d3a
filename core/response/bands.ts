/**
 * Half widths over which a unit of force is spread, mm: two even bands beside the seam, near and wide. A weld's plastic strain
 * reaches 30 to 50 mm in thin stainless; any force and any mean distance is a sum of the two (across.ts).
 */
export const BANDS = [15, 60] as const;

/** Shares of a seam's force by sheet (A, B) and by band. */
export type Across = readonly [readonly [near: number, wide: number], readonly [near: number, wide: number]];
