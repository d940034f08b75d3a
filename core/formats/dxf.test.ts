/** Drawings in and out: against a second reader, and with what people really send. */
import DxfParser from 'dxf-parser';
import { describe, expect, it } from 'vitest';
import { layoutOf, planFromFlats } from '../compose/fromFlats';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { blankOf } from '../families/blank';
import { cuttingList } from '../families/cuttingList';
import { ringArea } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { checkPlan } from '../plan/check';
import { blanksDxf } from './blankDxf';
import { readDxf, roleOf } from './dxfIn';
import { writeDxf } from './dxfOut';

const square: Vec2[] = [
	[0, 0],
	[100, 0],
	[100, 60],
	[0, 60]
];
const hole: Vec2[] = Array.from({ length: 24 }, (_, i): Vec2 => [50 + 10 * Math.cos((i * Math.PI) / 12), 30 + 10 * Math.sin((i * Math.PI) / 12)]);
const options = { material: '1.4301', thicknessMm: 1.5, bendAngleDeg: 90, bendRadiusMm: 2, toleranceMm: 0.5 };
/** a drawing of entities, with or without units */
const drawing = (entities: string[], units?: number) =>
	[
		...(units === undefined ? [] : ['0', 'SECTION', '2', 'HEADER', '9', '$INSUNITS', '70', String(units), '0', 'ENDSEC']),
		'0',
		'SECTION',
		'2',
		'ENTITIES',
		...entities,
		'0',
		'ENDSEC',
		'0',
		'EOF',
		''
	].join('\n');
const line = (a: Vec2, b: Vec2, layer = 'CUT') => [
	'0',
	'LINE',
	'8',
	layer,
	'10',
	String(a[0]),
	'20',
	String(a[1]),
	'11',
	String(b[0]),
	'21',
	String(b[1])
];
const ring = (points: Vec2[], layer = 'CUT') => points.flatMap((p, i) => line(p, points[(i + 1) % points.length], layer));

describe('out and in again', () => {
	const text = writeDxf({
		outline: square,
		holes: [hole],
		bends: [{ from: [30, 0], to: [30, 60] }],
		marks: [{ from: [5, 5], to: [9, 5], label: 'T1' }]
	});
	it('a second reader (dxf-parser) finds the same outline, hole and layers, in mm', () => {
		const d = new DxfParser().parseSync(text)!;
		expect(d.header.$INSUNITS).toBe(4);
		const of = (layer: string) => d.entities.filter((e) => e.layer === layer) as unknown as { type: string; vertices: { x: number; y: number }[] }[];
		expect(of('OUTLINE')[0].vertices.map((v) => [v.x, v.y])).toEqual(square);
		of('HOLES')[0].vertices.forEach((v, i) => expect(Math.hypot(v.x - hole[i][0], v.y - hole[i][1])).toBeLessThan(1e-9));
		expect(of('BENDS')[0].vertices.map((v) => [v.x, v.y])).toEqual([
			[30, 0],
			[30, 60]
		]);
	});
	it('our own reader gives back outline, hole, bend and mark', () => {
		const r = readDxf(text);
		expect(r.faults).toEqual([]);
		expect(r.unit).toBe('mm');
		expect(r.flats).toHaveLength(1);
		expect(Math.abs(ringArea(r.flats[0].outline))).toBeCloseTo(6000, 9);
		expect(Math.abs(ringArea(r.flats[0].holes[0]))).toBeCloseTo(Math.abs(ringArea(hole)), 6);
		expect(r.flats[0].bends).toHaveLength(1);
		expect(r.flats[0].marks).toHaveLength(1);
	});
	it('a folded body out as its cut blank and in again is the same body', () => {
		const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], rimFlangeMm: 0 }).plan!;
		const body = plan.parts[0];
		const blank = blankOf(body, plan);
		const text2 = writeDxf({ outline: blank.outline, holes: [], bends: blank.bendLines });
		const flat = readDxf(text2).flats[0];
		const back = layoutOf(flat, { ...options, thicknessMm: body.thicknessMm });
		const size = (pts: Vec2[], d: 0 | 1) => Math.max(...pts.map((p) => p[d])) - Math.min(...pts.map((p) => p[d]));
		for (const d of [0, 1] as const) expect(size(back.outline, d)).toBeCloseTo(size(body.outline, d), 6);
		expect(Math.abs(back.bends[1].from[1] - back.bends[0].from[1])).toBeCloseTo(Math.abs(body.bends[1].from[1] - body.bends[0].from[1]), 6);
	});
	it('the cutting list’s blanks lie side by side, each with its oversize', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [100, 140], lengthMm: 200 }).plan!;
		const list = cuttingList(plan, 2, [{ joint: 's1', acrossMm: 0.4, tendonForceN: 0 }], () => 200e3);
		const r = readDxf(blanksDxf(list));
		expect(r.flats).toHaveLength(2);
		const width = (f: (typeof r.flats)[0]) => Math.max(...f.outline.map((p) => p[0])) - Math.min(...f.outline.map((p) => p[0]));
		expect(r.flats.map(width).map((w) => Math.round(w * 100) / 100)).toEqual([100.2, 140.2]);
	});
});

