/** Line drawings: what is seen against a slow and certain answer, arrows and letters where they belong. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { SheetTree, type Triangle } from '../geometry/sheetTree';
import { cross, dot, sub, type Vec3 } from '../geometry/vec';
import { UP_AXES } from '../layout/positions';
import { seamLetters } from '../layout/seamNames';
import { uniformFrom } from '../linalg/random';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { PieceDrawer } from './lineDrawing';
import { drawingSvg } from './svg';
import { onPage, TURNS, viewOf } from './view';

const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};

/** Is a box seen to stand before a point? Every face asked as a plane, no tree and no triangles. */
function boxHides(p: Vec3, eye: Vec3, size: Vec3): boolean {
	for (let d = 0; d < 3; d++)
		for (const at of [0, size[d]]) {
			if (Math.abs(eye[d]) < 1e-12) continue;
			const t = (at - p[d]) / eye[d];
			if (t < 1e-6) continue;
			const hit = p.map((v, k) => v + t * eye[k]);
			if ([0, 1, 2].every((k) => k === d || (hit[k] > 1e-9 && hit[k] < size[k] - 1e-9))) return true;
		}
	return false;
}

type Page = [number, number];
type Line = [Page, Page];
/** moved so that their upper left lies at nothing */
function cornered(lines: Line[]): Line[] {
	const [x, y] = [0, 1].map((d) => Math.min(...lines.flat().map((p) => p[d])));
	return lines.map((l) => l.map((p): Page => [p[0] - x, p[1] - y]) as Line);
}
const along = ([p, q]: Line): Page[] => [0.05, 0.3, 0.5, 0.7, 0.95].map((f): Page => [p[0] + f * (q[0] - p[0]), p[1] + f * (q[1] - p[1])]);
function fromLine([x, y]: Page, [p, q]: Line): number {
	const [ux, uy] = [q[0] - p[0], q[1] - p[1]];
	const t = Math.max(0, Math.min(1, ((x - p[0]) * ux + (y - p[1]) * uy) / Math.max(1e-12, ux * ux + uy * uy)));
	return Math.hypot(x - p[0] - t * ux, y - p[1] - t * uy);
}

describe('hidden lines', () => {
	it('random closed boxes from every side: the edges drawn are the nine that face whoever looks, to the millimetre', () => {
		const random = uniformFrom(5);
		for (let n = 0; n < 8; n++) {
			const [l, w, h] = [150, 120, 80].map((v) => Math.round(v * (0.7 + random())));
			const plan = make('open-trough', { lengthMm: l, widthMm: w, depthMm: h, rimFlangeMm: 0, body: 'five-plates', lid: true });
			const mesh = assemblyMesh(plan);
			const drawer = new PieceDrawer(mesh);
			const size: Vec3 = [l + 1.5, w + 1.5, h + 0.75];
			for (const up of UP_AXES)
				for (const turn of TURNS) {
					const view = viewOf(up, turn);
					const { lines } = drawer.draw(up, turn);
					// each edge of a box, asked at its middle a little inside each of its two faces
					const expected: Line[] = [];
					for (let d = 0; d < 3; d++)
						for (const a of [0, 1])
							for (const b of [0, 1]) {
								const [e, f] = [(d + 1) % 3, (d + 2) % 3];
								const ends = [0, 1].map((t): Vec3 => {
									const p: Vec3 = [0, 0, 0];
									[p[d], p[e], p[f]] = [t * size[d], a * size[e], b * size[f]];
									return p;
								});
								const middle = ends[0].map((v, k) => (v + ends[1][k]) / 2);
								const inFace = (k: number, at: number): Vec3 => middle.map((v, i) => (i === k ? v + (at ? -1 : 1) : v)) as Vec3;
								if ([inFace(e, a), inFace(f, b)].some((p) => !boxHides(p, view.eye, size)))
									expected.push([onPage(view, ends[0]), onPage(view, ends[1])]);
							}
					expect(expected).toHaveLength(9);
					const drawn = lines.flatMap((line) => line.slice(1).map((p, i): Line => [line[i], p]));
					const [mine, theirs] = [cornered(drawn), cornered(expected)];
					for (const [p, q] of [
						[mine, theirs],
						[theirs, mine]
					])
						for (const line of p) for (const at of along(line)) expect(Math.min(...q.map((o) => fromLine(at, o))), `${up} ${turn}`).toBeLessThan(0.8);
				}
		}
	});
	it('rays through the nested boxes meet what a walk over every triangle meets', () => {
		const random = uniformFrom(8);
		const vec = (): Vec3 => [random() - 0.5, random() - 0.5, random() - 0.5];
		const triangles = Array.from({ length: 300 }, (): Triangle => {
			const at = vec();
			return [at, at.map((v) => v + 0.1 * random()) as Vec3, at.map((v) => v + 0.1 * (random() - 0.5)) as Vec3];
		});
		const tree = new SheetTree(triangles);
		const hits = (o: Vec3, d: Vec3, [p, q, r]: Triangle) => {
			const n = cross(sub(q, p), sub(r, p));
			const t = dot(n, sub(p, o)) / dot(n, d);
			if (!(t > 0)) return false;
			const x = o.map((v, k) => v + t * d[k]) as Vec3;
			return [
				[p, q],
				[q, r],
				[r, p]
			].every(([a, b]) => dot(cross(sub(b, a), sub(x, a)), n) >= 0);
		};
		let met = 0;
		for (let i = 0; i < 500; i++) {
			const [o, d] = [vec(), vec()];
			const plain = triangles.some((t) => hits(o, d, t));
			expect(tree.some(o, d, (t) => hits(o, d, t))).toBe(plain);
			met += Number(plain);
		}
		expect(met).toBeGreaterThan(50);
		expect(met).toBeLessThan(450);
	});
	it('a baffle inside is behind the wall; without the lid it is seen', () => {
		const plan = make('open-trough', { lid: true, baffles: 1, rimFlangeMm: 0 });
		const mesh = assemblyMesh(plan);
		const drawer = new PieceDrawer(mesh);
		const all = drawer.draw('top', 0);
		const open = drawer.draw('top', 0, new Set(mesh.parts.flatMap((p, i) => (p.part.id === 'lid' ? [] : [i]))));
		const seen = (d: typeof all) => d.seams.find((s) => s.joint === 'baffle-1-floor')!.isSeen;
		expect([seen(all), seen(open)]).toEqual([false, true]);
		expect(open.seams.some((s) => s.joint === 'lid-front')).toBe(false);
		expect(all.seams.some((s) => s.joint === 'lid-front')).toBe(true);
	});
});

