/**
 * What a bar does beyond the plane section: round a short hot spot the cold sheet ahead and behind holds it, which a section that is
 * the same all along the seam cannot know. The factor is the force left on a bar (of the force without one) by a moving plane-stress
 * model (core/hot), over the same by the section held flat, made by `npm run bar-table`: 1.4301 by its EN curves and the hardening that
 * every forecast takes, 2 x 100 x 150 mm tacked at both ends, 2.5 mm/s, 10 mm of copper 40 mm wide (docs/theory/response.md). Between the places it is straight, in the logarithm of the contact; beyond them the
 * nearest holds, and below the loosest contact it goes to one with it.
 */
export const THICKNESS = [1, 1.5, 2.5] as const;
/** J/mm2 */
export const HEAT = [70, 107, 150] as const;
/** W/mm2.K */
export const CONTACT = [300e-6, 800e-6, 2000e-6, 5000e-6] as const;
/** by thickness, by heat, by contact */
type Table = readonly (readonly (readonly number[])[])[];

const FACTOR: Table = [
	[
		[0.932, 0.8, 0.591, 0.583],
		[0.868, 0.699, 0.509, 0.362],
		[0.849, 0.644, 0.398, 0.202]
	],
	[
		[0.959, 0.943, 0.68, 0.578],
		[0.927, 0.775, 0.555, 0.294],
		[0.933, 0.765, 0.465, 0.257]
	],
	[
		[0.986, 0.962, 0.804, 0.52],
		[0.968, 0.898, 0.622, 0.365],
		[1.011, 0.875, 0.609, 0.351]
	]
];

/**
 * What a bar leaves of the shrinkage across, by the moving-arc model alone: the section takes too much away (0.65 of a solid coupon),
 * and nearly all where the arc only just melts, so that no factor on it would hold.
 */
const ACROSS: Table = [
	[
		[1.072, 0.893, 0.597, 0.307],
		[0.987, 0.811, 0.545, 0.324],
		[0.925, 0.705, 0.465, 0.317]
	],
	[
		[1.124, 1.012, 0.761, 0.441],
		[1.074, 0.927, 0.672, 0.454],
		[0.982, 0.823, 0.573, 0.36]
	],
	[
		[1.139, 1.112, 0.939, 0.642],
		[1.076, 1.019, 0.844, 0.573],
		[1.016, 0.93, 0.715, 0.48]
	]
];

/** Place in a list as a whole index and a share of the way to the next; the ends hold. */
function place(list: readonly number[], v: number): [number, number] {
	if (v <= list[0]) return [0, 0];
	for (let i = 1; i < list.length; i++) if (v <= list[i]) return [i - 1, (v - list[i - 1]) / (list[i] - list[i - 1])];
	return [list.length - 2, 1];
}

/** heatPerThickness net, J/mm2; thickness mm; contact W/mm2.K */
interface OnBar {
	heatPerThickness: number;
	thickness: number;
	contact: number;
}

/** On what the section says of the pull on a bar. */
export const barCorrection = (on: OnBar): number => read(FACTOR, on);
/** Of the shrinkage across without a bar. */
export const leftAcross = (on: OnBar): number => read(ACROSS, on);

function read(table: Table, { heatPerThickness, thickness, contact }: OnBar): number {
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
				sum += u * v * w * table[a][b][c];
	const share = Math.min(1, contact / CONTACT[0]);
	return 1 + share * (sum - 1);
}
