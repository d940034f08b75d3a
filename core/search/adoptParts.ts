/** What of another plan of the same piece can be taken over by itself: its hold-downs, tacks, settings, order, presets and root. */
import type { PlanDocument } from '../document/schema';
import { planFaults } from '../reading/readPlan';
import { Refusal } from '../refusal/refusal';
import { followLives } from '../sequence/lives';

export const ADOPTABLE = ['holdDowns', 'tacks', 'settings', 'runs', 'presets', 'root'] as const;
export type Adoptable = (typeof ADOPTABLE)[number];
export const ADOPTABLE_WORDS: Record<Adoptable, string> = {
	holdDowns: 'Hold-downs',
	tacks: 'Tacks',
	settings: 'Settings',
	runs: 'Runs and their order',
	presets: 'Angles set over',
	root: 'What stands behind the root'
};

/** What is compared of each, as text; of a joint, what is set and not what it is. */
const CONTENT: Record<Adoptable, (p: PlanDocument) => unknown> = {
	holdDowns: (p) => p.holdDowns,
	tacks: (p) => p.tacks,
	settings: (p) => [p.settings, p.joints.map((j) => j.settings)],
	runs: (p) => p.runs,
	presets: (p) => p.joints.map((j) => j.presetDeg),
	root: (p) => p.root ?? null
};

/** In which of them two plans differ. */
export const differingParts = (a: PlanDocument, b: PlanDocument): Adoptable[] =>
	ADOPTABLE.filter((key) => JSON.stringify(CONTENT[key](a)) !== JSON.stringify(CONTENT[key](b)));

const byId = <T extends { id: string }>(list: readonly T[]) => new Map(list.map((x) => [x.id, x]));

/** @returns the plan with some parts of another, and what had to follow, in words. @throws Refusal where they do not go together */
export function withParts(now: PlanDocument, then: PlanDocument, keys: readonly Adoptable[]): { plan: PlanDocument; notes: string[] } {
	const out = structuredClone(now);
	const from = structuredClone(then);
	const theirs = byId(from.joints);
	if (keys.includes('holdDowns')) out.holdDowns = from.holdDowns;
	if (keys.includes('tacks')) out.tacks = from.tacks;
	if (keys.includes('runs')) out.runs = from.runs;
	if (keys.includes('root')) out.root = from.root;
	if (keys.includes('settings')) {
		// settings that a run of its own asks for stay
		const asked = new Set(out.runs.flatMap((r) => (r.settings ? [r.settings] : [])));
		const known = byId(from.settings);
		out.settings = [...from.settings, ...now.settings.filter((s) => asked.has(s.id) && !known.has(s.id)).map((s) => structuredClone(s))];
		for (const j of out.joints) j.settings = theirs.get(j.id)?.settings ?? j.settings;
	} else if (keys.includes('runs')) {
		// what their runs are welded with comes along
		const known = byId(out.settings);
		const wanted = new Set(out.runs.flatMap((r) => (r.settings && !known.has(r.settings) ? [r.settings] : [])));
		out.settings.push(...from.settings.filter((s) => wanted.has(s.id)));
	}
	if (keys.includes('presets')) for (const j of out.joints) j.presetDeg = theirs.get(j.id)?.presetDeg ?? j.presetDeg;
	const notes = followLives(out.holdDowns, out.runs);
	const [fault] = planFaults(out);
	if (fault) throw new Refusal(`That cannot be taken over by itself: ${fault.field} ${fault.allowed}`);
	return { plan: out, notes };
}
