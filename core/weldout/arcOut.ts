/** What an arc that went out says of the step in hand: the taps that a welder would make, and what is told of them. */
import { recognise, type Arc } from '../devices/arcLog';
import type { PlanDocument } from '../document/schema';
import type { EventKind } from '../document/words';
import { arcEnergy } from '../heat/arcEnergy';
import type { EventData } from './happenings';
import type { StepNow } from './logbook';

export interface ArcOut {
	taps: { kind: EventKind; clientId: string; data?: EventData }[];
	said: string;
}

/** An arc as long as this is no tack: said where no run is in hand, s. */
const NO_TACK_S = 10;

/** The same two tabs make the same line of it: a name that follows from the reading's. */
const beside = (id: string) => `${id[0] === '0' ? '1' : '0'}${id.slice(1)}`;
const to = (v: number, digits: number) => Number(v.toFixed(digits));

/** @param by the source's name, as it stands beside what it read */
export function arcOut(arc: Arc, now: StepNow, plan: PlanDocument, by: string): ArcOut | undefined {
	const { step } = now;
	const seconds = `${arc.arcS.toFixed(0)} s`;
	if (step.kind !== 'run') {
		if (step.kind === 'tack' || arc.arcS < NO_TACK_S) return undefined;
		return { taps: [], said: `${by}: an arc of ${seconds} went out here. If it was a run, take that one next under Otherwise.` };
	}
	const settings = plan.settings.find((s) => s.id === step.settings);
	if (!settings) return undefined;
	const heat = arcEnergy(settings);
	const [fromMm, toMm] = now.rest?.[0] ?? [step.fromMm, step.toMm];
	const run = recognise(arc, { fromMm, toMm, speedMmPerS: settings.speedMmPerS, ampsA: heat.meanAmps, volts: heat.volts });
	if (!run) return undefined;
	const set: EventData = {
		what: 'as-set',
		// a log gives means; what is set is a peak where it pulses
		...(run.ampsA === undefined ? {} : { currentA: to((settings.ampsA * run.ampsA) / heat.meanAmps, 1) }),
		...(run.volts === undefined ? {} : { volts: to(run.volts, 1) }),
		speedMmPerS: to(run.speedMmPerS, 2),
		source: by.slice(0, 80)
	};
	const whole = run.isWhole && !now.rest;
	return {
		taps: [
			{ kind: 'happened', clientId: arc.id, data: set },
			whole ? { kind: 'step-done', clientId: beside(arc.id) } : { kind: 'laid', clientId: beside(arc.id), data: { fromMm, toMm: to(run.toMm, 1) } }
		],
		said: [
			`${by}: an arc of ${seconds} is taken for ${run.isWhole ? step.title : `a part of ${step.title}, as long as the planned speed lays in that time`}`,
			...run.otherwise,
			'Take back what it was not'
		]
			.join('. ')
			.concat('.')
	};
}
