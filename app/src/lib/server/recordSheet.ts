/** The record of a piece: what was done, when and by whom, what was read, what went wrong and who signed. */
import type { Column, Content } from 'pdfmake/interfaces';
import type { Beside } from '$core/weldout/issuedAndRun';
import type { HeightMap } from './heightMaps';
import { lines, render, type SheetHead } from './pdf';
import type { ScanMaps } from './scanMaps';

export interface RecordData {
	serial: string;
	customer: string | null;
	results: {
		name: string;
		limit: string;
		value: string;
		/** as forecast when it was issued, with its band; absent where the quick method could not speak of it */
		forecast: string;
		/** drawn on one scale: SVG */
		mark: string;
		verdict: string;
	}[];
	/** the piece with what was read on it: SVG, with the names of what each shows */
	pictures: { svg: string; name: string }[];
	/** panels that were read over a grid */
	maps: HeightMap[];
	/** scans of the whole piece */
	scans?: ScanMaps;
	/** the plan as issued and as it was run */
	beside: Beside;
	/** what was put right and what it gave */
	corrections: { words: string; gave: string; person: string; at: Date }[];
	/** surface, gaps, walls and leak tests */
	looked: { words: string; person: string; at: Date }[];
	/** results and signature only */
	isShort: boolean;
	/** every line of the log that says something, in order */
	log: { step: string; what: string; person: string; at: Date }[];
	problems: { step: string; note: string; person: string; at: Date; closure?: { note: string; person: string; at: Date } }[];
	readings: {
		feature: string;
		moment: string;
		value: string;
		arithmetic: string;
		instrument: string;
		person: string;
		at: Date;
		withdrawn?: string;
	}[];
	/** `jpeg` in base64 */
	photographs: { title: string; note: string; person: string; at: Date; jpeg: string }[];
	signature?: { person: string; signedAt: Date; statement: string; accepted: boolean; concession: string | null };
	missing: string[];
	heats: string[];
}

const stamp = (d: Date) => `${d.toISOString().slice(0, 16).replace('T', ' ')} UTC`;
const heading = (text: string) => ({ text, bold: true, margin: [0, 10, 0, 2] as [number, number, number, number] });
const table = (widths: (number | '*' | 'auto')[], head: string[], rows: (string | { svg: string })[][]): Content => ({
	layout: { ...lines, hLineWidth: () => 0.4, paddingTop: () => 1.5, paddingBottom: () => 1 },
	fontSize: 9,
	table: { headerRows: 1, dontBreakRows: true, widths, body: [head.map((text) => ({ text, bold: true })), ...rows] }
});

/** The piece with what was read on it, three a line. */
function picturePages(pictures: RecordData['pictures']): Content[] {
	const shown = pictures.map((p) => ({ width: 168, stack: [{ svg: p.svg }, { text: p.name, fontSize: 8 }] as Content[] }));
	const rows = shown.flatMap((_, i): Content[] =>
		i % 3 ? [] : [{ columns: shown.slice(i, i + 3), columnGap: 8, margin: [0, 0, 0, 6], unbreakable: true }]
	);
	return rows.length ? [heading('Where it was read'), ...rows] : [];
}

/** Two a line, on one scale. */
function mapPages(maps: RecordData['maps']): Content[] {
	const shown = maps.map((m): Column => ({
		width: 250,
		stack: [{ text: m.name, bold: true, fontSize: 9 }, { svg: m.svg }, { text: m.words, fontSize: 8 }]
	}));
	const pairs = shown.flatMap((s, i): Content[] =>
		i % 2 ? [] : [{ columns: [s, shown[i + 1] ?? ''], columnGap: 12, margin: [0, 0, 0, 6], unbreakable: true }]
	);
	return pairs.length ? [heading('Flatness as it was read, all on one scale'), ...pairs] : [];
}

/** As scanned, and under it as forecast. */
function scanPages(scans: RecordData['scans']): Content[] {
	if (!scans) return [];
	const row = (name: string, pictures: string[]): Content[] =>
		pictures.length
			? [
					{ text: name, fontSize: 8, margin: [0, 2, 0, 0] },
					{ columns: pictures.map((p): Column => ({ width: 200, image: `data:image/png;base64,${p}`, fit: [190, 150] })), columnGap: 12 }
				]
			: [];
	return [
		heading('How the whole piece lay: off its drawing, each sheet towards its back or its front'),
		{ svg: scans.scale, margin: [0, 0, 0, 4] },
		...scans.maps.map((m): Content => ({
			stack: [
				{ text: m.words, bold: true, fontSize: 9 },
				...row('as scanned, from two corners', m.scanned),
				...row('as forecast (quick method), on the same scale', m.forecast)
			],
			unbreakable: true,
			margin: [0, 0, 0, 8]
		}))
	];
}

