/** What a run moves, from the influence of a forecast: said beside the run, so that whoever lays it knows what shows it first when it goes otherwise. */
import type { Forecast } from '../forecast/forecast';

export interface Moved {
	feature: string;
	unit: 'mm' | '°';
	/** what this run adds to it */
	value: number;
	/** what all of them make of it */
	all: number;
}

/** Below this nobody reads it: a tenth of what a tape shows, a tenth of what a protractor shows. */
const SHOWN: Readonly<Record<Moved['unit'], number>> = { mm: 0.05, '°': 0.02 };

/**
 * By run, what it moves most, against what each feature may be off by: two at most, none that nobody could read. Where a panel is past its
 * limit, what its waves own is left out: the linear influence does not know it.
 */
export function movedByRuns(forecast: Pick<Forecast, 'features'>, runs: readonly { id: string }[]): Record<string, Moved[]> {
	const out: Record<string, Moved[]> = {};
	for (const { id } of runs) {
		out[id] = forecast.features
			.filter((f) => f.verdict !== 'final shape')
			.map((f) => {
				const value = f.influence.find((i) => i.step === id)?.value ?? 0;
				return { feature: f.name, unit: f.unit, value, all: f.predicted, weight: Math.abs(value) / (f.tolerance.upper || 1) };
			})
			.filter((m) => Math.abs(m.value) >= SHOWN[m.unit])
			.sort((p, q) => q.weight - p.weight)
			.slice(0, 2)
			.map(({ feature, unit, value, all }) => ({ feature, unit, value, all }));
	}
	return out;
}

/** In a sentence. @param quantity a value in the person's unit, with its sign */
export function movedWords(moved: readonly Moved[] | undefined, quantity: (value: number, unit: Moved['unit']) => string): string {
	if (!moved) return '';
	if (!moved.length)
		return 'By the forecast this run alone moves none of the lengths and angles by as much as could be read. What a panel waves is not told run by run.';
	const parts = moved.map((m) => `${m.feature} by ${quantity(m.value, m.unit)} of ${quantity(m.all, m.unit)} in all`);
	return `By the forecast this run moves ${parts.join(', and ')}. Hotter or slower than planned it moves them more, faster or colder less.`;
}
