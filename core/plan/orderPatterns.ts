/** Weld orders by school. Every pattern is a starting order that stays editable; run lengths are common practice, no source. */
import { distance } from '../geometry/vec';
import type { PlanDocument, Run } from './schema';
import { centreOf, isRing, mitredCorners, ringsInRow, twoSided, weldedSeams, type MitredCorner } from './seamShape';
import { datumIsNear, oppositeInTurn, trueCorner, type SeamInSpace } from './space';
import { Refusal } from '../refusal/refusal';

export const ORDER_PATTERNS = [
	'straight-through',
	'one-hit',
	'back-step',
	'skip-round',
	'spread-then-join',
	'quarters',
	'cross-hatch',
	'alternate-sides',
	'mitre-outside-first',
	'mitre-face-first',
	'chained',
	'staggered'
] as const;
export type OrderPattern = (typeof ORDER_PATTERNS)[number];

export interface OrderRule {
	pattern: OrderPattern;
	runLengthMm: number;
	/** intermittent welds: from the start of one to the start of the next, mm */
	pitchMm?: number;
}

export const DEFAULT_ORDER: OrderRule = { pattern: 'back-step', runLengthMm: 50 };
/** Intermittent: 25 mm in 75. */
export const DEFAULT_PITCH_MM = 75;
export const DEFAULT_LENGTH_MM = 25;

export const ORDER_WORDS: Record<OrderPattern, string> = {
	'straight-through': 'Straight through: each seam in one direction, seam after seam',
	'one-hit': 'One hit per seam, opposite seams in turn',
	'back-step': 'Back-step per seam, opposite seams in turn',
	'skip-round': 'Skip round: one run, then another seam each time',
	'spread-then-join': 'Spread, then join the dots',
	quarters: 'Rings in quarters, opposite quarters in turn',
	'cross-hatch': 'Row of rings cross-hatched: ends in turn, opposite quarters',
	'alternate-sides': 'Both sides in turn, run by run',
	'mitre-outside-first': 'Mitre: outside first, faces from inside out, inside fillet last',
	'mitre-face-first': 'Mitre: one face first, outside, other face, inside fillet last',
	chained: 'Intermittent, chained: the same places on both sides',
	staggered: 'Intermittent, staggered: sides in turn along the seam'
};

export const isIntermittent = (p: OrderPattern) => p === 'chained' || p === 'staggered';

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

/** @returns why a school does not apply to these seams, or undefined */
export function orderDoesNotApply(plan: PlanDocument, rule: OrderRule, joints?: readonly string[]): string | undefined {
	const { seams } = weldedSeams(plan, joints);
	if (!seams.length) return 'There is no seam to weld here.';
	switch (rule.pattern) {
		case 'spread-then-join':
			return seams.some((s) => splitSeam(s.lengthMm, rule.runLengthMm).length >= 4)
				? undefined
				: 'No seam here is four runs long, so there is nothing to spread: take shorter runs or another school.';
		case 'quarters':
			return seams.some(isRing) ? undefined : 'No seam here is a ring: quarters are for girths, collars and sockets.';
		case 'cross-hatch':
			return ringsInRow(seams) ? undefined : 'Cross-hatching is for three or more rings in a row, such as sockets on a tube: there are none here.';
		case 'alternate-sides':
			return twoSided(seams).length ? undefined : 'No sheet here is welded on both sides along one line.';
		case 'mitre-outside-first':
		case 'mitre-face-first': {
			const corners = mitredCorners(seams);
			if (!corners.length) return 'No mitred corner here: two members that meet along faces.';
			return corners.some((c) => c.inside.length || c.outside.length)
				? undefined
				: 'These mitres have faces only (flat bar): there is no outside or inside seam to set apart.';
		}
		case 'chained':
		case 'staggered': {
			const barred = seams.find((s) => !s.joint.intermittent);
			if (barred)
				return `“${barred.joint.name}” must be welded all along: tick that strength and tightness allow lengths with gaps between, in its joint.`;
			const pitch = rule.pitchMm ?? DEFAULT_PITCH_MM;
			if (!(pitch > rule.runLengthMm)) return `The pitch (${pitch} mm) must be longer than each weld (${rule.runLengthMm} mm).`;
			if (rule.pattern === 'staggered' && !twoSided(seams).length) return 'No sheet here is welded on both sides along one line: chain it instead.';
			return undefined;
		}
		default:
			return undefined;
	}
}

interface Piece {
	seam: SeamInSpace;
	/** the end nearer the true corner, and the other */
	near: number;
	far: number;
	index: number;
}

/** One run to lay: a piece, and whether away from the near end. */
interface Laid {
	piece: Piece;
	away: boolean;
}

/**
 * @param joints seams to lay, or all. Locked runs of these seams stay as they are and where they are in the order.
 * @returns new runs for those seams in weld order
 * @throws RangeError where the school does not apply
 */
