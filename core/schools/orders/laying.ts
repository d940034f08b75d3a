/** Ways to lay runs that several schools share. */
import type { SeamInSpace } from '../../layout/space';
import type { Laid, Layout, Piece } from './school';

export const away = (piece: Piece): Laid => ({ piece, away: true });
export const back = (piece: Piece): Laid => ({ piece, away: false });

/** Progress away from the corner, each run laid back towards it. */
export const backStepped = (l: Layout, seam: SeamInSpace): Laid[] => l.pieces(seam).map(back);

/** Each seam in one run from its near end. */
export const whole = (l: Layout, seam: SeamInSpace): Laid[] => l.pieces(seam, [[0, seam.lengthMm]]).map(away);

/** What a school for some seams only does with the rest. */
export const othersBackStepped = (l: Layout, done: ReadonlySet<SeamInSpace>): Laid[] =>
	l.seams.filter((s) => !done.has(s)).flatMap((s) => backStepped(l, s));

/** One of each list in turn until all are used. */
export function inTurn<T>(lists: readonly (readonly T[])[]): T[] {
	const out: T[] = [];
	for (let round = 0; lists.some((l) => round < l.length); round++) for (const l of lists) if (round < l.length) out.push(l[round]);
	return out;
}

/** Bounds of equal runs of about the length asked for. */
export function splitSeam(lengthMm: number, runLengthMm: number): [number, number][] {
	const n = Math.max(1, Math.round(lengthMm / runLengthMm));
	const bound = (i: number) => (i === n ? lengthMm : Math.round((lengthMm * i * 10) / n) / 10);
	return Array.from({ length: n }, (_, i) => [bound(i), bound(i + 1)]);
}

/** 0..n-1 so that neighbours are laid far apart in time: ends, then middles of the gaps that are left. */
export function spreadOrder(n: number): number[] {
	const out: number[] = [];
	const open: [number, number][] = [[0, n - 1]];
	const taken = new Set<number>();
	const take = (i: number) => {
		if (i < 0 || i >= n || taken.has(i)) return;
		taken.add(i);
		out.push(i);
	};
	take(0);
	take(n - 1);
	for (let q = 0; q < open.length && out.length < n; q++) {
		const [lo, hi] = open[q];
		const mid = (lo + hi) >> 1;
		take(mid);
		if (mid - lo > 1) open.push([lo, mid]);
		if (hi - mid > 1) open.push([mid, hi]);
	}
	for (let i = 0; i < n; i++) take(i);
	return out;
}

/** 0, n-1, 1, n-2, ... */
export const endsInTurn = (n: number): number[] => Array.from({ length: n }, (_, i) => (i % 2 === 0 ? i / 2 : n - (i + 1) / 2));
