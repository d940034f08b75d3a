/** What the shop writes down of its things: read by kind, out as a table and back, put into plans. */
import { REGISTER_KINDS, type RegisterKind } from '../document/words';
import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { FaultError } from '../document/faults';
import { calibrationWords, instrumentWords } from './instruments';
import { readRegisterCsv, registerCsv } from './registerCsv';
import { productWords, readItem, REGISTERS, type ItemOf, type RegisterItem } from './registers';

const faultsOf = (f: () => unknown): string[] => {
	try {
		f();
	} catch (e) {
		if (e instanceof FaultError) return e.faults.map((x) => `${x.field} ${x.allowed}`);
		throw e;
	}
	return [];
};
const EXAMPLES: Record<RegisterKind, object> = {
	bar: { name: 'Copper 1', material: 'copper', widthMm: 40, thicknessMm: 10, lengthMm: 600 },
	strongback: { name: 'Angle', section: 'angle-40-4', lengthMm: 1200 },
	clamp: { name: 'Deep', throatMm: 100, opensMm: 50, count: 8 },
	instrument: { name: 'Tape 2', reads: 'length', uncertainty90: 0.5, calibratedOn: '2026-01-05', dueOn: '2027-01-05' },
	source: { name: 'Bay 2', fromA: 5, toA: 220, polarity: 'DC-' },
	tungsten: { name: 'Grey', grade: 'WC20', diameterMm: 1.6 },
	cup: { name: 'Lens', boreMm: 12, body: 'lens' },
	filler: { name: 'Thin', grade: '308L', diameterMm: 1, batch: 'F-1' },
	product: { name: 'Paste', does: 'pickled', fromMin: 20, toMin: 40, sheet: 'S-3' }
};

describe('an entry of a register', () => {
	it.each(REGISTER_KINDS)('%s: what must be given is asked for, what is known is taken, nothing else', (kind) => {
		const example = EXAMPLES[kind];
		expect({ ...readItem(kind, example) }).toMatchObject(example);
		for (const f of REGISTERS[kind].fields) {
			const without = Object.fromEntries(Object.entries(example).filter(([k]) => k !== f.key));
			expect(
				faultsOf(() => readItem(kind, without)).some((x) => x.startsWith(`${f.key} `)),
				f.key
			).toBe(f.must === true);
		}
		expect(faultsOf(() => readItem(kind, { ...example, colour: 'red' }))).toEqual(['colour this field is not known here']);
	});
	it('days are days, an instrument is not due before it was calibrated, a machine’s range goes upwards', () => {
		const day = (dueOn: string) => faultsOf(() => readItem('instrument', { ...EXAMPLES.instrument, dueOn }));
		expect(day('2026-02-30')).toEqual(['dueOn must be a day like 2026-05-31']);
		expect(day('next week')).toHaveLength(1);
		expect(day('2025-12-31')).toEqual(['dueOn must not be before 2026-01-05']);
		expect(faultsOf(() => readItem('source', { name: 'x', fromA: 50, toA: 20 }))).toEqual(['toA must be at least 50']);
		expect(faultsOf(() => readItem('product', { ...EXAMPLES.product, toMin: 10 }))).toEqual(['toMin must be at least 20']);
	});
	it('a product is told with its times and where its sheet lies', () => {
		const paste = readItem('product', EXAMPLES.product) as ItemOf['product'];
		expect(productWords(paste)).toBe('Paste pickles: 20 to 40 min (S-3)');
		expect(productWords({ ...paste, toMin: 20, sheet: undefined })).toBe('Paste pickles: 20 min by its sheet');
	});
	it('one whose calibration has run out is named so from the day after its last', () => {
		expect(calibrationWords('2026-05-31T23:00:00.000Z', '2026-05-31')).toBeUndefined();
		expect(calibrationWords('2026-06-01T06:00:00.000Z', '2026-05-31')).toBe('calibration ran out 2026-05-31');
		expect(calibrationWords('2026-06-01', null)).toBeUndefined();
		expect(instrumentWords('Tape 2', '2026-05-31', new Date('2026-06-01T06:00:00Z'))).toBe('Tape 2 (calibration ran out 2026-05-31)');
	});
});

describe('a register as a table', () => {
	// lines, quotes, commas and formulas in what people type
	const words = fc
		.string({ minLength: 1, maxLength: 30, unit: 'grapheme' })
		.filter((s) => s.trim() === s && s !== '' && !/\p{Cc}/u.test(s) && !s.startsWith("'"));
	it('comes back as it went, whatever is typed', () => {
		fc.assert(
			fc.property(
				fc.uniqueArray(words, { minLength: 1, maxLength: 8 }),
				words,
				fc.double({ min: 2, max: 500, noNaN: true }),
				(names, note, widthMm) => {
					const items = names.map((name) => ({ ...EXAMPLES.bar, name, note, widthMm })) as RegisterItem[];
					expect(readRegisterCsv('bar', registerCsv('bar', items)).map((i) => ({ ...i }))).toMatchObject(items);
				}
			),
			{ numRuns: 300 }
		);
	});
	it('no cell of it is a formula to a spreadsheet', () => {
		const csv = registerCsv('filler', [{ ...EXAMPLES.filler, name: '=1+1', batch: '@SUM(A1)' } as RegisterItem]);
		for (const cell of Papa.parse<string[]>(csv).data.flat()) expect(cell).not.toMatch(/^[=+\-@]/);
	});
	it('a comma for the decimal, a byte order mark, semicolons and empty rows are read', () => {
		const text = '\uFEFFname;material;widthMm;thicknessMm;lengthMm\r\nOld bar;copper;12,5;6;300\r\n\r\n';
		expect(readRegisterCsv('bar', text)).toMatchObject([{ name: 'Old bar', widthMm: 12.5, thicknessMm: 6 }]);
	});
	it('a wrong file is refused whole, by row and column', () => {
		const rows = (...r: string[]) => faultsOf(() => readRegisterCsv('cup', ['name,boreMm', ...r].join('\n')));
		expect(rows('A,8', 'B,90', ',7', 'A,9')).toEqual([
			'row 3, boreMm must be at most 40',
			'row 4, name must be text',
			'row 5, name is in row 2 already'
		]);
		expect(rows()).toEqual(['file a row of column names and up to 2000 rows']);
		expect(faultsOf(() => readRegisterCsv('cup', 'name,size\nA,8'))[0]).toMatch(/^row 1 columns are name, boreMm/);
		expect(rows('A,eight')[0]).toMatch(/^row 2, boreMm must be a number/);
		expect(rows(...Array.from({ length: 2001 }, (_, i) => `c${i},8`))).toEqual(['file at most 2000']);
	});
});
