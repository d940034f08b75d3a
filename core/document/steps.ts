/** The steps of a weld-out, and when a hold-down is on. Words: `start`, `after-tacks`, `before-run:ID`, `after-run:ID`, `when-cold`, `stays`. */
import type { Life, PlanDocument } from './schema';

/** Moment k lies before run k; 0 is the start, 1 is after the tacks, 1 + i is after run i (1-based), `cold` closes the list. */
export interface Moments {
	start: 0;
	afterTacks: 1;
	cold: number;
	never: number;
}

export const momentsOf = (plan: Pick<PlanDocument, 'runs'>): Moments => ({
	start: 0,
	afterTacks: 1,
	cold: plan.runs.length + 2,
	never: plan.runs.length + 3
});

/** @returns the moment's number, or undefined where the word or its run is unknown */
export function momentOf(word: string, plan: Pick<PlanDocument, 'runs'>): number | undefined {
	const m = momentsOf(plan);
	switch (word) {
		case 'start':
			return m.start;
		case 'after-tacks':
			return m.afterTacks;
		case 'when-cold':
			return m.cold;
		case 'stays':
			return m.never;
	}
	const found = /^(before|after)-run:(.+)$/.exec(word);
	if (!found) return undefined;
	const index = plan.runs.findIndex((r) => r.id === found[2]);
	if (index < 0) return undefined;
	return found[1] === 'before' ? index + 1 : index + 2;
}

/** On during run `index` (0-based)? */
export function isOnDuringRun(life: Life, index: number, plan: Pick<PlanDocument, 'runs'>): boolean {
	const on = momentOf(life.on, plan);
	const off = momentOf(life.off, plan);
	return on !== undefined && off !== undefined && on <= index + 1 && off > index + 1;
}

export const isOnDuringTacks = (life: Life, plan: Pick<PlanDocument, 'runs'>) => momentOf(life.on, plan) === 0 && (momentOf(life.off, plan) ?? 0) > 0;
