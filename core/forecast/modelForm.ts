/**
 * Model form as bands of their own: what other plausible models of the hot metal, and of how freely a seam may bow, would make of
 * each seam's force. Shared by all seams: a model that is wrong is wrong everywhere alike.
 */
import { Z90 } from '../factors/factors';
import type { WeldResponse } from '../response/weldResponse';
import { GOES_BY_FORCE } from '../staging/weldBook';
import type { Analysis } from './analysis';

export interface ModelForm {
	label: string;
	/** the force over the one in use at both ends of its 90 % range, low <= 1 <= high */
	range: (r: WeldResponse) => readonly [number, number];
}

export const MODEL_FORMS: readonly ModelForm[] = [
	{ label: 'how the metal hardens and forgets while hot', range: (r) => r.spread },
	{ label: 'how much a seam free to bow pulls more', range: (r) => r.freedom }
];

export interface FormPart {
	form: number;
	/** outputs of all runs' forces, each by its own end of the range */
	added: Float64Array[];
	/** how many times it counts for a standard normal of its form */
	more: (z: number) => number;
}

/** By form and end of its range: owner of a run -> share by which its force changes. Ends where nothing changes are left out. */
export function formEnds(a: Analysis): { form: number; up: boolean; share: (owner: string) => number }[] {
	// a force that was given is not doubted; an angle alone says nothing of the force
	const doubted = a.responses.filter((r) => r.input.joint.response?.tendonForceN === undefined);
	const byRun = new Map(doubted.flatMap((r) => [...r.runs.keys()].map((run) => [run, r.response] as const)));
	return MODEL_FORMS.flatMap(({ range }, form) =>
		[false, true].flatMap((up) => {
			const share = (owner: string) => {
				const r = byRun.get(owner);
				return r ? range(r)[up ? 1 : 0] - 1 : 0;
			};
			return [...byRun.keys()].some((owner) => share(owner) !== 0) ? [{ form, up, share }] : [];
		})
	);
}

/** For draws: what is added to the outputs, and how often. */
export function formParts(a: Analysis): FormPart[] {
	return formEnds(a).flatMap(({ form, up, share }): FormPart[] => {
		const owners = [...a.staged.added].filter(([owner]) => share(owner) !== 0);
		if (!owners.length) return [];
		const added = owners[0][1].map((first, action) =>
			GOES_BY_FORCE.includes(action)
				? Float64Array.from(first, (_, i) => owners.reduce((s, [owner, v]) => s + Math.abs(share(owner)) * v[action][i], 0))
				: new Float64Array(0)
		);
		return [{ form, added, more: (z) => (up ? Math.max(0, z) : Math.min(0, z)) / Z90 }];
	});
}
