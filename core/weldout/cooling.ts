/** When a piece at the bench is cool enough, from its log: the heat clock (core/forecast/heatClock) in the log's own time. */
import type { PlanDocument } from '../document/schema';
import { heatClock, type MetalReading } from '../forecast/heatClock';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { asRun } from './asRun';
import type { BenchStep } from './benchSteps';
import { whereItStands, type LogLine } from './logbook';

/** Times are ms since 1970. */
export interface Cooling {
	/** the next run may be laid; nothing where none is next */
	readyAt?: number;
	/** it may be measured, let go of, filled */
	coolAt: number;
	unclampAt: number;
	fillAt: number;
	isLimitReached: boolean;
}

/** @param issued the piece's plan, on this mesh @param lines of its log @param next the run that is next. The clock begins with the first arc's end; nothing laid, nothing is hot. */
export function cooling(issued: PlanDocument, mesh: AssemblyMesh, steps: readonly BenchStep[], lines: readonly LogLine[], next?: string): Cooling {
	const at = whereItStands(steps, lines);
	const { plan, endedAt } = asRun(issued, at);
	const zero = endedAt[0] ?? 0;
	const of = (ms: number) => (ms - zero) / 1000;
	const happened = (what: 'metal' | 'fan') => at.lines.filter((l) => l.kind === 'happened' && l.data?.what === what);
	const read = happened('metal')
		.filter((l) => l.data?.metalC !== undefined)
		.at(-1);
	const reading: MetalReading | undefined = read && { atS: of(read.at), metalC: read.data!.metalC! };
	const nextRun = plan.runs.slice(endedAt.length).find((r) => r.id === next || r.id.startsWith(`${next}.`))?.id;
	const fans = happened('fan').map((l) => of(l.at));
	const clock = heatClock(plan, mesh, endedAt.map(of), nextRun, reading, fans);
	const ms = (s: number) => zero + 1000 * s;
	return {
		readyAt: clock.readyS === undefined ? undefined : ms(clock.readyS),
		coolAt: ms(clock.coolS),
		unclampAt: ms(clock.unclampS),
		fillAt: ms(clock.fillS),
		isLimitReached: clock.isLimitReached
	};
}

type Wait = BenchStep & { kind: 'wait' };
/**
 * When a wait is over: by the heat that was really put in; the sweep of a purge, and a heat not worked out, by the plan's own seconds.
 * @param startedAt when it began, ms since 1970 @returns ms since 1970, or nothing where neither is known
 */
export function waitIsOver(wait: Wait, steps: readonly BenchStep[], heat: Cooling | undefined, startedAt: number | undefined): number | undefined {
	const isForRun = steps.some((s) => s.kind === 'run' && s.run === wait.before);
	const known = wait.id === 'wait:purge' ? undefined : isForRun ? heat?.readyAt : heat?.coolAt;
	return known ?? (startedAt === undefined ? undefined : startedAt + 1000 * wait.seconds);
}
