/**
 * Where a piece stands, from its steps and the lines of its log: what is behind it, what was left for later or taken before its turn, what
 * a tap took back, and what is next. Page, board, record and server ask here. Nothing is erased: a tap is taken back by a line of its own.
 */
import type { EventKind } from '../document/words';
import type { Up } from '../layout/positions';
import type { BenchStep } from './benchSteps';
import type { EventData } from './happenings';

export interface LogLine {
	clientId: string;
	kind: EventKind;
	step?: string | null;
	note?: string | null;
	/** the line that this one closes or takes back */
	about?: string | null;
	data?: EventData | null;
	/** ms since 1970 */
	at: number;
}

/** needless: a turn that the piece has made already, a wait for what is done */
export type StepState = 'open' | 'done' | 'passed' | 'needless';
export interface StepNow {
	step: BenchStep;
	state: StepState;
	/** left for later, and not taken up again */
	isSkipped: boolean;
	/** stretches of a run that lie, in the order and direction they were laid, mm; `at`: when the arc went out, as it was tapped */
	laid: { fromMm: number; toMm: number; at: number }[];
	/** of a run that lies in part: what is still to be laid, in its own direction, the longest first */
	rest?: [number, number][];
	/** the line that put it behind */
	by?: LogLine;
}

export interface Standing<L extends LogLine = LogLine> {
	/** lines that stand: without those taken back and the lines that took them back */
	lines: L[];
	steps: StepNow[];
	current?: StepNow;
	isStarted: boolean;
	isFinished: boolean;
	isPaused: boolean;
	/** the side of the piece that is up */
	lies: Up;
	/** what "take back" would take back */
	last?: L;
}

/** Lines that a person can take back; what the program writes by itself, the start and what closes a problem stay. */
const TAKEN_BACK: readonly EventKind[] = [
	'step-done',
	'step-problem',
	'step-skipped',
	'step-taken',
	'laid',
	'happened',
	'paused',
	'resumed',
	'finished',
	'note',
	'hold-signed',
	'hold-released'
];
export const mayTakeBack = (kind: EventKind) => TAKEN_BACK.includes(kind);
/** A rest of a run shorter than this is laid, mm: nobody strikes an arc for it. */
const NOTHING_LEFT_MM = 2;

/** Lines that were not taken back. */
export function standing<L extends Pick<LogLine, 'clientId' | 'kind' | 'about'>>(lines: readonly L[]): L[] {
	const gone = new Set(lines.filter((l) => l.kind === 'undone').map((l) => l.about));
	return lines.filter((l) => l.kind !== 'undone' && !gone.has(l.clientId));
}

export function whereItStands<L extends LogLine>(steps: readonly BenchStep[], log: readonly L[]): Standing<L> {
	const lines = standing(log);
	const now = new Map(steps.map((step): [string, StepNow] => [step.id, { step, state: 'open', isSkipped: false, laid: [] }]));
	let lies: Up = 'top';
	let taken: string | undefined;
	for (const line of lines) {
		const s = now.get(line.step ?? '');
		if (!s) continue;
		take(s, line);
		if (isWork(line)) lies = liesFor(s.step) ?? lies;
		if (line.kind === 'step-taken') taken = s.step.id;
		if (line.kind === 'step-skipped' && taken === s.step.id) taken = undefined;
	}
	const list = [...now.values()];
	setNeedless(list, now, lies);
	return {
		lines,
		steps: list,
		current: currentOf(list, taken),
		isStarted: lines.some((l) => l.kind === 'started'),
		isFinished: lines.some((l) => l.kind === 'finished'),
		isPaused: lastOf(lines, ['paused', 'resumed'])?.kind === 'paused',
		lies,
		last: lastOf(lines, TAKEN_BACK)
	};
}

/** Turns and waits that nothing asks for any more. */
function setNeedless(list: readonly StepNow[], now: ReadonlyMap<string, StepNow>, lies: Up) {
	for (const s of list) {
		const { step, state } = s;
		if (state !== 'open' || (step.kind !== 'flip' && step.kind !== 'wait')) continue;
		// a plan that was changed under way puts them before what is behind the piece already
		const its = now.get(`run:${step.before}`) ?? now.get(step.before);
		// a piece that was turned for a run out of its turn lies as a later turn would have it
		const isTurned = step.kind === 'flip' && step.up === lies && isAhead(list, s);
		if (isTurned || (its && its.state !== 'open')) s.state = 'needless';
	}
}

