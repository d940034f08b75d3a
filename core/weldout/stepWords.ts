/** What a step says below its title, line by line: the same on the run screen and on every sheet. */
import type { PlanDocument } from '../document/schema';
import { holdKind, holdWords } from '../holds';
import type { BenchStep, StepOf } from './benchSteps';
import { SIGNER_WORDS } from '../document/words';
import { HOLD_POINT } from '../plan/holdPoint';
import { FIELD_WORDS } from './happenings';
import { presetWords } from './preset';
import { standWords } from './standsAt';

/** As much of a plan as the words need. */
export interface WordsOf {
	joints: PlanDocument['joints'];
	parts: readonly Pick<PlanDocument['parts'][number], 'id' | 'name' | 'roll' | 'thicknessMm'>[];
	holdDowns: PlanDocument['holdDowns'];
	settings: PlanDocument['settings'];
	features: readonly { id: string; name: string }[];
}

interface Say {
	plan: WordsOf;
	/** a length in the person's unit, and without its unit */
	length(mm: number): string;
	bare(mm: number): string;
	unit: string;
	seam(id: string): string;
}

const LINES: { [K in BenchStep['kind']]: (step: StepOf<K>, say: Say) => string[] } = {
	check: () => [],
	film(step, { seam, length }) {
		// seams that want their film back alike are named together
		const by = new Map<number, string[]>();
		for (const { joint, mm } of step.back) by.set(Math.ceil(mm), [...(by.get(Math.ceil(mm)) ?? []), seam(joint)]);
		return [...by].map(([mm, names]) => `${length(mm)} each side of ${names.join(', ')}`);
	},
	parts(step, { plan, length }) {
		const name = (id: string) => plan.parts.find((p) => p.id === id)?.name ?? id;
		return [step.parts.map(name).join(', '), ...standWords(step.stands, name, length), 'True it, locate it, and see that it stays so.'];
	},
	look: (step, { seam }) => [
		...step.words,
		...(step.at === 'before-closing' || !step.joints.length ? [] : [`Seams: ${step.joints.map(seam).join(', ')}.`])
	],
	preset: (step, { length }) => [presetWords(step.setting, length)],
	hold(step, { plan, length }) {
		const h = plan.holdDowns.find((x) => x.id === step.holdDown);
		return h ? [holdKind(h).where(h, holdWords(plan, length)), ...(step.on ? [] : ['Watch for spring as it comes off.'])] : [];
	},
	purge({ on, setting }) {
		if (!on) return ['The last root has gone cold behind the gas: shut it off, open the space and air it before anybody leans in.'];
		const { flowLPerMin, litres, ventMm, dams, cautions } = setting;
		const figures = [
			flowLPerMin === undefined ? '' : `${flowLPerMin} L/min`,
			litres === undefined ? '' : `into ${litres} L`,
			ventMm === undefined ? '' : `vent of ${ventMm} mm open`
		];
		return [figures.filter(Boolean).join(', '), dams ? `Dams: ${dams}` : '', ...cautions].filter(Boolean);
	},
	tack(step, { plan, length, bare, unit }) {
		const settings = plan.joints.find((j) => j.id === step.joint)?.settings;
		const grade = plan.settings.find((s) => s.id === settings)?.fillerGrade;
		const metal = step.fusionOnly ? 'fusion only' : `with filler${grade ? ` ${grade}` : ''}`;
		return [
			`${step.stations.length} of ${length(step.lengthMm)}, ${metal}, in this order from the datum end: ${step.stations.map(bare).join(', ')} ${unit}`
		];
	},
	grind: (step, { bare, unit }) => [`At ${step.stations.map(bare).join(', ')} ${unit}: level with the sheet, no thinner. Goggles; dust out.`],
	flip: ({ grips }, { plan }) => [
		'So that the next runs are welded from above. Gloves: the metal may be hot. Two people or a hoist where it is heavy; bars and the earth lead come along.',
		...(grips.length
			? [
					`What holds it to the bench comes off for this and goes on again at the same marks: ${plan.holdDowns
						.filter((h) => grips.includes(h.id))
						.map((h) => h.name)
						.join(', ')}.`
				]
			: [])
	],
	wait: (step) => [
		`About ${Math.max(1, Math.ceil(step.seconds / 60))} min. An estimate: ${step.id === 'wait:purge' ? 'a meter at the root' : 'a contact thermometer'} decides.`
	],
	run: (step, { length }) => [`${length(step.fromMm)} to ${length(step.toMm)}`],
	sign: ({ of, signs, wanted }) => [
		HOLD_POINT[of].look,
		...(wanted ? [wanted] : []),
		`Nothing after this is begun until ${SIGNER_WORDS[signs]} has signed${HOLD_POINT[of].asks.length ? `. Recorded: ${HOLD_POINT[of].asks.map((f) => FIELD_WORDS[f].toLowerCase()).join(', ')}` : ''}.`
	],
	measure: (step, { plan }) => [step.features.map((id) => plan.features.find((f) => f.id === id)?.name ?? id).join(', ')]
};

/** @param length lengths in the person's unit */
export function stepLines(step: BenchStep, plan: WordsOf, length: (mm: number) => string): string[] {
	const [, unit = ''] = / (mm|in)$/.exec(length(1)) ?? [];
	const say: Say = {
		plan,
		length,
		unit,
		bare: (mm) => length(mm).replace(/ (mm|in)$/, ''),
		seam: (id) => plan.joints.find((j) => j.id === id)?.name ?? id
	};
	return (LINES[step.kind] as (s: BenchStep, say: Say) => string[])(step, say);
}
