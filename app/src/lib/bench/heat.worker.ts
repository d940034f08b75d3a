/** The heat of the piece in a thread of its own: no question to the server, so that it goes on without one. */
import 'reflect-metadata';
import { expose } from 'comlink';
import { heatClock, type HeatClock, type MetalReading } from '$core/forecast/heatClock';
import { assemblyMesh, type AssemblyMesh } from '$core/mesh/assemblyMesh';
import { planOf } from '$core/reading/readPlan';
import { asRun } from '$core/weldout/asRun';
import { whereItStands, type LogLine } from '$core/weldout/logbook';
import type { BenchStep } from '$core/weldout/benchSteps';
import type { PlanDocument } from '$core/document/schema';

let known: { plan: PlanDocument; mesh: AssemblyMesh } | undefined;

export interface HeatQuestion {
	steps: BenchStep[];
	lines: LogLine[];
	/** run that is next */
	next?: string;
}
/** Times are ms since 1970. */
export interface HeatAnswer {
	readyAt?: number;
	coolAt?: number;
	unclampAt?: number;
	fillAt?: number;
	isLimitReached: boolean;
}

const api = {
	plan(raw: unknown) {
		const plan = planOf(raw);
		known = { plan, mesh: assemblyMesh(plan) };
	},
	/** The clock begins with the first arc's end; nothing laid, nothing is hot. */
	ask({ steps, lines, next }: HeatQuestion): HeatAnswer {
		if (!known) throw new Error('The plan comes first');
		const at = whereItStands(steps, lines);
		const { plan, endedAt } = asRun(known.plan, at);
		const zero = endedAt[0] ?? 0;
		const of = (ms: number) => (ms - zero) / 1000;
		const read = at.lines.filter((l) => l.kind === 'happened' && l.data?.what === 'metal' && l.data.metalC !== undefined).at(-1);
		const reading: MetalReading | undefined = read && { atS: of(read.at), metalC: read.data!.metalC! };
		const nextRun = plan.runs.slice(endedAt.length).find((r) => r.id === next || r.id.startsWith(`${next}.`))?.id;
		const clock: HeatClock = heatClock(plan, known.mesh, endedAt.map(of), nextRun, reading);
		const ms = (s: number | undefined) => (s === undefined ? undefined : zero + 1000 * s);
		return {
			readyAt: ms(clock.readyS),
			coolAt: ms(clock.coolS),
			unclampAt: ms(clock.unclampS),
			fillAt: ms(clock.fillS),
			isLimitReached: clock.isLimitReached
		};
	}
};
export type HeatApi = typeof api;
expose(api);