/** Run by run; what went otherwise stands out. */
function besideTable({ runs, tacks }: Beside): Content[] {
	const otherwise = runs.filter((r) => r.otherwise.length).length;
	const told = [
		otherwise ? `${otherwise} of ${runs.length} runs went otherwise than issued.` : `All ${runs.length} runs as issued.`,
		tacks.now === tacks.issued ? `${tacks.issued} tacks as issued.` : `${tacks.issued} tacks issued, ${tacks.now} stand.`
	].join(' ');
	return [
		{ text: told, margin: [0, 0, 0, 2] },
		table(
			[24, '*', '*', 100],
			['Run', 'As issued', 'As run', ''],
			runs.map((r) => [`${r.number} ${r.letter}`, r.issued, r.run, r.otherwise.join(', ')])
		)
	];
}

const PICTURE_PT: [number, number] = [250, 190];
/** Two a line, each with what it shows. */
function photographPages(photographs: RecordData['photographs']): Content[] {
	const shown = photographs.map((p): Content => ({
		stack: [
			{ image: `data:image/jpeg;base64,${p.jpeg}`, fit: PICTURE_PT },
			{ text: [p.title, p.note === p.title ? '' : p.note].filter(Boolean).join(': '), fontSize: 9, bold: true },
			{ text: `${p.person}, ${stamp(p.at)}`, fontSize: 8 }
		],
		unbreakable: true,
		margin: [0, 0, 0, 8]
	}));
	const pairs = shown.flatMap((s, i): Content[] => (i % 2 ? [] : [{ columns: [s, shown[i + 1] ?? ''], columnGap: 12 }]));
	return pairs.length ? [heading('Photographs'), ...pairs] : [];
}

/** What was done, when and by whom, what was read, what went wrong and who signed. */
export function recordSheet(head: SheetHead, d: RecordData) {
	return render(head, [
		{
			columns: [
				{ text: `Piece ${d.serial}`, bold: true, fontSize: 16 },
				{ text: d.customer ? `For ${d.customer}` : '', alignment: 'right' }
			],
			margin: [0, 0, 0, 6]
		},
		{ text: d.heats.join('; '), margin: [0, 0, 0, 6] },
		table(
			['*', 92, 82, 100, 62, 58],
			['Feature', 'Measured', 'Forecast', 'Forecast and reading in the limits', 'Limit', ''],
			d.results.map((r) => [r.name, r.value, r.forecast, { svg: r.mark }, r.limit, r.verdict])
		),
		heading('Signature'),
		{
			text: d.signature
				? `${d.signature.accepted ? 'ACCEPTED' : 'REJECTED'}. “${d.signature.statement}”\n${d.signature.concession ? `Concession: ${d.signature.concession}\n` : ''}${d.signature.person}, ${stamp(d.signature.signedAt)}`
				: `Not signed yet.${d.missing.length ? ` ${d.missing.join('. ')}.` : ''}`
		},
		...list(
			'Put right',
			d.corrections.map((c) => `${c.words}. ${c.gave} (${c.person}, ${stamp(c.at)})`)
		),
		...list(
			'Looked at and tested',
			d.looked.map((l) => `${l.words} (${l.person}, ${stamp(l.at)})`)
		),
		heading('Problems'),
		d.problems.length
			? {
					ul: d.problems.map(
						(p) =>
							`${p.step}: ${p.note} (${p.person}, ${stamp(p.at)}). ${p.closure ? `Closed: ${p.closure.note} (${p.closure.person}, ${stamp(p.closure.at)})` : 'Open'}`
					)
				}
			: { text: 'None.' },
		...(d.isShort ? [] : wholeRecord(d)),
		{
			text: 'Pressure vessels, boilers, food and drinking-water duty: code, licensed engineer and inspector decide; this record does not replace them.',
			fontSize: 9,
			margin: [0, 12, 0, 0]
		}
	]);
}

const list = (title: string, items: string[]): Content[] => (items.length ? [heading(title), { ul: items }] : []);

/** What the one-page form leaves out. */
function wholeRecord(d: RecordData): Content[] {
	return [
		...picturePages(d.pictures),
		...mapPages(d.maps),
		...scanPages(d.scans),
		heading('Plan as issued, and as it was run'),
		...besideTable(d.beside),
		heading('Work at the bench'),
		d.log.length
			? table(
					['*', 'auto', 'auto', 'auto'],
					['Step', '', 'Who', 'When'],
					d.log.map((e) => [e.step, e.what, e.person, stamp(e.at)])
				)
			: { text: 'Nothing logged.' },
		heading('Readings'),
		d.readings.length
			? table(
					['*', 62, 64, '*', 'auto', 'auto'],
					['Feature', 'Moment', 'Value', 'How it was worked out', 'Who', 'When'],
					d.readings.map((r) => [
						r.feature,
						r.moment,
						r.value,
						`${r.arithmetic}; ${r.instrument}${r.withdrawn ? `. WITHDRAWN: ${r.withdrawn}` : ''}`,
						r.person,
						stamp(r.at)
					])
				)
			: { text: 'None.' },
		...photographPages(d.photographs)
	];
}
