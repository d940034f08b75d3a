/** Any blank: its mesh covers it once, keeps its edges, and folds without stretching. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isInside, ringArea } from '../geometry/polyline';
import { distance, type Vec2 } from '../geometry/vec';
import { nodeAt } from '../shell/model';
import { edgeKey, flatMesh, type FlatMesh } from './flatMesh';
import { beyond, form, placingOf } from './fold';

const tenth = (min: number, max: number) => fc.integer({ min: min * 10, max: max * 10 }).map((v) => v / 10);
/** A ring round the middle with a corner at each of so many directions: simple whatever the radii. */
const ring = (x: number, y: number, radii: readonly number[], turn = 0): Vec2[] =>
	radii.map((r, i) => {
		const a = turn + (2 * Math.PI * i) / radii.length;
		return [x + r * Math.cos(a), y + r * Math.sin(a)];
	});
const blank = fc.record({
	radii: fc.array(tenth(60, 140), { minLength: 4, maxLength: 9 }),
	hole: fc.option(fc.record({ r: tenth(4, 20), n: fc.integer({ min: 3, max: 24 }), x: tenth(-12, 12), y: tenth(-12, 12), turn: tenth(0, 3) }), {
		nil: undefined
	}),
	size: tenth(8, 40),
	spots: fc.array(fc.tuple(tenth(-20, 20), tenth(-20, 20)), { maxLength: 3 })
});
const triangles = (m: FlatMesh) =>
	Array.from({ length: m.tri.length / 3 }, (_, e) => [0, 1, 2].map((i): Vec2 => [m.xy[2 * m.tri[3 * e + i]], m.xy[2 * m.tri[3 * e + i] + 1]]));
const area = ([p, q, r]: Vec2[]) => ((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])) / 2;
const edgesOf = (m: FlatMesh) => {
	const count = new Map<string, number>();
	for (let e = 0; e < m.tri.length; e += 3)
		for (let i = 0; i < 3; i++) {
			const key = edgeKey(m.tri[e + i], m.tri[e + ((i + 1) % 3)]);
			count.set(key, (count.get(key) ?? 0) + 1);
		}
	return count;
};

describe('the mesh of a blank', () => {
	it('covers it once: areas add up, no triangle is turned over, each inner edge has two sides and each outer one', () =>
		fc.assert(
			fc.property(blank, ({ radii, hole, size, spots }) => {
				const outline = ring(0, 0, radii);
				const holes = hole ? [ring(hole.x, hole.y, new Array<number>(hole.n).fill(hole.r), hole.turn)] : [];
				const free = spots.filter((p) => !holes.some((h) => isInside(p, h))) as Vec2[];
				const m = flatMesh(outline, holes, [], [], free, size);
				const parts = triangles(m).map(area);
				expect(Math.min(...parts)).toBeGreaterThan(0);
				const whole = Math.abs(ringArea(outline)) - holes.reduce((s, h) => s + Math.abs(ringArea(h)), 0);
				expect(parts.reduce((s, v) => s + v, 0)).toBeCloseTo(whole, 4);
				const edges = edgesOf(m);
				expect([...edges.values()].every((n) => n === 1 || n === 2)).toBe(true);
				// outer edges together are as long as the outline and the holes
				const length = [...edges]
					.filter(([, n]) => n === 1)
					.reduce((s, [key]) => {
						const [a, b] = key.split(':').map(Number);
						return s + Math.hypot(m.xy[2 * a] - m.xy[2 * b], m.xy[2 * a + 1] - m.xy[2 * b + 1]);
					}, 0);
				const round = [outline, ...holes].reduce(
					(s, r) => s + r.reduce((t, p, i) => t + Math.hypot(p[0] - r[(i + 1) % r.length][0], p[1] - r[(i + 1) % r.length][1]), 0),
					0
				);
				expect(length).toBeCloseTo(round, 4);
				for (const p of [...outline, ...free]) {
					const k = m.nodeAt(p);
					expect(Math.hypot(m.xy[2 * k] - p[0], m.xy[2 * k + 1] - p[1])).toBeLessThan(1e-3);
				}
			}),
			{ numRuns: 120 }
		));
	it('is about as fine as asked: a half of the size makes about four times the triangles', () =>
		fc.assert(
			fc.property(fc.array(tenth(90, 140), { minLength: 5, maxLength: 8 }), (radii) => {
				const count = (size: number) => flatMesh(ring(0, 0, radii), [], [], [], [], size).tri.length / 3;
				const ratio = count(10) / count(20);
				expect(ratio).toBeGreaterThan(2.8);
				expect(ratio).toBeLessThan(5.2);
			}),
			{ numRuns: 25 }
		));
	it('a line across it is a chain of edges, wherever it runs', () =>
		fc.assert(
			fc.property(tenth(-40, 40), tenth(-40, 40), tenth(8, 30), (u, v, size) => {
				const outline: Vec2[] = [
					[-60, -50],
					[60, -50],
					[60, 50],
					[-60, 50]
				];
				const line: Vec2[] = [
					[-60, u],
					[60, v]
				];
				const m = flatMesh(outline, [], [], [line], [], size);
				const on = Array.from({ length: m.xy.length / 2 }, (_, k) => k)
					.filter((k) => Math.abs((m.xy[2 * k] + 60) * (v - u) - (m.xy[2 * k + 1] - u) * 120) < 1e-3 * Math.hypot(120, v - u))
					.sort((p, q) => m.xy[2 * p] - m.xy[2 * q]);
				const edges = edgesOf(m);
				on.slice(1).forEach((k, i) => expect(edges.has(edgeKey(on[i], k))).toBe(true));
				expect(m.xy[2 * on[0]]).toBeCloseTo(-60, 6);
				expect(m.xy[2 * on[on.length - 1]]).toBeCloseTo(60, 6);
			}),
			{ numRuns: 40 }
		));
	it('the same blank gives the same mesh', () => {
		const of = () => flatMesh(ring(0, 0, [100, 90, 120, 80, 110]), [ring(0, 0, [20, 20, 20, 20])], [], [], [], 12);
		expect(of().tri).toEqual(of().tri);
		expect(of().xy).toEqual(of().xy);
	});
});

