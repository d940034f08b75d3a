/** Filler, gas and polarity follow the metal: what was advised for the old one is advised anew for the new one, what a person chose stays. */
import type { PlanDocument, WeldSettings } from '../document/schema';
import { findMaterial, type Material } from '../materials/grades';
import { metalOf } from '../materials/hot';
import { fillerFor, polarityFor } from './settingsAdvice';

type Follows = Pick<WeldSettings, 'fillerGrade' | 'gas' | 'polarity'>;
const KEYS = ['fillerGrade', 'gas', 'polarity'] as const;
const LABELS: Record<(typeof KEYS)[number], string> = { fillerGrade: 'filler', gas: 'gas', polarity: 'polarity' };

const advised = (a: Material, b: Material): Follows => ({
	fillerGrade: fillerFor(a, b).grade,
	gas: metalOf(a).welding.gas,
	polarity: polarityFor(a, b)
});

/** Metals of the first seam that a set of settings welds. */
function pairOf(plan: PlanDocument, settings: string): [Material, Material] | undefined {
	const joint = plan.joints.find((j) => !j.stock && j.settings === settings);
	const metal = (part: string) => plan.parts.find((p) => p.id === part);
	const [a, b] = [joint && metal(joint.a.part), joint && metal(joint.b.part)];
	return a && b && [findMaterial(a.material, plan.materials), findMaterial(b.material, plan.materials)];
}

/** Brings the settings of a plan after its metals, in place. @returns what was changed, in words */
export function readvise(plan: PlanDocument, before: PlanDocument): string[] {
	return plan.settings.flatMap((s) => {
		const [now, then] = [pairOf(plan, s.id), pairOf(before, s.id)];
		if (!now || !then || (now[0].id === then[0].id && now[1].id === then[1].id)) return [];
		const [is, was] = [advised(...now), advised(...then)];
		const changed = KEYS.filter((k) => is[k] !== was[k] && (s[k] === undefined || s[k] === was[k]));
		for (const k of changed)
			if (is[k] === undefined) delete s[k];
			else (s as Follows)[k] = is[k] as never;
		return changed.length ? [`${s.name}: ${changed.map((k) => `${LABELS[k]} ${is[k] ?? 'open'}`).join(', ')}, for ${now[0].name}.`] : [];
	});
}
