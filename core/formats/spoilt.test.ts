/** Files that have been cut short, mixed up or written by something else: refused in words or read with sense, never a crash, never a number that is none. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleJobs } from '../../cli/exampleJobs';
import { planFromFlats } from '../compose/fromFlats';
import { partsFromSurfaces } from '../compose/fromSurfaces';
import { ringArea } from '../geometry/polyline';
import { checkPlan } from '../plan/check';
import { readDxf } from './dxfIn';
import { writeDxf } from './dxfOut';
import { readJobFile, writeJobFile } from './jobFile';

const drawing = writeDxf([
	{
		outline: [
			[0, 0],
			[200, 0],
			[200, 120],
			[0, 120]
		],
		holes: [Array.from({ length: 24 }, (_, i) => [60 + 15 * Math.cos((i * Math.PI) / 12), 60 + 15 * Math.sin((i * Math.PI) / 12)])],
		bends: [{ from: [150, 0], to: [150, 120] }]
	},
	{
		outline: [
			[300, 0],
			[380, 0],
			[340, 90]
		],
		holes: [],
		bends: []
	}
]).split('\n');
const WRONG = ['', 'NaN', '-1', '1e300', '0', 'LWPOLYLINE', '99999999999999999999', '\u0000', 'ENDSEC', '10'];

/** One thing done to a list of lines. */
const spoil = fc.oneof(
	fc.record({ kind: fc.constant('put' as const), at: fc.double({ min: 0, max: 1, noNaN: true }), value: fc.constantFrom(...WRONG) }),
	fc.record({ kind: fc.constant('drop' as const), at: fc.double({ min: 0, max: 1, noNaN: true }), count: fc.integer({ min: 1, max: 9 }) }),
	fc.record({ kind: fc.constant('twice' as const), at: fc.double({ min: 0, max: 1, noNaN: true }), count: fc.integer({ min: 1, max: 40 }) }),
	fc.record({ kind: fc.constant('cut' as const), at: fc.double({ min: 0, max: 1, noNaN: true }) })
);
type Spoil = typeof spoil extends fc.Arbitrary<infer T> ? T : never;
function spoilt(lines: readonly string[], what: readonly Spoil[]): string {
	const out = [...lines];
	for (const w of what) {
		const at = Math.floor(w.at * out.length);
		if (w.kind === 'put') out[at] = w.value;
		else if (w.kind === 'drop') out.splice(at, w.count);
		else if (w.kind === 'twice') out.splice(at, 0, ...out.slice(at, at + w.count));
		else out.length = at;
	}
	return out.join('\n');
}
/** A RangeError is words for the planner (the import passes them on); anything else is a fault of the program. */
function inWords<T>(work: () => T): T | undefined {
	try {
		return work();
	} catch (e) {
		if (!(e instanceof RangeError)) throw e;
		expect(e.message.length).toBeGreaterThan(20);
		return undefined;
	}
}
const finite = (v: unknown) => expect(JSON.stringify(v)).not.toMatch(/null/);

describe('spoilt drawings', () => {
	it('the sound one is read: two flats, a hole, a bend', () => {
		const read = readDxf(drawing.join('\n'));
		expect(read.faults).toEqual([]);
		expect(read.flats.map((f) => [f.holes.length, f.bends.length])).toEqual([
			[1, 1],
			[0, 0]
		]);
	});
	it('whatever is done to its lines, it is refused in words or read with sense', () =>
		fc.assert(
			fc.property(fc.array(spoil, { minLength: 1, maxLength: 4 }), (what) => {
				const read = readDxf(spoilt(drawing, what), 'mm');
				for (const t of [...read.faults, ...read.unused]) expect(t.words.length).toBeGreaterThan(5);
				finite(read.flats);
				for (const f of read.flats) {
					expect(f.outline.length).toBeGreaterThanOrEqual(3);
					expect(Math.abs(ringArea(f.outline))).toBeGreaterThan(0);
				}
				if (read.faults.length || !read.flats.length) return;
				// what is read either makes a plan, or the plan's own check says what is wrong with it
				const made = inWords(() =>
					planFromFlats(read.flats, { material: '1.4301', thicknessMm: 1.5, bendAngleDeg: 90, bendRadiusMm: 2, toleranceMm: 0.5 })
				);
				for (const f of made ? checkPlan(made) : []) expect([f.field, f.value, f.allowed].every((x) => x.length > 0)).toBe(true);
			}),
			{ numRuns: 250 }
		));
});

