/** The arcs of a piece's log, and when it is cold by the heat that was really put in. */
import type { PlanDocument } from '$core/document/schema';
import type { BenchStep } from '$core/weldout/benchSteps';
import { standing } from '$core/weldout/logbook';
import { tappedAt, type BenchEvent } from '$store/bench';
import { coolingOf } from './compute';
import { logLine } from './piece';

/** Arcs that stand, as they were tapped: `at` in ms since 1970. */
export const arcsOf = (events: readonly BenchEvent[]): { run: string; at: number }[] =>
	standing(events)
		.filter((e) => (e.kind === 'step-done' || e.kind === 'laid') && e.step?.startsWith('run:'))
		.map((e) => ({ run: e.step!.slice('run:'.length), at: tappedAt(e) }));

/** ms since 1970; nothing where no arc has burnt, or where it cannot be worked out. */
export async function coolAtOf(
	piece: string,
	{ plan, steps }: { plan: PlanDocument; steps: BenchStep[] },
	events: readonly BenchEvent[]
): Promise<number | undefined> {
	if (!arcsOf(events).length) return undefined;
	try {
		return (await coolingOf(piece, { plan, steps, lines: events.map(logLine), next: '' })).coolAt;
	} catch {
		return undefined;
	}
}
