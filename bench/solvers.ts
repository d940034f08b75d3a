/** The solver beside others on the same matrices and decks, in one run: CHOLMOD and CalculiX where they are installed. */
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { performance } from 'node:perf_hooks';
import { minimise } from '../core/equilibrium/minimise';
import { stateAt } from '../core/equilibrium/state';
import { EquilibriumSystem } from '../core/equilibrium/system';
import { Triangles } from '../core/equilibrium/triangles';
import { writeCalculix, type DeckModel } from '../core/formats/calculix';
import type { BlockMatrix } from '../core/linalg/blockMatrix';
import type { KernelFactory } from '../core/linalg/kernel/kernel';
import { SparseFactor } from '../core/linalg/supernodal';
import { axesOf, eigenstrainForces } from '../core/shell/triangle';
import { nodeAt } from '../core/shell/model';
import type { Vec3 } from '../core/geometry/vec';

export type Row = (name: string, ms: number, more?: string) => void;
const sheet = { eModulus: 200e3, poisson: 0.3, thickness: 1.5 };

/** An open box of five plates, `h` mm triangles. */
function box(h: number) {
	const [a, b, c] = [600, 400, 200];
	const index = new Map<string, number>();
	const xyz: number[] = [];
	const tri: number[] = [];
	const node = (p: Vec3) => {
		const key = p.map((v) => v.toFixed(4)).join('/');
		let k = index.get(key);
		if (k === undefined) index.set(key, (k = xyz.push(...p) / 3 - 1));
		return k;
	};
	const plate = (u: number, v: number, at: (x: number, y: number) => Vec3) => {
		const [n, m] = [Math.round(u / h), Math.round(v / h)];
		for (let i = 0; i < n; i++)
			for (let j = 0; j < m; j++) {
				const q = [
					[i, j],
					[i + 1, j],
					[i + 1, j + 1],
					[i, j + 1]
				].map(([x, y]) => node(at((x * u) / n, (y * v) / m)));
				if ((i + j) % 2) tri.push(q[0], q[1], q[3], q[1], q[2], q[3]);
				else tri.push(q[0], q[1], q[2], q[0], q[2], q[3]);
			}
	};
	plate(a, b, (x, y) => [x, y, 0]);
	plate(a, c, (x, z) => [x, 0, z]);
	plate(a, c, (x, z) => [x, b, z]);
	plate(b, c, (y, z) => [0, y, z]);
	plate(b, c, (y, z) => [a, y, z]);
	return { xyz: Float64Array.from(xyz), tri: Int32Array.from(tri), node };
}

function deckOf(h: number): DeckModel {
	const m = box(h);
	const strain = -4000 / (sheet.eModulus * sheet.thickness * h);
	const eigen = [];
	for (let e = 0; e < m.tri.length / 3; e++) {
		const c = [0, 1, 2].map((d) => [0, 1, 2].reduce((s, i) => s + m.xyz[3 * m.tri[3 * e + i] + d] / 3, 0));
		if (c[2] === 0 && c[1] < h) eigen.push({ triangle: e, along: [1, 0, 0] as Vec3, alongStrain: strain, acrossStrain: 0 });
	}
	const [p, q, r] = [m.node([0, 0, 0]), m.node([600, 0, 0]), m.node([0, 400, 0])];
	return {
		title: 'bench box',
		xyz: m.xyz,
		tri: m.tri,
		sheet: () => sheet,
		eigen,
		fixed: [6 * p, 6 * p + 1, 6 * p + 2, 6 * q + 1, 6 * q + 2, 6 * r + 2]
	};
}

function systemOf(d: DeckModel, kernel?: KernelFactory) {
	const t = new Triangles(d.xyz, d.tri, d.sheet);
	for (const e of d.eigen) {
		const corners = [0, 1, 2].map((i) => nodeAt(d.xyz, d.tri[3 * e.triangle + i])) as [Vec3, Vec3, Vec3];
		const { ex, ey } = axesOf(corners);
		const [c, s] = [ex[0], ey[0]];
		t.addEigenForces(
			e.triangle,
			eigenstrainForces(corners, sheet, [e.alongStrain * c * c, e.alongStrain * s * s, 2 * e.alongStrain * c * s], [0, 0, 0])
		);
	}
	return new EquilibriumSystem(d.xyz.length / 3, [t], d.fixed, kernel);
}

