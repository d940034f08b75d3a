/**
 * What cutting a seam into runs does to their heat. A section takes its arc for one without beginning or end: its metal keeps its heat and
 * gets none from the seam's other stretches. In truth the heat of a short run flows out past its ends, and what other runs of the seam have
 * left, or bring soon after, flows in. Both are in the field of line sources that travel through a thin plate, each burning for as long as
 * its run lasts (superposition of sources: Rosenthal 1946; Carslaw & Jaeger, Conduction of Heat in Solids, chapter 10). Of that field only
 * a ratio is used: the highest temperature where the metal is about to yield, over that of a run without end.
 */
export interface OwnRun {
	/** mm along the seam; from which to which the arc goes */
	fromMm: number;
	toMm: number;
	/** s at which its arc starts, on the clock of all runs */
	startS: number;
	speedMmPerS: number;
	/** J/mm, net */
	heat: number;
}

export interface OwnSeam {
	lengthMm: number;
	/** a ring: it has no ends, and goes on round */
	isClosed: boolean;
	/** mm2/s */
	diffusivity: number;
	/** 1/s: share of a place's rise that it loses to the air */
	lossPerS: number;
	/** mm from the seam where the peak is asked for */
	atMm: number;
}

/** Places along a run where the peak is asked for. */
const PLACES = 5;
/** Times at which it is looked for, and how many times y2 / 4a after the arc has passed the last of them lies. */
const TIMES = 20;
const LAST = 8;
/** An arc's way is walked in steps of this share of the distance: the field is smooth over that. */
const FINENESS = 0.25;
/** Beyond this exponent nothing is left to add. */
const NOTHING = 25;

/** Rise at a place and time from one run, in units that cancel. @param at mm along the seam */
function rise(run: OwnRun, s: OwnSeam, at: number, time: number): number {
	const way = Math.sign(run.toMm - run.fromMm);
	const arcS = Math.abs(run.toMm - run.fromMm) / run.speedMmPerS;
	const burnt = Math.min(arcS, time - run.startS);
	if (burnt <= 0) return 0;
	const n = Math.max(4, Math.ceil((burnt * run.speedMmPerS) / (FINENESS * s.atMm)));
	let sum = 0;
	for (let i = 0; i < n; i++) {
		const since = ((i + 0.5) * burnt) / n;
		const gone = time - run.startS - since;
		const place = run.fromMm + way * run.speedMmPerS * since;
		const spread = 4 * s.diffusivity * gone;
		// a seam that ends has its sheet's edge there, which sends the heat back; a ring meets itself
		const others = s.isClosed ? [place - s.lengthMm, place + s.lengthMm] : [-place, 2 * s.lengthMm - place];
		for (const x of [place, ...others]) {
			const exponent = ((at - x) ** 2 + s.atMm ** 2) / spread + s.lossPerS * gone;
			if (exponent < NOTHING) sum += Math.exp(-exponent) / gone;
		}
	}
	return (run.heat * run.speedMmPerS * sum * burnt) / n;
}

/** Highest rise at a place while a run's heat goes by, from all runs given. */
function peak(run: OwnRun, all: readonly OwnRun[], s: OwnSeam, at: number): number {
	const passing = run.startS + Math.abs(at - run.fromMm) / run.speedMmPerS;
	const scale = s.atMm ** 2 / (4 * s.diffusivity);
	let most = 0;
	for (let k = 1; k <= TIMES; k++) {
		const time = passing + LAST * scale * (k / TIMES) ** 2;
		most = Math.max(
			most,
			all.reduce((sum, r) => sum + rise(r, s, at, time), 0)
		);
	}
	return most;
}

/** The peak beside a run without beginning or end. */
export function endlessPeak(run: Pick<OwnRun, 'speedMmPerS' | 'heat'>, s: Pick<OwnSeam, 'diffusivity' | 'lossPerS' | 'atMm'>): number {
	// far enough each way that more would add nothing while the peak goes by
	const reach = 12 * s.atMm + (2 * LAST * run.speedMmPerS * s.atMm ** 2) / (4 * s.diffusivity);
	const endless = { ...run, fromMm: 0, toMm: 2 * reach, startS: 0 };
	return peak(endless, [endless], { ...s, lengthMm: 1e9, isClosed: false }, reach);
}

/** By run, asked for beyond the seam itself (`atMm` above nothing): the peak at `atMm` from the seam, mean over the run's length, over that of a run without end; 1 is no change. */
export function ownRunShares(runs: readonly OwnRun[], s: OwnSeam): number[] {
	if (!(s.atMm > 0)) throw new RangeError(`atMm: ${s.atMm}, must be above 0`);
	return runs.map((run) => {
		const endless = endlessPeak(run, s);
		let sum = 0;
		for (let i = 0; i < PLACES; i++) sum += peak(run, runs, s, run.fromMm + ((i + 0.5) / PLACES) * (run.toMm - run.fromMm));
		return sum / PLACES / endless;
	});
}
