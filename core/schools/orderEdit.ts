/** Edits of a weld order by hand: each takes the runs and gives new ones, or says why it cannot be. Locked runs keep their places. */
import type { Run } from '../document/schema';
import { Refusal } from '../refusal/refusal';

const length = (r: Run) => Math.abs(r.toMm - r.fromMm);
const low = (r: Run) => Math.min(r.fromMm, r.toMm);
const high = (r: Run) => Math.max(r.fromMm, r.toMm);
/** A run shorter than this is not worth striking an arc for, mm. */
const SHORTEST_MM = 5;
/** Ends this near each other are one mark, mm. */
const TOUCHING_MM = 0.5;

const picked = (runs: readonly Run[], ids: ReadonlySet<string>) => runs.filter((r) => ids.has(r.id));

/** Sets the free runs in a new sequence around the locked ones. */
function aroundLocked(runs: readonly Run[], sequence: readonly Run[]): Run[] {
	const free = sequence.filter((r) => !r.locked);
	return runs.map((r) => (r.locked ? r : free.shift()!));
}

/** Moves the picked runs, keeping their own sequence, so that they stand before place `to` of the order as it is. */
export function moveRuns(runs: readonly Run[], ids: ReadonlySet<string>, to: number): Run[] {
	const moving = picked(runs, ids);
	if (moving.some((r) => r.locked)) throw new Refusal('A locked run keeps its place: unlock it first.');
	const before = runs.slice(0, to).filter((r) => !ids.has(r.id));
	const after = runs.slice(to).filter((r) => !ids.has(r.id));
	return aroundLocked(runs, [...before, ...moving, ...after]);
}

/** One place earlier or later, as a group. */
export function nudgeRuns(runs: readonly Run[], ids: ReadonlySet<string>, by: -1 | 1): Run[] {
	const at = runs.flatMap((r, i) => (ids.has(r.id) ? [i] : []));
	if (!at.length) return [...runs];
	const to = by < 0 ? at[0] - 1 : at[at.length - 1] + 2;
	if (to < 0 || to > runs.length) return [...runs];
	return moveRuns(runs, ids, to);
}

export const reverseRuns = (runs: readonly Run[], ids: ReadonlySet<string>): Run[] =>
	runs.map((r) => (ids.has(r.id) ? { ...r, fromMm: r.toMm, toMm: r.fromMm } : r));

const without = (r: Run, key: 'cooling' | 'locked' | 'waitBeforeS'): Run => {
	const out = { ...r };
	delete out[key];
	return out;
};
export const lockRuns = (runs: readonly Run[], ids: ReadonlySet<string>, locked: boolean): Run[] =>
	runs.map((r) => (ids.has(r.id) ? (locked ? { ...r, locked } : without(r, 'locked')) : r));

export const coolBefore = (runs: readonly Run[], ids: ReadonlySet<string>, cooling: NonNullable<Run['cooling']>): Run[] =>
	runs.map((r) => (ids.has(r.id) ? (cooling === 'still' ? without(r, 'cooling') : { ...r, cooling }) : r));

/** Cuts each picked run in equal parts that follow one another. */
export function splitRuns(runs: readonly Run[], ids: ReadonlySet<string>, parts: number): Run[] {
	const short = picked(runs, ids).find((r) => length(r) / parts < SHORTEST_MM);
	if (short) throw new Refusal(`A part would be ${(length(short) / parts).toFixed(1)} mm long: at least ${SHORTEST_MM} mm makes a run.`);
	if (picked(runs, ids).some((r) => r.locked)) throw new Refusal('A locked run stays as it is: unlock it first.');
	const used = new Set(runs.map((r) => r.id));
	const fresh = (id: string) => {
		let n = 2;
		while (used.has(`${id}-${n}`)) n++;
		used.add(`${id}-${n}`);
		return `${id}-${n}`;
	};
	return runs.flatMap((r) => {
		if (!ids.has(r.id)) return [r];
		const at = (i: number) => Math.round((r.fromMm + ((r.toMm - r.fromMm) * i) / parts) * 10) / 10;
		return Array.from({ length: parts }, (_, i) => ({
			...(i ? without(without(r, 'waitBeforeS'), 'cooling') : r),
			id: i ? fresh(r.id) : r.id,
			fromMm: i ? at(i) : r.fromMm,
			toMm: i === parts - 1 ? r.toMm : at(i + 1)
		}));
	});
}