export function orderPattern(plan: PlanDocument, rule: OrderRule, joints?: readonly string[]): Run[] {
	const { all, seams: given } = weldedSeams(plan, joints);
	if (!given.length) return [];
	const why = orderDoesNotApply(plan, rule, joints);
	if (why) throw new Refusal(why);
	const corner = trueCorner(plan, all);
	const seams = oppositeInTurn(given, corner);
	const locked = plan.runs.filter((r) => r.locked && seams.some((s) => s.joint.id === r.joint));
	const pieces = (s: SeamInSpace, bounds = splitSeam(s.lengthMm, rule.runLengthMm)): Piece[] => {
		const list = bounds.flatMap((b) =>
			without(
				b,
				locked.filter((r) => r.joint === s.joint.id)
			)
		);
		const out = datumIsNear(s, corner) ? list.map(([a, b]) => ({ near: a, far: b })) : list.map(([a, b]) => ({ near: b, far: a })).reverse();
		return out.map((p, index) => ({ seam: s, ...p, index }));
	};
	const away = (piece: Piece): Laid => ({ piece, away: true });
	const back = (piece: Piece): Laid => ({ piece, away: false });
	const backStep = (s: SeamInSpace) => pieces(s).map(back);

	const lay = (): Laid[] => {
		switch (rule.pattern) {
			case 'straight-through':
				return [...seams].sort((p, q) => all.indexOf(p) - all.indexOf(q)).flatMap((s) => pieces(s).map(away));
			case 'one-hit':
				return seams.flatMap((s) => pieces(s, [[0, s.lengthMm]]).map(away));
			case 'back-step':
				// progress away from the corner, each run laid back towards it
				return seams.flatMap(backStep);
			case 'skip-round':
				return inTurn(
					seams.map((s) => {
						const list = pieces(s);
						return spreadOrder(list.length).map((i) => away(list[i]));
					})
				);
			case 'spread-then-join': {
				// every other run far apart first, on all seams; then the gaps between are joined
				const lists = seams.map((s) => pieces(s));
				const spread = lists.map((list) => {
					const dots = list.filter((_, i) => i % 2 === 0);
					return spreadOrder(dots.length).map((i) => away(dots[i]));
				});
				const join = lists.map((list) => {
					const gaps = list.filter((_, i) => i % 2 === 1);
					return spreadOrder(gaps.length).map((i) => away(gaps[i]));
				});
				return [...spread.flat(), ...join.flat()];
			}
			case 'quarters': {
				const rings = seams.filter(isRing);
				return [...rings.flatMap((s) => ringQuarters(pieces(s, quarterBounds(s))).map(away)), ...seams.filter((s) => !isRing(s)).flatMap(backStep)];
			}
			case 'cross-hatch': {
				const row = ringsInRow(seams)!;
				const turn = endsInTurn(row.length).map((i) => ringQuarters(pieces(row[i], quarterBounds(row[i]))));
				// one pair of opposite quarters on every ring, from alternate ends; then the crossing pair, the other way round
				const first = turn.flatMap((q) => q.slice(0, 2));
				const second = [...turn].reverse().flatMap((q) => q.slice(2));
				return [...first.map(away), ...second.map(away), ...seams.filter((s) => !row.includes(s)).flatMap(backStep)];
			}
			case 'alternate-sides': {
				const pairs = twoSided(seams);
				const paired = new Set(pairs.flat());
				return [...pairs.flatMap(([p, q]) => inTurn([backStep(p), backStep(q)])), ...seams.filter((s) => !paired.has(s)).flatMap(backStep)];
			}
			case 'mitre-outside-first':
			case 'mitre-face-first': {
				const corners = oppositeCorners(mitredCorners(seams));
				const done = new Set(corners.flatMap((c) => [...c.outside, ...c.faces, ...c.inside]));
				const centre = centreOf(seams);
				const whole = (s: SeamInSpace) => pieces(s, [[0, s.lengthMm]]).map(away);
				/** laid from its inner end outwards */
				const insideOut = (s: SeamInSpace) =>
					pieces(s, [[0, s.lengthMm]]).map((piece): Laid => ({
						piece,
						away: distance(s.at(piece.near), centre) <= distance(s.at(piece.far), centre)
					}));
				const mitre = (c: MitredCorner) =>
					rule.pattern === 'mitre-outside-first'
						? [...c.outside.flatMap(whole), ...c.faces.flatMap(insideOut), ...c.inside.flatMap(whole)]
						: [
								...c.faces.slice(0, 1).flatMap(insideOut),
								...c.outside.flatMap(whole),
								...c.faces.slice(1).flatMap(insideOut),
								...c.inside.flatMap(whole)
							];
				return [...corners.flatMap(mitre), ...seams.filter((s) => !done.has(s)).flatMap(backStep)];
			}
			case 'chained':
			case 'staggered': {
				const pitch = rule.pitchMm ?? DEFAULT_PITCH_MM;
				const pairs = twoSided(seams);
				const second = new Set(pairs.map(([, q]) => q));
				const lengths = (s: SeamInSpace) =>
					pieces(s, intermittent(s.lengthMm, rule.runLengthMm, pitch, rule.pattern === 'staggered' && second.has(s))).map(back);
				const paired = new Set(pairs.flat());
				return [...pairs.flatMap(([p, q]) => inTurn([lengths(p), lengths(q)])), ...seams.filter((s) => !paired.has(s)).flatMap(lengths)];
			}
		}
	};

	const runs = lay().map(({ piece, away: out }): Run => ({
		id: freshId(piece, locked),
		joint: piece.seam.joint.id,
		fromMm: out ? piece.near : piece.far,
		toMm: out ? piece.far : piece.near,
		pass: 1
	}));
	// the joint that takes up the error of the rest comes last
	const last = (r: Run) => r.joint === plan.fitUp.adjustingJoint;
	return withLocked([...runs.filter((r) => !last(r)), ...runs.filter(last)], locked, plan.runs);
}

