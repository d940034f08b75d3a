/** When a hold-down goes on and off, as a planner chooses it and a welder reads it. */
import type { PlanDocument } from '../document/schema';
import { stepsOf } from './assembly';

type Planned = Pick<PlanDocument, 'parts' | 'fitUp' | 'runs'>;

export function lifeWords(word: string, plan: Planned): string {
	const found = /^(before-run|after-run|before-step):(.+)$/.exec(word);
	if (!found) return { start: 'from the start', 'after-tacks': 'after tacking', 'when-cold': 'when cold', stays: 'stays on' }[word] ?? word;
	if (found[1] === 'before-step') return `before “${stepsOf(plan).find((s) => s.id === found[2])?.name ?? found[2]}” comes on`;
	return `${found[1] === 'before-run' ? 'before' : 'after'} run ${plan.runs.findIndex((r) => r.id === found[2]) + 1}`;
}

/** Words a hold-down may go on by, and come off by. */
export function livesOf(plan: Planned): { on: string[]; off: string[] } {
	const later = stepsOf(plan)
		.slice(1)
		.map((s) => `before-step:${s.id}`);
	return {
		on: ['start', 'after-tacks', ...plan.runs.map((r) => `before-run:${r.id}`)],
		off: ['when-cold', 'after-tacks', ...later, ...plan.runs.map((r) => `after-run:${r.id}`), 'stays']
	};
}
