/** A register as a table that any spreadsheet opens, and back: one row a thing, columns by the names of its fields, mm and amps. */
import type { RegisterKind } from '../document/words';
import Papa from 'papaparse';
import { FaultError, type Fault } from '../document/faults';
import { readItem, REGISTERS, type RegisterItem } from './registers';

/** Rows of one file. */
export const MOST_ROWS = 2000;

/** A spreadsheet would take such a cell for a formula: it is written behind an apostrophe, which is taken off again. */
const FORMULA = /^'(?=[=+\-@\t\r])/;

export const registerCsv = (kind: RegisterKind, items: readonly RegisterItem[]): string =>
	Papa.unparse(
		{ fields: REGISTERS[kind].fields.map((f) => f.key), data: [...items] },
		// numbers below zero do not occur here
		{ escapeFormulae: true, newline: '\r\n' }
	) + '\r\n';

/** @throws FaultError naming row and column; nothing is taken from a file with a fault */
export function readRegisterCsv(kind: RegisterKind, text: string): RegisterItem[] {
	const { fields } = REGISTERS[kind];
	const { data, errors, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: 'greedy' });
	const faults: Fault[] = [];
	const known = new Set(fields.map((f) => f.key));
	for (const name of meta.fields ?? [])
		if (!known.has(name)) faults.push({ field: 'row 1', value: name, allowed: `columns are ${[...known].join(', ')}` });
	if (!data.length) faults.push({ field: 'file', value: 'no rows', allowed: `a row of column names and up to ${MOST_ROWS} rows` });
	if (data.length > MOST_ROWS) faults.push({ field: 'file', value: `${data.length} rows`, allowed: `at most ${MOST_ROWS}` });
	for (const e of errors.slice(0, 20))
		if (e.type !== 'Delimiter') faults.push({ field: `row ${(e.row ?? 0) + 2}`, value: e.code, allowed: e.message });
	if (faults.length) throw new FaultError(faults);
	const names = new Map<string, number>();
	const items = data.map((row, i) => {
		const at = `row ${i + 2}`;
		try {
			const item = readItem(kind, fromCells(kind, row));
			const before = names.get(item.name);
			if (before) faults.push({ field: `${at}, name`, value: item.name, allowed: `is in row ${before} already` });
			names.set(item.name, i + 2);
			return item;
		} catch (e) {
			if (!(e instanceof FaultError)) throw e;
			faults.push(...e.faults.map((f) => ({ ...f, field: `${at}, ${f.field}` })));
			return undefined;
		}
	});
	if (faults.length) throw new FaultError(faults.slice(0, 50));
	return items as RegisterItem[];
}

function fromCells(kind: RegisterKind, row: Record<string, string>): object {
	const item: Record<string, unknown> = {};
	for (const f of REGISTERS[kind].fields) {
		const text = (row[f.key] ?? '').trim().replace(FORMULA, '');
		if (!text) continue;
		const isNumber = f.is === 'length' || f.is === 'number';
		// 12,5 is what half of Europe's spreadsheets write
		const n = Number(text.replace(/^(\d+),(\d+)$/, '$1.$2'));
		item[f.key] = isNumber && Number.isFinite(n) ? n : text;
	}
	return item;
}
