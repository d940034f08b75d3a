/**
 * The plan as it was run: stretches in the order and direction they were laid, with what the machine was set to, tacks as they stand, then
 * what is still open. It is kept beside the plan as issued; heat, forecast, learning and report of a piece begin from it.
 */
import type { PlanDocument, Run, Tack, WeldSettings } from '../document/schema';
import { settingsOf } from '../forecast/schedule';
import type { EventData } from './happenings';
import type { LogLine, Standing } from './logbook';

export interface AsRun {
	plan: PlanDocument;
	/** of the first runs of the plan, which lie: when each arc went out, ms since 1970 */
	endedAt: number[];
}

/** A tack nearer than this to where one was broken or set is meant, mm. */
const SAME_TACK_MM = 6;

export function asRun(issued: PlanDocument, at: Standing): AsRun {
	const settings: WeldSettings[] = [...issued.settings];
	const laid = at.steps
		.flatMap(({ step, laid: stretches }) => (step.kind === 'run' ? stretches.map((stretch, i) => ({ run: step.run, i, ...stretch })) : []))
		.sort((p, q) => p.at - q.at);
	const runs = laid.map(({ run, i, fromMm, toMm }): Run => {
		const planned = issued.runs.find((r) => r.id === run)!;
		const set = asSet(planned, issued, at.lines);
		if (set && !settings.some((s) => s.id === set.id)) settings.push(set);
		return { ...planned, id: i ? `${run}.${i + 1}` : run, fromMm, toMm, ...(set ? { settings: set.id } : {}) };
	});
	const open = at.steps.flatMap(({ step, state, rest, laid: stretches }) => {
		const planned = step.kind === 'run' && state === 'open' ? issued.runs.find((r) => r.id === step.run) : undefined;
		if (!planned) return [];
		if (!rest) return [planned];
		return rest.map(([fromMm, toMm], i) => ({ ...planned, id: `${planned.id}.${stretches.length + 1 + i}`, fromMm, toMm }));
	});
	return { plan: { ...issued, settings, runs: [...runs, ...open], tacks: tacksNow(issued, at.lines) }, endedAt: laid.map((l) => l.at) };
}

/** What was done otherwise, in order, with the step it was tapped at. */
const happened = (lines: readonly LogLine[]) => lines.flatMap((l) => (l.kind === 'happened' && l.data ? [{ step: l.step, data: l.data }] : []));

/** Settings of a run as they were typed at it, where they were: the current scales the ground of a pulsed one with its peak. */
function asSet(run: Run, plan: PlanDocument, lines: readonly LogLine[]): WeldSettings | undefined {
	const own = happened(lines).filter((h) => h.step === `run:${run.id}`);
	const pick = <K extends keyof EventData>(what: EventData['what'], key: K) =>
		own.reduce<EventData[K] | undefined>((last, { data }) => (data.what === what ? (data[key] ?? last) : last), undefined);
	const [amps, volts, speed, filler] = [pick('as-set', 'currentA'), pick('as-set', 'volts'), pick('as-set', 'speedMmPerS'), pick('filler', 'filler')];
	if (amps === undefined && volts === undefined && speed === undefined && filler === undefined) return undefined;
	const planned = settingsOf(plan, run);
	const scale = (amps ?? planned.ampsA) / planned.ampsA;
	return {
		...planned,
		id: `${run.id}.as-run`.slice(0, 60),
		name: `${planned.name}, as run`.slice(0, 80),
		ampsA: amps ?? planned.ampsA,
		...(planned.backgroundA === undefined ? {} : { backgroundA: planned.backgroundA * scale }),
		...(volts === undefined ? {} : { volts }),
		speedMmPerS: speed ?? planned.speedMmPerS,
		...(filler === undefined ? {} : { fillerGrade: filler.slice(0, 40) })
	};
}

/** Tacks that were broken are gone; what was set where none was is one more, like its neighbours. */
function tacksNow(plan: PlanDocument, lines: readonly LogLine[]): Tack[] {
	let tacks = [...plan.tacks];
	for (const { data } of happened(lines)) {
		const { what, joint, stationMm, mm } = data;
		if (joint === undefined || stationMm === undefined) continue;
		const isIt = (t: Tack) => t.joint === joint && Math.abs(t.stationMm - stationMm) <= SAME_TACK_MM;
		if (what === 'tack-broken') tacks = tacks.filter((t) => !isIt(t));
		if (what === 'tack-set' && !tacks.some(isIt)) {
			const like = plan.tacks.find((t) => t.joint === joint);
			const id = `set-${tacks.length + 1}-${Math.round(stationMm)}`;
			tacks.push({ id, joint, stationMm, lengthMm: mm ?? like?.lengthMm ?? 5, stage: 2, fusionOnly: like?.fusionOnly ?? true });
		}
	}
	return tacks;
}
