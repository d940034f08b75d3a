/** Who may sign at a hold, and what is locked until it is signed: the server asks here before it takes a line, the page before it offers one. */
import { SIGNER_WORDS, type EventKind } from '../document/words';
import type { BenchStep, StepOf } from './benchSteps';
import { whereItStands, type LogLine } from './logbook';

type Line = Pick<LogLine, 'kind' | 'step' | 'note' | 'about'>;

/** Roles of whoever taps, as the shop knows them; an admin stands in for a planner. */
export const maySign = (step: Pick<StepOf<'sign'>, 'signs'>, roles: readonly string[]): boolean =>
	roles.includes(step.signs) || (step.signs === 'planner' && roles.includes('admin'));
/** A hold is let go without a signature by who answers for the plan. */
export const mayRelease = (roles: readonly string[]): boolean => roles.includes('planner') || roles.includes('admin');

/** Lines that say that work was done. */
const WORK: readonly EventKind[] = ['step-done', 'step-problem', 'laid'];

/**
 * Why a line cannot be taken because of a hold, in words; nothing where it can.
 * @param stands lines before it that were not taken back; @param about the line that it takes back
 */
export function holdFault(
	steps: readonly BenchStep[],
	stands: Iterable<LogLine>,
	line: Line,
	roles: readonly string[],
	about?: Pick<LogLine, 'kind' | 'step'>
): string | undefined {
	const step = steps.find((s) => s.id === (line.kind === 'undone' ? about?.step : line.step));
	if (line.kind === 'undone') return about && step && undoFault(steps, stands, step, about.kind, roles);
	if (line.kind === 'hold-signed' || line.kind === 'hold-released') {
		if (step?.kind !== 'sign') return 'There is no such hold in the plan of this piece';
		if (line.kind === 'hold-released') {
			if (!mayRelease(roles)) return 'A hold is released by a planner';
			if (!line.note?.trim()) return 'Say why the hold is released';
		} else if (!maySign(step, roles)) return `“${step.title}”: this is signed by ${SIGNER_WORDS[step.signs]}`;
		return lockedBy(steps, stands, step.id) ?? openBefore(steps, stands, step);
	}
	if (!WORK.includes(line.kind) || !step) return undefined;
	if (step.kind === 'sign' && line.kind !== 'step-problem') return `“${step.title}” is signed, not done`;
	return lockedBy(steps, stands, step.id);
}

/** What is signed stays as it was signed: neither the signature nor the work under it is taken back by somebody else. */
function undoFault(steps: readonly BenchStep[], stands: Iterable<LogLine>, step: BenchStep, kind: EventKind, roles: readonly string[]) {
	if (kind === 'hold-signed' && step.kind === 'sign' && !maySign(step, roles))
		return `What ${SIGNER_WORDS[step.signs]} has signed is taken back by ${SIGNER_WORDS[step.signs]}`;
	if (!WORK.includes(kind)) return undefined;
	const signed = passedHolds(stands);
	const over = steps.slice(steps.indexOf(step)).find((s) => s.kind === 'sign' && signed.has(s.id));
	return over && `“${over.title}” is signed with this done: take the signature back first`;
}

function passedHolds(stands: Iterable<LogLine>): Set<string> {
	const passed = new Set<string>();
	for (const l of stands) if (l.kind === 'hold-signed' || l.kind === 'hold-released') passed.add(l.step ?? '');
	return passed;
}
const before = (steps: readonly BenchStep[], id: string) =>
	steps.slice(
		0,
		steps.findIndex((s) => s.id === id)
	);

/** What stands open between what is done and a step. */
function lockedBy(steps: readonly BenchStep[], stands: Iterable<LogLine>, id: string): string | undefined {
	const holds = before(steps, id).filter((s) => s.kind === 'sign');
	if (!holds.length) return undefined;
	const passed = passedHolds(stands);
	const open = holds.find((h) => !passed.has(h.id));
	return open && `“${open.title}” is not signed yet: what comes after it is locked`;
}

/** A hold is signed once everything before it is behind the piece, as the page offers it. */
function openBefore(steps: readonly BenchStep[], stands: Iterable<LogLine>, hold: BenchStep): string | undefined {
	const now = new Map(whereItStands(steps, [...stands]).steps.map((s) => [s.step.id, s.state]));
	const open = before(steps, hold.id).find((s) => now.get(s.id) === 'open');
	return open && `“${open.title}” is still open: it comes before “${hold.title}”`;
}