describe('what a step lights up', () => {
	const plan = make('open-trough');
	const mesh = assemblyMesh(plan);
	const drawer = new PieceDrawer(mesh);
	it('a seam is seen best from where it is best seen, and bears the letter it has everywhere', () => {
		const letters = seamLetters(plan.joints);
		for (const j of plan.joints) {
			const turn = drawer.bestTurn(j.id, 'top');
			const line = drawer.draw('top', turn).seams.find((s) => s.joint === j.id)!;
			expect(line.letter).toBe(letters.get(j.id));
			expect(line.isSeen, j.name).toBe(true);
		}
	});
	it('the arrow of a run ends at its last station, and turns about with the run', () => {
		const drawing = drawer.draw('top', 0);
		const [seam] = drawing.seams;
		const tip = (from: number, to: number) => {
			const svg = drawingSvg(drawing, { joint: seam.joint, run: { fromMm: from, toMm: to } }, 400);
			const head = [...svg.matchAll(/<path d="M[\d.-]+ [\d.-]+L([\d.-]+) ([\d.-]+)L[\d.-]+ [\d.-]+Z"/g)][0];
			return [Number(head[1]), Number(head[2])];
		};
		const length = seam.stations[seam.stations.length - 1];
		const [p, q] = [seam.points[0], seam.points[seam.points.length - 1]];
		for (const share of [0.25, 0.5, 1]) {
			const there = tip(0, share * length);
			for (let d = 0; d < 2; d++) expect(there[d]).toBeCloseTo(p[d] + share * (q[d] - p[d]), 0);
		}
		const back = tip(length, 0);
		for (let d = 0; d < 2; d++) expect(back[d]).toBeCloseTo(p[d], 0);
	});
	it('says nothing that is no number or letter, whatever a seam is called', () => {
		const named = structuredClone(plan);
		const drawing = new PieceDrawer(assemblyMesh(named)).draw('top', 0);
		const svg = drawingSvg(drawing, { joint: named.joints[0].id, marks: [10, 50], letters: true, run: { fromMm: 0, toMm: 40 } }, 300, 200);
		expect(svg).not.toMatch(/NaN|undefined|Infinity/);
		expect([...svg.matchAll(/>([^<]+)<\/text>/g)].every(([, t]) => /^[A-Z]{1,2}$|^0$/.test(t))).toBe(true);
		const [, w, h] = /width="(\d+)" height="(\d+)"/.exec(svg)!;
		expect(Number(w)).toBeLessThanOrEqual(300);
		expect(Number(h)).toBeLessThanOrEqual(200);
	});
});