describe('what people send', () => {
	it('loose lines and arcs are joined end to end; inches become mm', () => {
		// a slot: two lines and two half circles, in inches
		const arcs = (cx: number, from: number, to: number) => [
			'0',
			'ARC',
			'8',
			'CUT',
			'10',
			String(cx),
			'20',
			'0.5',
			'40',
			'0.5',
			'50',
			String(from),
			'51',
			String(to)
		];
		const r = readDxf(drawing([...line([1, 0], [3, 0]), ...arcs(3, 270, 90), ...line([3, 1], [1, 1]), ...arcs(1, 90, 270)], 1));
		expect(r.faults).toEqual([]);
		const area = (2 * 1 + Math.PI * 0.25) * 25.4 ** 2;
		expect(Math.abs(Math.abs(ringArea(r.flats[0].outline)) / area - 1)).toBeLessThan(0.003);
	});
	it('bulges are arcs: a circle of two half-turn bulges has its area', () => {
		const text = drawing(['0', 'LWPOLYLINE', '8', 'CUT', '90', '2', '70', '1', '10', '0', '20', '0', '42', '1', '10', '40', '20', '0', '42', '1'], 4);
		expect(Math.abs(Math.abs(ringArea(readDxf(text).flats[0].outline)) / (Math.PI * 400) - 1)).toBeLessThan(0.01);
	});
	it('a large drawing is read: 60,000 points that nothing needs beside one blank, 480,000 lines', () => {
		const square = '0\nLWPOLYLINE\n8\nCUT\n90\n4\n70\n1\n10\n0\n20\n0\n10\n80\n20\n0\n10\n80\n20\n50\n10\n0\n20\n50\n';
		const points = '0\nPOINT\n8\n0\n10\n1.0\n20\n2.0\n'.repeat(60_000);
		const r = readDxf(`0\nSECTION\n2\nENTITIES\n${points}${square}0\nENDSEC\n0\nEOF\n`, 'mm');
		expect([r.faults, r.flats.length, r.unused.length]).toEqual([[], 1, 60_000]);
		expect(Math.abs(ringArea(r.flats[0].outline))).toBeCloseTo(4000, 6);
	});
	it('without units it asks, and takes the answer', () => {
		const text = drawing(ring(square));
		expect(readDxf(text)).toMatchObject({
			unit: undefined,
			flats: [],
			faults: [{ words: 'The drawing names no units: say whether it is in mm or inches' }]
		});
		expect(Math.abs(ringArea(readDxf(text, 'cm').flats[0].outline))).toBeCloseTo(600_000, 6);
	});
	it('two outlines are two blanks; a ring in a hole of one is a part of its own', () => {
		const shifted = square.map(([x, y]): Vec2 => [x + 200, y]);
		const inner: Vec2[] = [
			[45, 25],
			[55, 25],
			[55, 35],
			[45, 35]
		];
		const r = readDxf(drawing([...ring(square), ...ring(hole), ...ring(inner), ...ring(shifted)], 4));
		expect(r.flats.map((f) => f.holes.length).sort()).toEqual([0, 0, 1]);
	});
	it('layers by name: bends, marks, everything else cut', () => {
		expect(['BEND_UP', 'Biegelinie', 'fold', 'ETCH', 'Text', '0', 'Kontur'].map(roleOf)).toEqual([
			'bend',
			'bend',
			'bend',
			'mark',
			'mark',
			'cut',
			'cut'
		]);
	});
	it('open, crossing, pointless and unread things are named with their place', () => {
		const open = readDxf(drawing([...line([0, 0], [100, 0]), ...line([100, 0], [100, 60]), ...line([100, 60], [0, 61])], 4));
		expect(open.faults[0]).toMatchObject({ words: expect.stringMatching(/stands open between \[0\.0, (0|61)\.0\].*close the gap of 61\.00 mm/) });
		const eight: Vec2[] = [
			[0, 0],
			[100, 60],
			[100, 0],
			[0, 80]
		];
		expect(readDxf(drawing(ring(eight), 4)).faults[0].words).toMatch(/crosses itself/);
		expect(readDxf(drawing([...ring(square), ...line([30, 30], [30.2, 30], 'BEND')], 4)).faults[0].words).toMatch(
			/bend of no length at \[30\.1, 30\.0\]/
		);
		expect(readDxf(drawing([...ring(square), ...line([300, 0], [300, 60], 'BEND')], 4)).unused[0].words).toMatch(
			/bend at \[300\.0, 30\.0\] lies on no outline/
		);
		const spline = ['0', 'SPLINE', '8', 'CUT', '70', '8', '71', '3', '10', '1', '20', '1'];
		expect(readDxf(drawing([...ring(square), ...spline], 4)).unused[0].words).toMatch(/SPLINE on layer “CUT” is not read: turn it into arcs/);
	});
	it('what is no drawing is refused, and an empty one', () => {
		expect(readDxf('not a drawing at all').faults).toHaveLength(1);
		expect(readDxf(drawing([], 4)).faults[0].words).toMatch(/holds nothing/);
		expect(readDxf('x'.repeat(8_000_001)).faults[0].words).toMatch(/at most 8 MB/);
	});
});