/** What a line does to its own step. */
function take(s: StepNow, line: LogLine) {
	switch (line.kind) {
		case 'step-done':
			if (s.step.kind === 'sign') return;
			if (s.step.kind === 'run') {
				const { fromMm, toMm } = s.step;
				for (const [from, to] of s.rest ?? [[fromMm, toMm]]) s.laid.push({ fromMm: from, toMm: to, at: line.at });
				s.rest = undefined;
			}
			return putBehind(s, 'done', line);
		case 'hold-signed':
		case 'hold-released':
			if (s.step.kind === 'sign') putBehind(s, line.kind === 'hold-signed' ? 'done' : 'passed', line);
			return;
		case 'step-problem':
			// what is wrong at a hold is put right before it is signed
			if (s.step.kind !== 'sign') putBehind(s, 'passed', line);
			return;
		case 'step-skipped':
		case 'step-taken':
			s.isSkipped = line.kind === 'step-skipped';
			return;
		case 'laid':
			lay(s, line);
	}
}
function putBehind(s: StepNow, state: 'done' | 'passed', by: LogLine) {
	s.state = state;
	s.by = by;
	s.isSkipped = false;
}
const isWork = (line: LogLine) => line.kind === 'step-done' || line.kind === 'step-problem' || line.kind === 'laid';

const lastOf = <L extends LogLine>(lines: readonly L[], kinds: readonly EventKind[]): L | undefined =>
	lines.reduce<L | undefined>((last, l) => (kinds.includes(l.kind) ? l : last), undefined);
const liesFor = (s: BenchStep): Up | undefined => (s.kind === 'flip' ? s.up : s.kind === 'run' ? s.lies : undefined);
/** Is a turn the next one of the list? */
const isAhead = (list: readonly StepNow[], flip: StepNow) => list.find((s) => s.state === 'open' && s.step.kind === 'flip') === flip;

/** A stretch of a run lies: what is left of it. */
function lay(s: StepNow, line: LogLine) {
	const { fromMm: from, toMm: to } = line.data ?? {};
	const { step } = s;
	if (step.kind !== 'run' || from === undefined || to === undefined) return;
	s.laid.push({ fromMm: from, toMm: to, at: line.at });
	const way = Math.sign(step.toMm - step.fromMm);
	const along = (mm: number) => way * (mm - step.fromMm);
	const length = along(step.toMm);
	// stretches that no arc has passed
	const ends = s.laid.map(({ fromMm, toMm }) => [along(fromMm), along(toMm)].sort((p, q) => p - q) as [number, number]).sort((p, q) => p[0] - q[0]);
	const open: [number, number][] = [];
	let at = 0;
	for (const [lo, hi] of [...ends, [length, length]]) {
		if (lo - at >= NOTHING_LEFT_MM) open.push([at, lo]);
		at = Math.max(at, hi);
	}
	open.sort((p, q) => q[1] - q[0] - (p[1] - p[0]));
	s.rest = open.length ? open.map(([lo, hi]) => [step.fromMm + way * lo, step.fromMm + way * hi]) : undefined;
	if (!s.rest) putBehind(s, 'done', line);
}

/** What must be behind a piece before a step, of what is still open: in words of the steps themselves. */
export function blockers(list: readonly StepNow[], of: BenchStep): BenchStep[] {
	const at = list.findIndex((s) => s.step.id === of.id);
	return list
		.slice(0, at < 0 ? list.length : at)
		.filter((s) => s.state === 'open' && (s.step.kind === 'sign' ? !isA(of, 'wait', 'flip') : mustPrecede(s.step, of)))
		.map((s) => s.step)
		.concat(
			of.kind === 'run'
				? list.slice(at + 1).flatMap((s) => (s.state === 'open' && s.step.kind === 'run' && of.needs.includes(s.step.run) ? [s.step] : []))
				: []
		);
}