/** Makes one run of picked ones that touch end to end on one seam: laid as the first of them is, where the first of them stands. */
export function joinRuns(runs: readonly Run[], ids: ReadonlySet<string>): Run[] {
	const list = picked(runs, ids);
	if (list.length < 2) throw new Refusal('Pick two or more runs that touch, on one seam.');
	const [first] = list;
	if (list.some((r) => r.joint !== first.joint || r.pass !== first.pass)) throw new Refusal('Runs of different seams or passes cannot become one.');
	if (list.some((r) => r.locked)) throw new Refusal('A locked run stays as it is: unlock it first.');
	const along = [...list].sort((p, q) => low(p) - low(q));
	const gap = along.slice(1).find((r, i) => low(r) - high(along[i]) > TOUCHING_MM);
	if (gap)
		throw new Refusal(
			`Between ${high(along[along.indexOf(gap) - 1])} and ${low(gap)} mm there is other work or none: only runs that touch can become one.`
		);
	const [from, to] = [low(along[0]), high(along[along.length - 1])];
	const whole = { ...first, ...(first.toMm > first.fromMm ? { fromMm: from, toMm: to } : { fromMm: to, toMm: from }) };
	return runs.flatMap((r) => (r.id === first.id ? [whole] : ids.has(r.id) ? [] : [r]));
}

export type RunEnd = 'low' | 'high';

/** The run that meets this one there, end to end in one pass, if any: their bound is one mark on the steel. */
const meets = (runs: readonly Run[], run: Run, end: RunEnd) =>
	runs.find(
		(r) =>
			r.id !== run.id &&
			r.joint === run.joint &&
			r.pass === run.pass &&
			Math.abs(end === 'low' ? high(r) - low(run) : low(r) - high(run)) <= TOUCHING_MM
	);

/**
 * Where a bound of a run may be put, mm: neither it nor the run that meets it there may become too short or leave the seam.
 * Undefined where a locked run keeps it.
 */
export function boundRange(runs: readonly Run[], id: string, end: RunEnd, seamMm: number): [number, number] | undefined {
	const run = runs.find((r) => r.id === id)!;
	const next = meets(runs, run, end);
	if (run.locked || next?.locked) return undefined;
	return end === 'low'
		? [next ? low(next) + SHORTEST_MM : 0, high(run) - SHORTEST_MM]
		: [low(run) + SHORTEST_MM, next ? high(next) - SHORTEST_MM : seamMm];
}

/** Puts a bound of a run at another station; a run that meets it there goes with it, so that nothing is left out or welded twice. */
export function moveBound(runs: readonly Run[], id: string, end: RunEnd, to: number): Run[] {
	const run = runs.find((r) => r.id === id)!;
	const next = meets(runs, run, end);
	if (run.locked || next?.locked) throw new Refusal('A locked run stays as it is: unlock it first.');
	const put = (r: Run, e: RunEnd): Run => (r.fromMm < r.toMm === (e === 'low') ? { ...r, fromMm: to } : { ...r, toMm: to });
	return runs.map((r) => (r.id === id ? put(r, end) : r.id === next?.id ? put(r, end === 'low' ? 'high' : 'low') : r));
}

/** Lays the picked runs of each seam in sequence along it, each pointing back against that progress. */
export function backStepRuns(runs: readonly Run[], ids: ReadonlySet<string>): Run[] {
	const list = picked(runs, ids);
	if (list.some((r) => r.locked)) throw new Refusal('A locked run keeps its place and direction: unlock it first.');
	const seams = [...new Set(list.map((r) => r.joint))];
	const laid = seams.flatMap((joint) => {
		const own = list.filter((r) => r.joint === joint);
		// the way they progress now is kept
		const onwards = own.length < 2 || low(own[own.length - 1]) >= low(own[0]);
		const along = [...own].sort((p, q) => (onwards ? low(p) - low(q) : low(q) - low(p)));
		return along.map((r) => (onwards ? { ...r, fromMm: high(r), toMm: low(r) } : { ...r, fromMm: low(r), toMm: high(r) }));
	});
	return runs.map((r) => (ids.has(r.id) ? laid.shift()! : r));
}