describe('a plan from flats', () => {
	it('a cross-shaped flat with four bends folds into a tray with four corner seams', () => {
		const d = 40;
		const cross: Vec2[] = [
			[0, 0],
			[0, -d],
			[200, -d],
			[200, 0],
			[200 + d, 0],
			[200 + d, 120],
			[200, 120],
			[200, 120 + d],
			[0, 120 + d],
			[0, 120],
			[-d, 120],
			[-d, 0]
		];
		const bends: [Vec2, Vec2][] = [
			[
				[0, 0],
				[200, 0]
			],
			[
				[200, 0],
				[200, 120]
			],
			[
				[0, 120],
				[200, 120]
			],
			[
				[0, 0],
				[0, 120]
			]
		];
		const plan = planFromFlats([{ outline: cross, holes: [], bends }], { ...options, bendRadiusMm: 0.1, toleranceMm: 1 });
		expect(checkPlan(plan)).toEqual([]);
		expect(plan.joints).toHaveLength(4);
		for (const j of plan.joints) expect(j.type).toBe('corner-edge');
		expect(plan.tacks.length).toBeGreaterThan(0);
	});
	it('two flats drawn edge to edge are butted', () => {
		const plan = planFromFlats(
			[
				{ outline: square, holes: [], bends: [] },
				{ outline: square.map(([x, y]): Vec2 => [x + 100, y]), holes: [], bends: [] }
			],
			options
		);
		expect(plan.joints.map((j) => j.type)).toEqual(['butt']);
		expect(plan.features.length).toBe(2);
	});
});