type Of<K extends BenchStep['kind']> = Extract<BenchStep, { kind: K }>;
const isA = (s: BenchStep, ...kinds: BenchStep['kind'][]) => kinds.includes(s.kind);

/** What an open run asks of what stands before it. */
function runNeeds(run: Of<'run'>, first: BenchStep): boolean {
	switch (first.kind) {
		case 'run':
			return run.needs.includes(first.run);
		case 'wait':
			return first.before === run.run;
		case 'purge':
			return first.on;
		case 'grind':
			return first.joint === run.joint;
		case 'look':
			return first.at === 'fit-up';
		default:
			return isA(first, 'parts', 'hold', 'tack', 'preset');
	}
}
const tackNeeds = (tack: Of<'tack'>, first: BenchStep): boolean =>
	first.kind === 'parts' ||
	(first.kind === 'hold' && first.on) ||
	(first.kind === 'preset' && first.joint === tack.joint) ||
	(first.kind === 'tack' && first.stage < tack.stage);
/** a check, a film, a reading as tacked can be made good later, but not once the next parts shut it in */
const closingNeeds = (first: BenchStep) => !isA(first, 'flip', 'wait');
const onOff = (s: { on: boolean }, first: BenchStep) => (s.on ? first.kind === 'parts' : isA(first, 'run', 'tack'));

/** Both are open and stand in this order in the plan: must the first be behind the piece before the second? */
const MUST: { [K in BenchStep['kind']]?: (second: Of<K>, first: BenchStep) => boolean } = {
	parts: (_, first) => closingNeeds(first),
	tack: tackNeeds,
	grind: (second, first) => first.kind === 'tack' && first.joint === second.joint,
	run: runNeeds,
	hold: onOff,
	purge: onOff,
	measure: (second, first) => isA(first, 'parts', 'tack') || (second.moment !== 'as-tacked' && isA(first, 'run', 'hold', 'wait')),
	look: (second, first) =>
		second.at === 'before-closing' ? closingNeeds(first) : first.kind === 'tack' || (second.at === 'pinholes' && first.kind === 'run'),
	// signed for all that has been done until then
	sign: (_, first) => !isA(first, 'flip', 'wait') || first.id === 'wait:purge',
	wait: (second, first) => second.id === 'wait:cold' && first.kind === 'run'
};
const mustPrecede = (first: BenchStep, second: BenchStep): boolean =>
	(MUST[second.kind] as ((second: BenchStep, first: BenchStep) => boolean) | undefined)?.(second, first) ?? false;

/** May a step be left for later? What only waits or turns for another step goes with that one. */
export const mayLeave = (step: BenchStep): boolean => !isA(step, 'wait', 'flip', 'parts', 'sign');

/** Steps that may be taken now instead of the one whose turn it is. */
export const free = (list: readonly StepNow[], current?: StepNow): StepNow[] =>
	list.filter(
		(s) =>
			s !== current &&
			s.state === 'open' &&
			s.step.kind !== 'wait' &&
			s.step.kind !== 'flip' &&
			!blockers(list, s.step).filter((b) => !isWaitFor(b, s.step)).length
	);
const isWaitFor = (b: BenchStep, step: BenchStep) => b.kind === 'wait' && step.kind === 'run' && b.before === step.run;

function currentOf(list: readonly StepNow[], taken: string | undefined): StepNow | undefined {
	const chosen = list.find((s) => s.step.id === taken && s.state === 'open');
	if (chosen) return leadIn(list, chosen);
	const open = list.filter((s) => s.state === 'open');
	const isFree = (s: StepNow) => !blockers(list, s.step).length;
	const next = open.find((s) => !s.isSkipped && isFree(s)) ?? open.find(isFree);
	return next && leadIn(list, next);
}
/** The wait and the turn that belong to a step come before it. */
function leadIn(list: readonly StepNow[], s: StepNow): StepNow {
	const { step } = s;
	const key = step.kind === 'run' ? step.run : step.id;
	return list.find((x) => x.state === 'open' && !x.isSkipped && (x.step.kind === 'wait' || x.step.kind === 'flip') && x.step.before === key) ?? s;
}
