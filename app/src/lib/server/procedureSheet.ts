/** A shop procedure on paper, with what changed from version to version. */
import type { Content } from 'pdfmake/interfaces';
import { arcEnergy } from '$core/heat/arcEnergy';
import type { WeldSettings } from '$core/document/schema';
import { lines, render } from './pdf';

export interface ProcedureData {
	procedure: { name: string; version: number; note: string | null; settings: WeldSettings; archivedAt: Date | null };
	versions: { version: number; createdAt: Date; by: string; settings: WeldSettings; note: string | null }[];
}

const FIELDS: readonly [keyof WeldSettings, string, string][] = [
	['process', 'Process', ''],
	['current', 'Current', ''],
	['polarity', 'Polarity', ''],
	['ampsA', 'Amps, or peak', 'A'],
	['startA', 'Start', 'A'],
	['upSlopeS', 'Rise', 's'],
	['finishA', 'Finish', 'A'],
	['downSlopeS', 'Fall', 's'],
	['backgroundA', 'Background', 'A'],
	['pulsesPerSecond', 'Pulses', 'per s'],
	['onFraction', 'On-time', ''],
	['volts', 'Arc volts', 'V'],
	['speedMmPerS', 'Travel speed', 'mm/s'],
	['fillerGrade', 'Filler', ''],
	['fillerMm', 'Filler size', 'mm'],
	['tungstenMm', 'Tungsten', 'mm'],
	['cupMm', 'Cup bore', 'mm'],
	['stickOutMm', 'Stick-out', 'mm'],
	['gas', 'Gas', ''],
	['gasLPerMin', 'Gas flow', 'L/min'],
	['preFlowS', 'Pre-flow', 's'],
	['postFlowS', 'Post-flow', 's'],
	['purgeLPerMin', 'Back purge', 'L/min']
];

const shown = (v: unknown, unit: string) => (v === undefined || v === '' ? '-' : `${String(v)}${unit ? ` ${unit}` : ''}`);

export function procedureSheet({ procedure: p, versions }: ProcedureData, printedBy: string) {
	const heat = arcEnergy(p.settings);
	const changes = versions.map((v, i): Content => {
		const before = versions[i + 1]?.settings;
		const list = before
			? FIELDS.filter(([k]) => before[k] !== v.settings[k]).map(
					([k, label, unit]) => `${label}: ${shown(before[k], unit)} to ${shown(v.settings[k], unit)}`
				)
			: ['first version'];
		return {
			text: [
				{ text: `Version ${v.version}, ${v.createdAt.toISOString().slice(0, 10)}, ${v.by}: `, bold: true },
				list.join('; ') || 'note only',
				v.note ? `. ${v.note}` : ''
			]
		};
	});
	return render({ title: 'Procedure', job: p.name, revision: String(p.version), state: p.archivedAt ? 'archived' : 'in use', printedBy }, [
		{
			layout: lines,
			table: {
				widths: [180, '*'],
				body: FIELDS.filter(([k]) => p.settings[k] !== undefined).map(([k, label, unit]) => [label, { text: shown(p.settings[k], unit), bold: true }])
			}
		},
		{
			text: `Mean current ${heat.meanAmps.toFixed(0)} A, arc energy ${heat.arcEnergy.toFixed(0)} J/mm, net heat input ${heat.netHeat.toFixed(0)} J/mm (EN 1011-1).`,
			margin: [0, 8, 0, 8]
		},
		...(p.note ? [{ text: p.note } as Content] : []),
		{ text: 'Versions', bold: true, fontSize: 15, margin: [0, 10, 0, 4] },
		{ ul: changes },
		{
			text: 'A shop procedure is not a qualified one: where a code asks for a qualified procedure, that one holds.',
			fontSize: 9,
			margin: [0, 10, 0, 0]
		}
	]);
}