describe('folding', () => {
	/** a strip of panels side by side along x, bent between them */
	const strip = (widths: readonly number[], angles: readonly number[]) => {
		const at = widths.reduce<number[]>((s, w) => [...s, s[s.length - 1] + w], [0]);
		const end = at[at.length - 1];
		const outline: Vec2[] = [
			[0, 0],
			[end, 0],
			[end, 50],
			[0, 50]
		];
		const bends = angles.map((angleDeg, i) => ({
			id: `b${i}`,
			from: [at[i + 1], 0] as Vec2,
			to: [at[i + 1], 50] as Vec2,
			angleDeg,
			insideRadiusMm: 0
		}));
		const m = flatMesh(
			outline,
			[],
			bends.map((b): [Vec2, Vec2] => [b.from, b.to]),
			[],
			[],
			15
		);
		const frame = {
			origin: [3, -2, 5] as [number, number, number],
			x: [0, 1, 0] as [number, number, number],
			y: [0, 0, 1] as [number, number, number]
		};
		return { m, end, formed: form(m, { bends, frame } as never, [widths[0] / 2, 25]), at };
	};
	const shapes = fc.array(fc.tuple(tenth(20, 60), tenth(-120, 120)), { minLength: 1, maxLength: 4 });
	it('stretches nothing: every side of every triangle is as long as it was flat', () =>
		fc.assert(
			fc.property(shapes, (list) => {
				const { m, formed } = strip(
					[40, ...list.map(([w]) => w)],
					list.map(([, a]) => a)
				);
				expect(formed.panelCount).toBe(list.length + 1);
				for (let e = 0; e < m.tri.length; e += 3)
					for (let i = 0; i < 3; i++) {
						const [a, b] = [m.tri[e + i], m.tri[e + ((i + 1) % 3)]];
						const flat = Math.hypot(m.xy[2 * a] - m.xy[2 * b], m.xy[2 * a + 1] - m.xy[2 * b + 1]);
						expect(distance(nodeAt(formed.xyz, a), nodeAt(formed.xyz, b))).toBeCloseTo(flat, 7);
					}
			}),
			{ numRuns: 40 }
		));
	it('four right angles of a square strip bring its ends together', () => {
		const { m, formed, end } = strip([60, 60, 60, 60], [90, 90, 90]);
		for (const y of [0, 50]) {
			const [a, b] = [m.nodeAt([0, y]), m.nodeAt([end, y])];
			expect(distance(nodeAt(formed.xyz, a), nodeAt(formed.xyz, b))).toBeCloseTo(0, 7);
		}
	});
	it('a bend there and back again is no bend', () =>
		fc.assert(
			fc.property(tenth(-150, 150), (angleDeg) => {
				const bend = { id: 'b', from: [10, 0] as Vec2, to: [10, 40] as Vec2, angleDeg, insideRadiusMm: 0 };
				const base = placingOf({ origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] });
				const there = beyond(base, bend, [20, 20]);
				// seen from the far panel, the near side is the one that turns back
				const back = beyond(there, { ...bend, angleDeg: -angleDeg }, [20, 20]);
				[base.ex, base.ey].forEach((v, i) => v.forEach((c, d) => expect([back.ex, back.ey][i][d]).toBeCloseTo(c, 9)));
			}),
			{ numRuns: 30 }
		));
});
