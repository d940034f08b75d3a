/**
 * The same facets solved by CalculiX (S6, decks written by core/formats/calculix.ts). Where ccx is not installed the kept
 * numbers of a run with version 2.20 stand in for it, and the test's name says so.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { deeply } from '../../core/testing/deeply';
import { bucklingModes } from '$core/equilibrium/buckling';
import { minimise } from '$core/equilibrium/minimise';
import { stateAt } from '$core/equilibrium/state';
import { EquilibriumSystem } from '$core/equilibrium/system';
import { DeadLoads } from '$core/equilibrium/ground';
import { Triangles } from '$core/equilibrium/triangles';
import { writeCalculix, type DeckModel, type DeckStep, type Eigenstrain } from '$core/formats/calculix';
import { dot, type Vec3 } from '$core/geometry/vec';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { nodeAt } from '$core/shell/model';
import { axesOf, eigenstrainForces } from '$core/shell/triangle';
import { grid, welded } from './meshes';
import { published } from './published';

const CCX = ['/usr/bin/ccx', '/usr/local/bin/ccx'].find(existsSync);
const by = CCX ? 'CalculiX run here' : 'CalculiX NOT INSTALLED: kept numbers only';
const kernel = kernelFactory(WebAssembly);
const sheet = { eModulus: 200e3, poisson: 0.3, thickness: 1.5 };

/** Last displacement printed of each node asked for. */
function calculix(model: DeckModel, step: DeckStep): string {
	const folder = mkdtempSync(path.join(tmpdir(), 'deck-'));
	try {
		writeFileSync(path.join(folder, 'deck.inp'), writeCalculix(model, step));
		execFileSync(CCX!, ['-i', 'deck'], { cwd: folder, env: { ...process.env, OMP_NUM_THREADS: '1' }, stdio: 'pipe' });
		return readFileSync(path.join(folder, 'deck.dat'), 'utf8');
	} finally {
		rmSync(folder, { recursive: true });
	}
}
const displacement = (dat: string, node: number): number[] => {
	const found = dat.split('\n').filter((l) => new RegExp(`^\\s+${node + 1}\\s`).test(l));
	return found[found.length - 1].trim().split(/\s+/).slice(1).map(Number);
};
/** what CalculiX says of these numbers now, beside what it said when they were kept */
function compare(model: DeckModel, step: DeckStep, ours: [node: number, direction: number, value: number][], kept: number[], within: number) {
	const size = Math.max(...kept.map(Math.abs));
	const dat = CCX && calculix(model, step);
	ours.forEach(([node, d, value], i) => {
		if (dat) {
			const theirs = displacement(dat, node)[d];
			expect(Math.abs(theirs - kept[i]) / size, `kept number ${i}: ${theirs}`).toBeLessThan(2e-3);
			expect(Math.abs(value - theirs) / size, `ours ${value}, CalculiX ${theirs}`).toBeLessThan(within);
			if (Math.abs(theirs) > 0.3 * size)
				published({
					id: `d-${model.title}-${model.imperfection ? 'large' : ''}-${i}`,
					case: `${model.title}${model.imperfection ? ', large displacements' : ''}, place ${i + 1}`,
					source: 'CalculiX 2.20, S6, the same facets',
					expected: kept[i],
					got: value,
					unit: 'mm',
					within: 2 * within,
					mesh: `${model.tri.length / 3} triangles`
				});
		}
		expect(Math.abs(value - kept[i]) / size, `ours ${value}, kept ${kept[i]}`).toBeLessThan(within);
	});
}
/** our system for the same model */
function systemOf(m: DeckModel) {
	const xyz = m.imperfection ? m.xyz.map((v, i) => v + m.imperfection![i]) : m.xyz;
	const triangles = new Triangles(xyz, m.tri, m.sheet);
	for (const e of m.eigen) {
		const corners = [0, 1, 2].map((i) => nodeAt(xyz, m.tri[3 * e.triangle + i])) as [Vec3, Vec3, Vec3];
		const a = axesOf(corners);
		const size = Math.hypot(dot(e.along, a.ex), dot(e.along, a.ey));
		const [c, s] = [dot(e.along, a.ex) / size, dot(e.along, a.ey) / size];
		const tensor = (along: number, across: number) => [along * c * c + across * s * s, along * s * s + across * c * c, 2 * (along - across) * c * s];
		triangles.addEigenForces(
			e.triangle,
			eigenstrainForces(corners, m.sheet(e.triangle), tensor(e.alongStrain, e.acrossStrain), tensor(0, e.acrossCurvature ?? 0))
		);
	}
	return { xyz, system: new EquilibriumSystem(m.xyz.length / 3, m.forces ? [triangles, new DeadLoads(m.forces)] : [triangles], m.fixed, kernel) };
}
function linear(m: DeckModel) {
	const { xyz, system } = systemOf(m);
	const start = stateAt(xyz);
	system.fillTangent(start, 0);
	system.factor.factorise(system.matrix);
	return system.factor.solve(system.gradient(start, 1).gradient.map((v) => -v));
}
const threeTwoOne = (p: number, q: number, r: number) => [6 * p, 6 * p + 1, 6 * p + 2, 6 * q + 1, 6 * q + 2, 6 * r + 2];
const middleOf = (m: { xyz: Float64Array; tri: Int32Array }, e: number) =>
	[0, 1, 2].map((d) => [0, 1, 2].reduce((s, i) => s + m.xyz[3 * m.tri[3 * e + i] + d] / 3, 0));
