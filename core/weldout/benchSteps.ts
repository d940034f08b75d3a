/** The plan as steps for the bench: one at a time, in working order. The same list feeds the run screen and the run sheet. */
import type { Schedule } from '../forecast/schedule';
import { liesFor, UP_WORDS, type Up } from '../layout/positions';
import { presetSetting, type PresetSetting } from './preset';
import type { PlanDocument } from '../document/schema';
import { momentOf, momentsOf } from '../document/steps';
import { COOLING_WORDS, MOMENT_WORDS, type Moment } from '../document/words';

export type BenchStep =
	| { id: string; kind: 'check'; title: string }
	| { id: string; kind: 'preset'; title: string; joint: string; setting: PresetSetting }
	| { id: string; kind: 'hold'; title: string; on: boolean; holdDown: string }
	| { id: string; kind: 'tack'; title: string; joint: string; stage: number; stations: number[]; lengthMm: number; fusionOnly: boolean }
	| { id: string; kind: 'flip'; title: string; up: Up; before: string }
	| { id: string; kind: 'wait'; title: string; seconds: number; before: string }
	| {
			id: string;
			kind: 'run';
			title: string;
			run: string;
			joint: string;
			fromMm: number;
			toMm: number;
			number: number;
			settings: string;
			startC: number;
	  }
	| { id: string; kind: 'measure'; title: string; moment: Moment; features: string[] };

/** Waits shorter than this are walked through anyway, s. */
export const SHORTEST_WAIT_S = 20;

/**
 * @param schedule waits by run, from the forecast's own cooling estimate
 * @param positions how the piece may lie for each seam (positionsOf); tacks are taken in whatever position they are reached
 */
export function benchSteps(plan: PlanDocument, schedule: Schedule, positions: ReadonlyMap<string, readonly Up[]>): BenchStep[] {
	const steps: BenchStep[] = plan.fitUp.checks.map((c) => ({ id: `check:${c.id}`, kind: 'check', title: c.text }));
	const change = (moment: number) => {
		for (const h of plan.holdDowns)
			if (momentOf(h.life.off, plan) === moment)
				steps.push({ id: `off:${h.id}`, kind: 'hold', on: false, holdDown: h.id, title: `Take off: ${h.name}` });
		for (const h of plan.holdDowns)
			if (momentOf(h.life.on, plan) === moment) steps.push({ id: `on:${h.id}`, kind: 'hold', on: true, holdDown: h.id, title: `Put on: ${h.name}` });
	};
	const name = (joint: string) => plan.joints.find((j) => j.id === joint)!.name;
	const measure = (moment: Moment, title = `Measure ${MOMENT_WORDS[moment]}`) => {
		if (plan.features.length)
			steps.push({
				id: `measure:${moment}`,
				kind: 'measure',
				moment,
				title,
				features: plan.features.map((f) => f.id)
			});
	};
	change(0);
	for (const j of plan.joints) {
		const setting = presetSetting(plan, j);
		if (setting) steps.push({ id: `preset:${j.id}`, kind: 'preset', title: `Set ${j.name} ${setting.deg}° over`, joint: j.id, setting });
	}
	// tacks that follow one another on the same seam in the same stage are one step
	for (let i = 0; i < plan.tacks.length;) {
		const first = plan.tacks[i];
		const group = [first];
		while (
			++i < plan.tacks.length &&
			plan.tacks[i].joint === first.joint &&
			plan.tacks[i].stage === first.stage &&
			plan.tacks[i].fusionOnly === first.fusionOnly &&
			Boolean(plan.tacks[i].flush) === Boolean(first.flush)
		)
			group.push(plan.tacks[i]);
		steps.push({
			id: `tack:${first.id}`,
			kind: 'tack',
			title: `Tack ${name(first.joint)} ${first.stage === 1 ? 'to locate' : 'to close up'}${first.flush ? ', then grind flush' : ''}`,
			joint: first.joint,
			stage: first.stage,
			stations: group.map((t) => t.stationMm),
			lengthMm: first.lengthMm,
			fusionOnly: first.fusionOnly
		});
	}
	if (plan.tacks.length) measure('as-tacked');
	change(1);
	const lies = liesFor(plan.runs, positions);
	plan.runs.forEach((r, i) => {
		// turned before it is waited for: it cools meanwhile
		if (lies[i] !== (i > 0 ? lies[i - 1] : 'top'))
			steps.push({
				id: `flip:${r.id}`,
				kind: 'flip',
				up: lies[i],
				title: `${i > 0 ? 'Flip: lay' : 'Lay'} the piece ${UP_WORDS[lies[i]]}`,
				before: r.id
			});
		const timing = schedule.runs[i];
		if (timing.waitS >= SHORTEST_WAIT_S)
			steps.push({
				id: `wait:${r.id}`,
				kind: 'wait',
				title: `Wait until the metal is at ${plan.interpassLimitC} °C or below${r.cooling && r.cooling !== 'still' ? `: ${COOLING_WORDS[r.cooling]}` : ''}`,
				seconds: timing.waitS,
				before: r.id
			});
		steps.push({
			id: `run:${r.id}`,
			kind: 'run',
			title: `Run ${i + 1} on ${name(r.joint)}`,
			run: r.id,
			joint: r.joint,
			fromMm: r.fromMm,
			toMm: r.toMm,
			number: i + 1,
			settings: r.settings ?? plan.joints.find((j) => j.id === r.joint)!.settings,
			startC: timing.startC
		});
		change(i + 2);
	});
	// where nothing comes off when cold, cold and unclamped are one state, and it is read once
	const release = momentsOf(plan).cold;
	const comesOff = plan.holdDowns.some((h) => momentOf(h.life.off, plan) === release);
	if (plan.runs.length && schedule.coolToMeasureS > 0)
		steps.push({
			id: 'wait:cold',
			kind: 'wait',
			title: 'Let it cool before measuring: what is read hot is not what you get cold',
			seconds: schedule.coolToMeasureS,
			before: comesOff ? 'measure:cold' : 'measure:unclamped'
		});
	if (comesOff) measure('cold');
	change(release);
	measure('unclamped', comesOff ? undefined : 'Measure cold: nothing holds it any more');
	return steps;
}
