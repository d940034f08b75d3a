/**
 * What a bar does beyond the plane section: round a short hot spot the cold sheet ahead and behind holds it, which a section that is
 * the same all along the seam cannot know. The factor is the force left on a bar (of the force without one) by a moving plane-stress
 * model, over the same by the section held flat: 1.4301 by its EN curves, 2 x 100 x 150 mm tacked at both ends, 2.5 mm/s, 10 mm of
 * copper 40 mm wide (docs/theory/response.md). Between the places it is straight, in the logarithm of the contact; beyond them the
 * nearest holds, and below the loosest contact it goes to one with it.
 */
const THICKNESS = [1, 1.5, 2.5] as const;
/** J/mm2 */
const HEAT = [70, 107, 150] as const;
/** W/mm2.K */
const CONTACT = [300e-6, 800e-6, 2000e-6, 5000e-6] as const;
/** by thickness, by heat, by contact */
const FACTOR: readonly (readonly (readonly number[])[])[] = [
	[
		[0.999, 0.902, 0.78, 0.788],
		[0.96, 0.839, 0.689, 0.624],
		[0.896, 0.766, 0.557, 0.383]
	],
	[
		[1.057, 1.009, 0.841, 0.792],
		[1.001, 0.949, 0.713, 0.479],
		[0.992, 0.832, 0.581, 0.336]
	],
	[
		[1.055, 1.035, 0.931, 0.638],
		[1.094, 1.006, 0.79, 0.483],
		[1.009, 0.906, 0.627, 0.434]
	]
];

/** Place in a list as a whole index and a share of the way to the next; the ends hold. */
function place(list: readonly number[], v: number): [number, number] {
	if (v <= list[0]) return [0, 0];
	for (let i = 1; i < list.length; i++) if (v <= list[i]) return [i - 1, (v - list[i - 1]) / (list[i] - list[i - 1])];
	return [list.length - 2, 1];
}

/** @param heatPerThickness net, J/mm2; @param thickness mm; @param contact W/mm2.K */
export function barCorrection({ heatPerThickness, thickness, contact }: { heatPerThickness: number; thickness: number; contact: number }): number {
	if (contact <= 0) return 1;
	const [i, f] = place(THICKNESS, thickness);
	const [j, g] = place(HEAT, heatPerThickness);
	const [k, h] = place(CONTACT.map(Math.log), Math.log(contact));
	let sum = 0;
	for (const [a, u] of [
		[i, 1 - f],
		[i + 1, f]
	])
		for (const [b, v] of [
			[j, 1 - g],
			[j + 1, g]
		])
			for (const [c, w] of [
				[k, 1 - h],
				[k + 1, h]
			])
				sum += u * v * w * FACTOR[a][b][c];
	const share = Math.min(1, contact / CONTACT[0]);
	return 1 + share * (sum - 1);
}
