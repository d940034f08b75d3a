/** What a moving arc makes of a section's answer: factors that core/hot works out, and every forecast can take. */

export interface SeamFactors {
	joint: string;
	/** on the pull of each run of the first pass, by its id */
	force: Record<string, number>;
	/** mm, and the factor on the shrinkage across there: straight between */
	stations: { atMm: number; across: number }[];
	/** mm, largest gap ahead of any arc */
	gapMm: number;
	/** mm, lowest and highest over the range of the hot metal, where it was looked for */
	gapRange: readonly [number, number];
	/** N/mm per mm: how the rest of the piece held the edges */
	heldNmm2: number;
	/** what other seams had left before its first arc was in it */
	isWarm: boolean;
	isBalanced: boolean;
}

export interface HotFactors {
	seams: SeamFactors[];
	/** the same seams with other plausible hot metals, where they were asked about: each cause with its one or two ends */
	ends?: { label: string; seams: SeamFactors[][] }[];
	/** seams that could not be watched, and why */
	leftOut: { joint: string; words: string }[];
}

/** The factor across at a place. */
export function acrossAt({ stations }: SeamFactors, atMm: number): number {
	let i = 1;
	while (i < stations.length - 1 && stations[i].atMm < atMm) i++;
	const [a, b] = [stations[i - 1], stations[i]];
	const f = Math.min(1, Math.max(0, (atMm - a.atMm) / (b.atMm - a.atMm)));
	return a.across + f * (b.across - a.across);
}