const freshId = ({ seam, index }: Piece, locked: readonly Run[]) => {
	let id = `r-${seam.joint.id}-${index + 1}`;
	while (locked.some((r) => r.id === id)) id += 'x';
	return id;
};

/** A stretch less what locked runs cover; scraps under 2 mm are left to their neighbours. */
function without([from, to]: [number, number], locked: readonly Run[]): [number, number][] {
	let open: [number, number][] = [[from, to]];
	for (const r of locked) {
		const [lo, hi] = [Math.min(r.fromMm, r.toMm), Math.max(r.fromMm, r.toMm)];
		open = open.flatMap(([a, b]): [number, number][] =>
			hi <= a || lo >= b
				? [[a, b]]
				: [
						[a, lo],
						[hi, b]
					]
		);
	}
	return open.filter(([a, b]) => b - a >= (to - from < 2 ? 0 : 2));
}

/** New runs of some seams in an order: they stand where the first of the old ones stood; locked runs keep their places among all. */
export function putInOrder(before: readonly Run[], fresh: readonly Run[], joints: readonly string[]): Run[] {
	const rest = before.filter((r) => !joints.includes(r.joint));
	const first = before.findIndex((r) => joints.includes(r.joint));
	const at = first < 0 ? rest.length : first;
	const next = [...rest.slice(0, at), ...fresh, ...rest.slice(at)];
	return withLocked(
		next.filter((r) => !r.locked),
		before.filter((r) => r.locked),
		before
	);
}

/** Puts locked runs back at the places they had among all runs. */
function withLocked(fresh: Run[], locked: readonly Run[], before: readonly Run[]): Run[] {
	const out = [...fresh];
	for (const r of locked) out.splice(Math.min(out.length, before.indexOf(r)), 0, r);
	return out;
}

/** One of each list in turn until all are used. */
function inTurn(lists: readonly Laid[][]): Laid[] {
	const out: Laid[] = [];
	for (let round = 0; lists.some((l) => round < l.length); round++) for (const l of lists) if (round < l.length) out.push(l[round]);
	return out;
}

const quarterBounds = (s: SeamInSpace): [number, number][] => Array.from({ length: 4 }, (_, i) => [(s.lengthMm * i) / 4, (s.lengthMm * (i + 1)) / 4]);

/** First and third, then second and fourth: each against the one opposite. */
const ringQuarters = (list: readonly Piece[]): Piece[] => (list.length === 4 ? [0, 2, 1, 3].map((i) => list[i]) : [...list]);

/** 0, n-1, 1, n-2, ... */
export const endsInTurn = (n: number): number[] => Array.from({ length: n }, (_, i) => (i % 2 === 0 ? i / 2 : n - (i + 1) / 2));

function oppositeCorners(corners: MitredCorner[]): MitredCorner[] {
	const middle = (c: MitredCorner) => c.faces[0].middle;
	const left = [...corners];
	const out: MitredCorner[] = [];
	while (left.length) {
		const last = out[out.length - 1];
		const pick =
			last && out.length % 2 === 1
				? left.reduce((best, c) => (distance(middle(c), middle(last)) > distance(middle(best), middle(last)) + 1e-6 ? c : best), left[0])
				: left[0];
		out.push(pick);
		left.splice(left.indexOf(pick), 1);
	}
	return out;
}

/** Lengths of weld at a pitch, the whole set in the middle of the seam; the staggered side lies half a pitch on. */
export function intermittent(lengthMm: number, weldMm: number, pitchMm: number, shifted: boolean): [number, number][] {
	const n = Math.max(1, Math.floor((lengthMm - weldMm) / pitchMm + 1e-9) + 1);
	const start = (lengthMm - ((n - 1) * pitchMm + weldMm)) / 2;
	const round = (x: number) => Math.round(x * 10) / 10;
	return Array.from({ length: n }, (_, i): [number, number] => {
		const from = start + i * pitchMm + (shifted ? pitchMm / 2 : 0);
		return [round(Math.min(from, lengthMm)), round(Math.min(from + weldMm, lengthMm))];
	}).filter(([a, b]) => b - a >= Math.min(weldMm, lengthMm) / 2);
}