describe('spoilt job files', () => {
	const texts = exampleJobs()
		.slice(0, 4)
		.map((e) => writeJobFile(e.job, e.plan));
	it('a file cut short or with its lines mixed up is refused as a whole, or is a sound plan still', () =>
		fc.assert(
			fc.property(fc.nat(texts.length - 1), fc.array(spoil, { minLength: 1, maxLength: 3 }), (i, what) => {
				const read = readJobFile(spoilt(texts[i].split('\n'), what));
				if (read.file) expect(checkPlan(read.file.plan)).toEqual([]);
				else {
					expect(read.faults.length).toBeGreaterThan(0);
					for (const f of read.faults) {
						expect(f.field.length * f.allowed.length).toBeGreaterThan(0);
						expect(f.value.length).toBeLessThanOrEqual(80);
					}
				}
			}),
			{ numRuns: 250 }
		));
	it('single characters changed likewise', () =>
		fc.assert(
			fc.property(
				fc.nat(texts.length - 1),
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.constantFrom('"', '}', ',', '9', '-', 'e', '\\', ' '),
				(i, at, c) => {
					const text = texts[i];
					const k = Math.min(text.length - 1, Math.floor(at * text.length));
					const read = readJobFile(text.slice(0, k) + c + text.slice(k + 1));
					expect(Boolean(read.file) !== read.faults.length > 0).toBe(true);
				}
			),
			{ numRuns: 250 }
		));
});

describe('spoilt surfaces', () => {
	/** a box of sheets as triangles */
	const box = () => {
		const xyz: number[] = [];
		const tri: number[] = [];
		const quad = (p: number[][]) => {
			const first = xyz.length / 3;
			xyz.push(...p.flat());
			tri.push(first, first + 1, first + 2, first, first + 2, first + 3);
		};
		quad([
			[0, 0, 0],
			[200, 0, 0],
			[200, 100, 0],
			[0, 100, 0]
		]);
		quad([
			[0, 0, 0],
			[200, 0, 0],
			[200, 0, 60],
			[0, 0, 60]
		]);
		quad([
			[0, 0, 0],
			[0, 100, 0],
			[0, 100, 60],
			[0, 0, 60]
		]);
		return { xyz, tri };
	};
	it('points moved anywhere, triangles turned, doubled or pointing nowhere: parts with sense, or words', () =>
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.nat(35), fc.constantFrom(0, 1e-9, 50, -300, 1e7, NaN, Infinity)), { maxLength: 4 }),
				fc.array(fc.tuple(fc.nat(17), fc.integer({ min: -1, max: 40 })), { maxLength: 3 }),
				(moves, turns) => {
					const { xyz, tri } = box();
					for (const [i, v] of moves) xyz[i] = v;
					for (const [i, v] of turns) tri[i] = v;
					const read = partsFromSurfaces([{ xyz, tri, name: 'Box' }], { material: '1.4301', thicknessMm: 1.5 });
					finite(read.parts);
					for (const w of [...read.faults, ...read.unused]) expect(w.length).toBeGreaterThan(5);
					if (!read.parts.length) expect(read.faults.length + read.unused.length).toBeGreaterThan(0);
					for (const p of read.parts) expect(Math.abs(ringArea(p.outline))).toBeGreaterThan(0);
				}
			),
			{ numRuns: 250 }
		));
});
