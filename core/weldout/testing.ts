/** Plans for the tests of the weld-out. */
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';

export const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};

/** A tank with something of everything that can be planned. */
export function everything(): PlanDocument {
	const plan = make('open-trough', {
		lengthMm: 300,
		widthMm: 200,
		depthMm: 120,
		rimFlangeMm: 0,
		baffles: 1,
		baffleHeightMm: 90,
		lid: true,
		portMm: 50
	});
	plan.root = { care: 'purge', volumeL: 7, flowLPerMin: 8, ventMm: 10, dams: 'Card over the mouth' };
	plan.joints.find((j) => j.id === 'lf')!.presetDeg = 1.5;
	plan.joints.find((j) => j.id === 'lid-front')!.presetDeg = -1;
	plan.parts.find((p) => p.id === 'body')!.film = 'front';
	plan.tacks.filter((t) => t.joint === 'bl').forEach((t) => (t.flush = true));
	plan.runs[3].cooling = 'fan';
	plan.runs[4].waitBeforeS = 1;
	plan.holdPoints = [
		{ id: 'accepted', kind: 'fit-up', at: 'tacked', signs: 'inspector' },
		{ id: 'inside', kind: 'inside', at: 'closing', signs: 'welder', wanted: 'With the small mirror' },
		{ id: 'proven', kind: 'purge', at: 'swept', signs: 'welder' },
		{ id: 'shown', kind: 'witness', at: 'end', signs: 'inspector' }
	];
	plan.holdDowns.push(
		{
			id: 'bar',
			name: 'Bar',
			kind: 'bar',
			joint: 'rf',
			fromMm: 0,
			toMm: 100,
			material: 'copper',
			widthMm: 30,
			thicknessMm: 8,
			contact: 'tight',
			life: { on: 'start', off: 'before-step:lid' }
		},
		{
			id: 'clamp',
			name: 'Lid clamp',
			kind: 'clamp',
			joint: 'lid-left',
			stationMm: 60,
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: { on: 'start', off: 'when-cold' }
		}
	);
	return plan;
}
