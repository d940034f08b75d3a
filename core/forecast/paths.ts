/** What a forecast has of each feature on its way: what a piece that is being read is held beside. */
import type { Moment } from '../document/words';
import type { Band, Forecast } from './forecast';

export interface Paths {
	/** tacked, each run by its id, cold, unclamped */
	steps: { id: string; label: string; kind: Forecast['steps'][number]['kind'] }[];
	features: Record<string, { history: number[]; moments: Record<Moment, Band>; verdict: string }>;
}

export const pathsOf = ({ steps, features }: Pick<Forecast, 'steps' | 'features'>): Paths => ({
	steps: steps.map(({ id, label, kind }) => ({ id, label, kind })),
	features: Object.fromEntries(features.map(({ id, history, moments, verdict }) => [id, { history, moments, verdict }]))
});
