/**
 * What stands between the two edges, a link a node of the seam: open (the edges may part but not run into one another), molten (the
 * same, with nothing to pull), joined (both ways, at the gap it had when the pool set). An arc is taken to fuse what it passes; whether
 * the heat was enough for it is told by the width of the melt.
 */
import type { HotGrid } from './grid';
import type { HotSeam } from './seam';

export const LINK = { open: 0, molten: 1, joined: 2 } as const;
export type LinkState = (typeof LINK)[keyof typeof LINK];

export interface Link {
	/** mm along the seam, and of seam that it stands for */
	at: number;
	length: number;
	/** node of the first sheet, and of the second (-1: the mirror image) */
	node: number;
	other: number;
	state: LinkState;
	/** mm: opening across and slip along at which it was joined */
	across: number;
	along: number;
	/** index of the tack it belongs to, or -1 */
	tack: number;
	/** the arc has been over it */
	isMelted: boolean;
	/** N across in the state last worked out: positive pulls the edges together */
	force: number;
}

/** Stiffness of a touching or joined pair over that of the sheet beside it. */
const STIFF = 10;
/** mm of cell that the stiffness is told for */
const PER_MM = 2.5;

export class SeamLinks {
	readonly all: Link[];
	/** N/mm of one link */
	readonly stiffness: number;
	/** mm of gap at the start that is this side's: half of it before the mirror */
	readonly openBy: number;
	private readonly isMirrored: boolean;

	constructor(
		private readonly seam: HotSeam,
		private readonly grid: HotGrid
	) {
		const { x, y, seamRow } = grid;
		const dx = x[1] - x[0];
		this.isMirrored = seam.sheets.length === 1;
		this.openBy = seam.gapMm * (this.isMirrored ? 0.5 : 1);
		this.stiffness = Math.max(...seam.sheets.map((s) => s.metal.e20 * s.thicknessMm)) * STIFF * (dx / PER_MM);
		this.all = Array.from(x, (at, i) => {
			const node = i * y.length + seamRow;
			const tack = seam.tacks.findIndex((t) => Math.abs(at - t.atMm) <= Math.max(t.lengthMm, dx) / 2 + 1e-6);
			const isWelded = seam.isOnePiece || seam.welded.some(([from, to]) => at >= from - 1e-6 && at <= to + 1e-6);
			return {
				at,
				length: dx * (i === 0 || i === x.length - 1 ? 0.5 : 1),
				node,
				other: this.isMirrored ? -1 : node - 1,
				state: tack >= 0 || isWelded ? LINK.joined : LINK.open,
				across: 0,
				along: 0,
				tack,
				isMelted: false,
				force: 0
			};
		});
	}

	/** mm that the edges have parted since the start, of this side */
	opening(l: Link, u: Float64Array): number {
		return u[2 * l.node + 1] - (l.other >= 0 ? u[2 * l.other + 1] : 0);
	}
	private slip(l: Link, u: Float64Array): number {
		return l.other >= 0 ? u[2 * l.node] - u[2 * l.other] : 0;
	}

	/** mm between the edges by node, the gap at the start with it */
	gaps(u: Float64Array): Float64Array {
		return Float64Array.from(this.all, (l) => (this.isMirrored ? 2 : 1) * this.opening(l, u) + this.seam.gapMm);
	}

	/** What the arc has passed in a step, and all that is hotter than the melt, is liquid. */
	melt(temperatures: Float64Array, passed: readonly [number, number] | null): void {
		if (this.seam.isOnePiece) return;
		for (const l of this.all) {
			const isUnder = passed !== null && l.at > Math.min(...passed) - 0.01 && l.at < Math.max(...passed) + 0.01;
			if (l.state === LINK.molten || !(isUnder || temperatures[l.node] >= this.seam.sheets[0].metal.melts[1])) continue;
			l.state = LINK.molten;
			l.isMelted = true;
		}
	}

	/** What has set is joined as it lies: no closer than the edges can come. */
	freeze(temperatures: Float64Array, u: Float64Array): void {
		for (const l of this.all) {
			if (l.state !== LINK.molten || temperatures[l.node] >= this.seam.sheets[0].metal.joinsC) continue;
			l.state = LINK.joined;
			l.across = Math.max(this.opening(l, u), -this.openBy);
			l.along = this.slip(l, u);
		}
	}

	/** Adds the links' forces. */
	push(u: Float64Array, f: Float64Array): void {
		for (const l of this.all) {
			const g = this.opening(l, u);
			const isJoined = l.state === LINK.joined;
			l.force = isJoined ? this.stiffness * (g - l.across) : g + this.openBy < 0 ? this.stiffness * (g + this.openBy) : 0;
			this.pair(2 * l.node + 1, l.other < 0 ? -1 : 2 * l.other + 1, l.force, f);
			if (isJoined && l.other >= 0) this.pair(2 * l.node, 2 * l.other, this.stiffness * (this.slip(l, u) - l.along), f);
		}
	}

	/** Adds the stiffness of what is joined or touches; `k` by rows of the band. */
	stiffen(u: Float64Array, k: Float64Array, band: number): void {
		const w = band + 1;
		const join = (a: number, b: number) => {
			k[a * w + band] += this.stiffness;
			if (b < 0) return;
			k[b * w + band] += this.stiffness;
			k[a * w + band + b - a] -= this.stiffness;
		};
		for (const l of this.all) {
			const isJoined = l.state === LINK.joined;
			if (isJoined || this.opening(l, u) + this.openBy < 0) join(2 * l.node + 1, l.other < 0 ? -1 : 2 * l.other + 1);
			if (isJoined && l.other >= 0) join(2 * l.node, 2 * l.other);
		}
	}

	private pair(a: number, b: number, force: number, f: Float64Array): void {
		f[a] += force;
		if (b >= 0) f[b] -= force;
	}
}