function cholmod(A: BlockMatrix): number[] | undefined {
	if (!existsSync('/usr/include/suitesparse/cholmod.h')) return undefined;
	const folder = mkdtempSync(path.join(os.tmpdir(), 'bench-'));
	try {
		const rows: number[] = [];
		for (let i = 0; i < A.n; i++)
			for (let p = A.ptr[i]; p < A.ptr[i + 1]; p++)
				for (let r = 0; r < 6; r++)
					for (let c = 0; c < 6; c++) {
						const [x, y] = [6 * i + r, 6 * A.col[p] + c];
						const v = A.val[36 * p + 6 * r + c];
						if (y <= x && v !== 0) rows.push(x, y, v);
					}
		const data = new Uint8Array(16 + 8 * rows.length);
		new BigInt64Array(data.buffer, 0, 2).set([BigInt(6 * A.n), BigInt(rows.length / 3)]);
		new Float64Array(data.buffer, 16).set(rows);
		writeFileSync(path.join(folder, 'matrix'), data);
		const built = spawnSync('cc', ['-O2', path.resolve('bench/cholmod.c'), '-o', path.join(folder, 'run'), '-lcholmod', '-lm']);
		if (built.status !== 0) return undefined;
		return execFileSync(path.join(folder, 'run'), [path.join(folder, 'matrix')], {
			env: { ...process.env, OMP_NUM_THREADS: '1', OPENBLAS_NUM_THREADS: '1' }
		})
			.toString()
			.trim()
			.split(' ')
			.map(Number);
	} finally {
		rmSync(folder, { recursive: true });
	}
}

function calculix(d: DeckModel, kind: 'linear' | 'large'): number | undefined {
	const ccx = ['/usr/bin/ccx', '/usr/local/bin/ccx'].find(existsSync);
	if (!ccx) return undefined;
	const folder = mkdtempSync(path.join(os.tmpdir(), 'bench-'));
	try {
		writeFileSync(path.join(folder, 'deck.inp'), writeCalculix(d, { kind }));
		const t0 = performance.now();
		const r = spawnSync(ccx, ['-i', 'deck'], { cwd: folder, env: { ...process.env, OMP_NUM_THREADS: '1' }, timeout: 600_000 });
		return r.status === 0 ? performance.now() - t0 : undefined;
	} finally {
		rmSync(folder, { recursive: true });
	}
}

export function benchSolvers(row: Row, kernel: KernelFactory) {
	for (const [h, compare] of [
		[15.4, true],
		[6.7, false]
	] as const) {
		const d = deckOf(h);
		const t0 = performance.now();
		const s = systemOf(d, kernel);
		const start = stateAt(d.xyz);
		s.fillTangent(start, 0);
		s.factor.factorise(s.matrix);
		const { gradient } = s.gradient(start, 1);
		s.factor.solve(gradient);
		const whole = performance.now() - t0;
		row(
			`Box of ${s.freedoms} freedoms, linear solution with ordering`,
			whole,
			`${(s.factor.bytes / 1e6).toFixed(0)} MB held by the factor, ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB resident`
		);
		let numeric = Infinity;
		for (let k = 0; k < 3; k++) {
			const t = performance.now();
			s.factor.factorise(s.matrix);
			numeric = Math.min(numeric, performance.now() - t);
		}
		const theirs = cholmod(s.matrix);
		row(
			'  factorisation alone',
			numeric,
			`${((s.factor.symbolic.flops / numeric) * 1e-6).toFixed(2)} Gflop/s${theirs ? `; CHOLMOD ${theirs[1].toFixed(0)} ms: ${(numeric / theirs[1]).toFixed(2)} times` : '; CHOLMOD not installed (libsuitesparse-dev)'}`
		);
		if (!compare) continue;
		const plain = new SparseFactor(s.matrix.graph);
		const t1 = performance.now();
		plain.factorise(s.matrix);
		const ts = performance.now() - t1;
		row('  the same by the TypeScript kernels', ts, `${(ts / numeric).toFixed(1)} times`);
		const ccx = calculix(d, 'linear');
		if (ccx) row('  CalculiX, linear, the same facets (S6)', ccx, `${(ccx / whole).toFixed(1)} times ours`);
		const t2 = performance.now();
		const r = minimise(s, start, { steps: 4, forceTolerance: 1e-2, momentTolerance: 0.1, maxTurn: 0.3 });
		const large = performance.now() - t2;
		row(`  large displacements (${r.iterations} rounds, ${r.converged ? 'converged' : 'not converged'})`, large);
		const nl = calculix(d, 'large');
		if (nl) row('  CalculiX, NLGEOM, the same facets', nl, `${(nl / large).toFixed(1)} times ours`);
		else row('  CalculiX, NLGEOM: not installed or no end within 10 minutes', NaN);
	}
}
