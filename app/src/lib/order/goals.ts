import { DEFAULT_GOALS, type SearchGoals } from '$core/search/cost';

/** The shape the server takes. */
export const goalsBody = ({ features, ...rest }: SearchGoals) => ({
	...rest,
	weights: Object.entries(features).map(([id, weight]) => ({ id, weight }))
});

/** Goals as last set in this browser for a job. */
export function keptGoals(jobId: string): SearchGoals {
	try {
		const text = sessionStorage.getItem(`sarta-goals-${jobId}`);
		return text ? { ...DEFAULT_GOALS, ...(JSON.parse(text) as Partial<SearchGoals>) } : { ...DEFAULT_GOALS };
	} catch {
		return { ...DEFAULT_GOALS };
	}
}
export function keepGoals(jobId: string, goals: SearchGoals) {
	try {
		sessionStorage.setItem(`sarta-goals-${jobId}`, JSON.stringify(goals));
	} catch {
		// a forbidden store: they hold for this page only
	}
}
