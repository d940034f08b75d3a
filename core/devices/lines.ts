/** What a device sends, line by line: JSON lines, or CSV whose first row names the fields. */
import Papa from 'papaparse';
import type { Fault } from '../document/faults';

export interface Line {
	/** from 1 on, as it stood in what was sent */
	line: number;
	value?: unknown;
	fault?: Fault;
}

const NUMBERS = ['metalC', 'ampsA', 'volts', 'value', 'oxygenPct'];

export function readLines(text: string, contentType: string): Line[] {
	if (/^text\/csv\b/.test(contentType)) return csvLines(text);
	return text.split(/\r?\n/).flatMap((raw, i): Line[] => {
		if (!raw.trim()) return [];
		try {
			return [{ line: i + 1, value: JSON.parse(raw) }];
		} catch {
			return [{ line: i + 1, fault: { field: 'line', value: raw.slice(0, 40), allowed: 'must be one JSON object' } }];
		}
	});
}

/** An empty cell is a field that was not sent. */
const csvLines = (text: string): Line[] =>
	Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: 'greedy' }).data.map((row, i) => ({
		line: i + 2,
		value: Object.fromEntries(
			Object.entries(row)
				.filter(([, v]) => typeof v === 'string' && v.trim() !== '')
				.map(([k, v]) => [k, NUMBERS.includes(k) && Number.isFinite(Number(v)) ? Number(v) : v.trim()])
		)
	}));
