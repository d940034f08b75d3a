/** Settings by seam: an arc that makes no sound weld is set anew; of one that does, what nobody has given yet is filled in. */
import { pathLength } from '../../geometry/polyline';
import { responseInput } from '../../response/forPlan';
import { adviseSettings, differences, heatChecks, type SettingsAdvice } from '../../response/settingsAdvice';
import type { Joint, WeldSettings } from '../../document/schema';
import type { ProposalDesk } from '../desk';

export function decideSettings(desk: ProposalDesk): void {
	const { given } = desk;
	for (const own of given.settings) {
		const joints = given.joints.filter((j) => !j.stock && !j.response && j.settings === own.id);
		if (!joints.length) continue;
		const longest = joints.reduce((p, q) => (pathLength(q.a.path) > pathLength(p.a.path) ? q : p));
		const advice = adviseSettings(longest, responseInput(given, longest, own, undefined).sheets, own, given.ambientC);
		const faults = (s: WeldSettings) => joints.flatMap((j) => faultsOf(desk, j, s));
		const now = faults(own);
		const then = now.length ? faults(advice.settings) : now;
		if (then.length < now.length) setAnew(desk, own, advice, now[0], then[0]);
		else fillIn(desk, own, advice);
	}
}

function setAnew(desk: ProposalDesk, own: WeldSettings, advice: SettingsAdvice, now: string, then: string | undefined): void {
	const told = differences(own, advice).slice(0, 4);
	desk.add({
		id: `settings-${own.id}`,
		kind: 'settings',
		what: `${own.name}: ${told.map((d) => `${d.label.toLowerCase()} ${d.advised}`).join(', ')}`,
		why: `With the settings in use the heat solver says: ${now} ${then ? `With these: ${then}` : 'With these it makes a sound weld.'}`,
		isNeeded: true,
		change: { settings: [{ ...advice.settings, id: own.id, name: own.name }] }
	});
}

/** What a person set is left alone where it makes a sound weld: how it compares is on the Weld page. */
function fillIn(desk: ProposalDesk, own: WeldSettings, { fields, settings }: SettingsAdvice): void {
	const open = fields.filter((f) => own[f.key] === undefined && !PULSE.includes(f.key));
	if (!open.length) return;
	const filled = Object.fromEntries(open.map((f) => [f.key, settings[f.key]]));
	desk.add({
		id: `settings-${own.id}`,
		kind: 'settings',
		what: `${own.name}: ${open.map((f) => `${f.label.toLowerCase()} ${f.value}${f.unit ? ` ${f.unit}` : ''}`).join(', ')}`,
		why: 'Nobody has said so far, and the welder asks for it. Current and travel stay as they are.',
		isSilent: true,
		change: { settings: [{ ...own, ...filled }] }
	});
}
/** They belong to a pulsed current, which is a person’s choice. */
const PULSE: readonly (keyof WeldSettings)[] = ['backgroundA', 'pulsesPerSecond', 'onFraction'];

const faultsOf = ({ given }: ProposalDesk, joint: Joint, settings: WeldSettings): string[] =>
	heatChecks(responseInput(given, joint, settings, undefined))
		.filter((c) => c.of === 'weld' && !c.isGood)
		.map((c) => `“${joint.name}”: ${c.label} ${c.words}`);