const strips = (m: { xyz: Float64Array; tri: Int32Array }, inside: (c: number[]) => Omit<Eigenstrain, 'triangle'> | undefined): Eigenstrain[] =>
	Array.from({ length: m.tri.length / 3 }, (_, e) => ({ e, s: inside(middleOf(m, e)) })).flatMap(({ e, s }) => (s ? [{ triangle: e, ...s }] : []));

describe(`against a general solver (${by})`, () => {
	const [n, m] = [24, 18];
	const g = grid(n, m, (u, v) => [400 * u, 300 * v, 0]);
	const F = 10_000;
	const w = (2 * 300) / m;
	const plate: DeckModel = {
		title: 'Free plate 400 x 300 x 1.5, 10 kN of shrinkage along its middle',
		xyz: g.xyz,
		tri: g.tri,
		sheet: () => sheet,
		eigen: strips(g, ([, y]) =>
			Math.abs(y - 150) < w / 2 ? { along: [1, 0, 0], alongStrain: -F / (sheet.eModulus * sheet.thickness * w), acrossStrain: 0 } : undefined
		),
		fixed: threeTwoOne(g.at(0, 0), g.at(n, 0), g.at(0, m))
	};
	const corner = g.at(n, m);
	it('eigenstrain plate, linear: within 1 %', () => {
		const u = linear(plate);
		compare(
			plate,
			{ kind: 'linear' },
			[0, 1].map((d) => [corner, d, u[6 * corner + d]]),
			KEPT.plate,
			0.01
		);
	});
	deeply('its lowest saddle buckling factor, from the frequency that falls to nothing: within 2 %', () => {
		const { xyz, system } = systemOf(plate);
		const factor = bucklingModes(system, stateAt(xyz), 3).filter((x) => x.factor > 0)[0].factor;
		const squares = (share: number) =>
			calculix(plate, { kind: 'frequency', share, count: 2 })
				.split('\n')
				.filter((l) => /^\s+\d+\s+[-\d.E+]+\s+[-\d.E+]+\s+[-\d.E+]+/.test(l))
				.slice(0, 2)
				.map((l) => Number(l.trim().split(/\s+/)[1]));
		if (CCX) {
			// near the point itself the square of the frequency is straight in the load; the second frequency is the saddle's
			const [a, b] = [0.93, 0.99].map((s) => s * KEPT.saddle);
			const [p, q] = [squares(a)[1], squares(b)[1]];
			const theirs = a + ((b - a) * p) / (p - q);
			expect(Math.abs(factor / theirs - 1), `ours ${factor}, CalculiX ${theirs}`).toBeLessThan(0.02);
		}
		published({
			id: 'd-saddle',
			case: 'Free plate, 10 kN of shrinkage: lowest saddle buckling factor',
			source: 'CalculiX 2.20, frequency that falls to nothing',
			expected: KEPT.saddle,
			got: factor,
			within: 0.02,
			mesh: `${plate.tri.length / 3} triangles`
		});
	});
	it('its shape at 1.8 times the buckling load, from the same sheet 0.3 mm out of flat: within 3 %', () => {
		const imperfection = new Float64Array(g.xyz.length);
		for (let k = 0; k < g.nodeCount; k++)
			imperfection[3 * k + 2] = 0.3 * (((g.xyz[3 * k] - 200) / 200) ** 2 - 0.5 * ((g.xyz[3 * k + 1] - 150) / 150) ** 2);
		const bent = { ...plate, imperfection };
		const { xyz, system } = systemOf(bent);
		const r = minimise(system, stateAt(xyz), { steps: 4, forceTolerance: 1e-3, momentTolerance: 1e-2, maxTurn: 0.3 });
		expect(r.converged).toBe(true);
		const places = [g.at(n / 2, m / 2), g.at(n / 2, 0), g.at(n, m / 2)];
		compare(
			bent,
			{ kind: 'large' },
			places.map((k) => [k, 2, r.state.x[3 * k + 2] - xyz[3 * k + 2]]),
			KEPT.buckled,
			0.03
		);
	});
	describe('the same 10 kN over 67 mm for 33: what the width of a pull is worth past buckling', () => {
		const shallow = (xyz: ArrayLike<number>) => {
			const out = new Float64Array(xyz.length);
			for (let k = 0; k < xyz.length / 3; k++) out[3 * k + 2] = 0.3 * (((xyz[3 * k] - 200) / 200) ** 2 - 0.5 * ((xyz[3 * k + 1] - 150) / 150) ** 2);
			return out;
		};
		/** `wide` mm of sheet take the pull, so many cells each way */
		const spread = (cells: number, rows: number, wide: number) => {
			const h = grid(cells, rows, (u, v) => [400 * u, 300 * v, 0]);
			const model: DeckModel = {
				...plate,
				title: `Free plate 400 x 300 x 1.5, 10 kN of shrinkage over ${wide.toFixed(0)} mm along its middle`,
				xyz: h.xyz,
				tri: h.tri,
				eigen: strips(h, ([, y]) =>
					Math.abs(y - 150) < wide / 2
						? { along: [1, 0, 0], alongStrain: -F / (sheet.eModulus * sheet.thickness * wide), acrossStrain: 0 }
						: undefined
				),
				fixed: threeTwoOne(h.at(0, 0), h.at(cells, 0), h.at(0, rows))
			};
			const places = [h.at(cells / 2, rows / 2), h.at(cells / 2, 0), h.at(cells, rows / 2)];
			return { model, places };
		};
		const past = (model: DeckModel, places: number[]) => {
			const bent = { ...model, imperfection: shallow(model.xyz) };
			const { xyz, system } = systemOf(bent);
			const r = minimise(system, stateAt(xyz), { steps: 4, forceTolerance: 1e-3, momentTolerance: 1e-2, maxTurn: 0.3 });
			expect(r.converged).toBe(true);
			return { bent, moved: places.map((k) => r.state.x[3 * k + 2] - xyz[3 * k + 2]) };
		};
		it('ends where CalculiX has it, within 3 %', () => {
			const { model, places } = spread(n, m, 200 / 3);
			const { bent, moved } = past(model, places);
			compare(
				bent,
				{ kind: 'large' },
				places.map((k, i) => [k, 2, moved[i]]),
				KEPT.wide,
				0.03
			);
		});
		it('a finer mesh moves it by less than 3 %, and half the width by more than that', () => {
			const at = (cells: number, rows: number, wide: number) => {
				const { model, places } = spread(cells, rows, wide);
				return past(model, places).moved;
			};
			const [coarse, fine, narrow] = [at(n, m, 200 / 3), at(32, 36, 200 / 3), at(n, m, 100 / 3)];
			const size = Math.max(...coarse.map(Math.abs));
			coarse.forEach((v, i) => expect(Math.abs(v - fine[i]) / size, `${v} and ${fine[i]}`).toBeLessThan(0.03));
			expect(Math.abs(narrow[0] - coarse[0]) / size).toBeGreaterThan(0.03);
		});
	});
	it('laid on in two stages it ends where it ends in one, and is half way after the first: within 1 %', ({ skip }) => {
		// two strips, one a stage; half the pull keeps it below buckling
		const halves: DeckModel = {
			...plate,
			eigen: plate.eigen.map((e) => ({
				...e,
				alongStrain: e.alongStrain / 10,
				stages: nodeAt(g.xyz, g.tri[3 * e.triangle])[0] < 200 ? [1, 1] : [0, 1]
			}))
		};
		const whole = linear(halves);
		const first = linear({ ...halves, eigen: halves.eigen.filter((e) => e.stages![0] === 1) });
		const expected = [first, whole].map((u) => u[6 * corner]);
		expect(Math.abs(expected[0] / expected[1])).toBeGreaterThan(0.3);
		if (!CCX) return skip('CalculiX is not installed: ours compared with nothing');
		const lines = calculix(halves, { kind: 'staged', stages: ['one', 'two'] })
			.split('\n')
			.filter((l) => new RegExp(`^\\s+${corner + 1}\\s`).test(l))
			.map((l) => Number(l.trim().split(/\s+/)[1]));
		// it prints every increment: each stage has as many, and ends with its last
		const ends = [lines[lines.length / 2 - 1], lines[lines.length - 1]];
		ends.forEach((u, i) => expect(Math.abs(u / expected[i] - 1), `stage ${i + 1}: ours ${expected[i]}, CalculiX ${u}`).toBeLessThan(0.01));
	});
	it('a free plate squeezed between the middles of its short ends: the buckling step finds our lowest factor, within 2 %', ({ skip }) => {
		const forces = new Float64Array(g.xyz.length);
		forces[3 * g.at(0, m / 2)] = 1000;
		forces[3 * g.at(n, m / 2)] = -1000;
		const squeezed: DeckModel = { ...plate, title: 'Free plate squeezed by 1 kN', eigen: [], forces };
		const { xyz, system } = systemOf(squeezed);
		const factor = bucklingModes(system, stateAt(xyz), 3).filter((x) => x.factor > 0)[0].factor;
		published({
			id: 'd-squeezed',
			case: 'Free plate squeezed between the middles of its short ends by 1 kN: lowest buckling factor',
			source: 'CalculiX 2.20, buckling step, S6, the same facets',
			expected: KEPT.squeezed,
			got: factor,
			within: 0.02,
			mesh: `${plate.tri.length / 3} triangles`
		});
		if (!CCX) return skip('CalculiX is not installed: ours compared with nothing');
		const dat = calculix(squeezed, { kind: 'buckling', count: 2 });
		const theirs = Number(/^\s+1\s+([-\d.E+]+)\s*$/m.exec(dat)?.[1]);
		expect(Math.abs(KEPT.squeezed / theirs - 1), `CalculiX ${theirs}`).toBeLessThan(2e-3);
	});
	it('angular strip: a band of curvature across a plate turns it, linear: within 1 %', () => {
		const s = grid(20, 10, (u, v) => [200 * u, 100 * v, 0]);
		const turned: DeckModel = {
			title: 'Plate 200 x 100 turned 1 degree across a band of 20 mm',
			xyz: s.xyz,
			tri: s.tri,
			sheet: () => sheet,
			eigen: strips(s, ([x]) =>
				Math.abs(x - 100) < 10 ? { along: [0, 1, 0], alongStrain: 0, acrossStrain: 0, acrossCurvature: Math.PI / 180 / 20 } : undefined
			),
			fixed: threeTwoOne(s.at(0, 0), s.at(20, 0), s.at(0, 10))
		};
		const u = linear(turned);
		const places = [s.at(10, 5), s.at(10, 0), s.at(5, 5)];
		compare(
			turned,
			{ kind: 'linear' },
			places.map((k) => [k, 2, u[6 * k + 2]]),
			KEPT.angular,
			0.01
		);
	});
	it('open box of five plates with eight seams that shrink, linear: within 3 %', () => {
		const [a, b, h] = [200, 120, 80];
		const [na, nb, nh] = [40, 24, 16];
		const box = welded([
			grid(na, nb, (u, v) => [a * u, b * v, 0]),
			grid(na, nh, (u, v) => [a * u, 0, h * v]),
			grid(na, nh, (u, v) => [a * u, b, h * v]),
			grid(nb, nh, (u, v) => [0, b * u, h * v]),
			grid(nb, nh, (u, v) => [a, b * u, h * v])
		]);
		// the first 10 mm beside each seam, 5 kN a seam with both sheets
		const strain = -2500 / (sheet.eModulus * sheet.thickness * 10);
		const near = (v: number, at: number) => Math.abs(v - at) < 10;
		const seams: DeckModel = {
			title: 'Box 200 x 120 x 80',
			xyz: box.xyz,
			tri: box.tri,
			sheet: () => sheet,
			eigen: strips(box, ([x, y, z]) => {
				const along: Vec3 | undefined =
					z < 10 && (near(y, 0) || near(y, b)) && x > 10 && x < a - 10
						? [1, 0, 0]
						: z < 10 && (near(x, 0) || near(x, a)) && y > 10 && y < b - 10
							? [0, 1, 0]
							: z > 10 && (near(x, 0) || near(x, a)) && (near(y, 0) || near(y, b))
								? [0, 0, 1]
								: undefined;
				return along && { along, alongStrain: strain, acrossStrain: 0 };
			}),
			fixed: threeTwoOne(box.node(0, 0, 0), box.node(0, na, 0), box.node(0, 0, nb))
		};
		const u = linear(seams);
		const places: [number, number][] = [
			[box.node(1, na / 2, nh), 1],
			[box.node(3, nb / 2, nh), 0],
			[box.node(0, na / 2, nb / 2), 2],
			[box.node(1, na, nh), 0]
		];
		compare(
			seams,
			{ kind: 'linear' },
			places.map(([k, d]) => [k, d, u[6 * k + d]]),
			KEPT.box,
			0.03
		);
	});
	deeply('two long corners of a like box past buckling: walls 0.2 mm out of flat, 40 kN a corner over 20 mm of each sheet, within 3 %', () => {
		const [a, b, h] = [200, 120, 80];
		const box = welded([
			grid(20, 12, (u, v) => [a * u, b * v, 0]),
			grid(20, 8, (u, v) => [a * u, 0, h * v]),
			grid(20, 8, (u, v) => [a * u, b, h * v]),
			grid(12, 8, (u, v) => [0, b * u, h * v]),
			grid(12, 8, (u, v) => [a, b * u, h * v])
		]);
		const strain = -20_000 / (sheet.eModulus * sheet.thickness * 20);
		const near = (v: number, at: number) => Math.abs(v - at) < 20;
		const wave = (v: number, over: number) => Math.sin((Math.PI * v) / over);
		const imperfection = new Float64Array(box.xyz.length);
		for (let k = 0; k < box.nodeCount; k++) {
			const [x, y, z] = nodeAt(box.xyz, k);
			imperfection[3 * k + 2] = z === 0 ? -0.2 * wave(x, a) * wave(y, b) : 0;
			imperfection[3 * k + 1] = z > 0 && (y === 0 || y === b) ? (y === 0 ? -0.2 : 0.2) * wave(x, a) * (z / h) : 0;
		}
		const pulled: DeckModel = {
			title: 'Box 200 x 120 x 80, 40 kN of shrinkage along two corners',
			xyz: box.xyz,
			tri: box.tri,
			sheet: () => sheet,
			eigen: strips(box, ([x, y, z]) =>
				z < 20 && (near(y, 0) || near(y, b)) && x > 1e-6 && x < a - 1e-6 ? { along: [1, 0, 0], alongStrain: strain, acrossStrain: 0 } : undefined
			),
			fixed: threeTwoOne(box.node(0, 0, 0), box.node(0, 20, 0), box.node(0, 0, 12)),
			imperfection
		};
		const flatBox = systemOf({ ...pulled, imperfection: undefined });
		// the flat box buckles at less than four fifths of this pull
		expect(bucklingModes(flatBox.system, stateAt(flatBox.xyz), 6).find((q) => q.factor > 0)!.factor).toBeLessThan(0.8);
		const { xyz, system } = systemOf(pulled);
		const r = minimise(system, stateAt(xyz), { steps: 4, forceTolerance: 1e-3, momentTolerance: 1e-2, maxTurn: 0.3 });
		expect(r.converged).toBe(true);
		const places: [number, number][] = [
			[box.node(1, 10, 8), 1],
			[box.node(0, 10, 6), 2],
			[box.node(1, 10, 4), 1],
			[box.node(3, 6, 8), 0]
		];
		compare(
			pulled,
			{ kind: 'large' },
			places.map(([k, d]) => [k, d, r.state.x[3 * k + d] - xyz[3 * k + d]]),
			KEPT.corner,
			0.03
		);
	});
	it('tee: a web on a plate whose weld shrinks along and across, linear: within 3 %', () => {
		const tee = welded([grid(24, 16, (u, v) => [240 * u, 160 * v, 0]), grid(24, 6, (u, v) => [240 * u, 80, 60 * v])]);
		const strain = -6000 / (sheet.eModulus * sheet.thickness * 30);
		const shrinking: DeckModel = {
			title: 'Tee 240 long, plate 160, web 60',
			xyz: tee.xyz,
			tri: tee.tri,
			sheet: () => sheet,
			eigen: strips(tee, ([, y, z]) =>
				z > 0 && z < 10
					? { along: [1, 0, 0], alongStrain: strain, acrossStrain: 0 }
					: z === 0 && Math.abs(y - 80) < 10
						? { along: [1, 0, 0], alongStrain: strain, acrossStrain: -0.005, acrossCurvature: 1e-3 }
						: undefined
			),
			fixed: threeTwoOne(tee.node(0, 0, 0), tee.node(0, 24, 0), tee.node(0, 0, 16))
		};
		const u = linear(shrinking);
		const places: [number, number][] = [
			[tee.node(0, 12, 8), 2],
			[tee.node(1, 12, 6), 2],
			[tee.node(0, 24, 16), 2],
			[tee.node(1, 24, 6), 0]
		];
		compare(
			shrinking,
			{ kind: 'linear' },
			places.map(([k, d]) => [k, d, u[6 * k + d]]),
			KEPT.tee,
			0.03
		);
	});
});

/** CalculiX 2.20 (Debian 12) on these decks; mm, and a factor of the 10 kN. */
const KEPT = {
	plate: [-0.004711763, -0.02112817],
	saddle: 0.5687,
	squeezed: 0.7242764,
	buckled: [-1.205182, -2.628427, 1.422869],
	wide: [-1.04917, -2.400347, 1.297418],
	corner: [1.317694, -2.061688, 1.04195, -0.6487376],
	angular: [-0.8290314, -0.8290314, -0.4363323],
	box: [-0.01753968, -0.03251171, 0.005321804, -0.003543562],
	tee: [-0.7276928, -0.7285955, -1.366372e-7, 0.004534561]
};
