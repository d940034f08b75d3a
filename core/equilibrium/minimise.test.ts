/** The minimiser on structures small enough for a pencil: two bars that snap through, a column that must choose a side. */
import { describe, expect, it } from 'vitest';
import { DeadLoads, GroundSprings, TurnSprings } from './ground';
import { minimise } from './minimise';
import { stateAt, type MatrixSink, type State, type Term } from './state';
import { EquilibriumSystem } from './system';

/** An elastic bar between two nodes, k N/mm, length at rest: energy k (l - l0)^2 / 2, with its exact tangent. */
class Bar implements Term {
	constructor(
		private readonly a: number,
		private readonly b: number,
		private readonly k: number,
		private readonly rest: number
	) {}
	*cliques() {
		yield [this.a, this.b];
	}
	add(s: State, _share: number, force?: Float64Array, matrix?: MatrixSink): number {
		const d = [0, 1, 2].map((c) => s.x[3 * this.b + c] - s.x[3 * this.a + c]);
		const l = Math.hypot(...d);
		const n = d.map((v) => v / l);
		const N = this.k * (l - this.rest);
		for (let c = 0; force && c < 3; c++) {
			force[6 * this.a + c] -= N * n[c];
			force[6 * this.b + c] += N * n[c];
		}
		if (matrix) {
			const K = new Float64Array(144);
			for (let r = 0; r < 3; r++)
				for (let c = 0; c < 3; c++) {
					const v = this.k * n[r] * n[c] + (N / l) * ((r === c ? 1 : 0) - n[r] * n[c]);
					for (const [p, q, sign] of [
						[0, 0, 1],
						[6, 6, 1],
						[0, 6, -1],
						[6, 0, -1]
					])
						K[12 * (p + r) + q + c] += sign * v;
				}
			matrix.addElement([this.a, this.b], K);
		}
		return 0.5 * this.k * (l - this.rest) ** 2;
	}
}
/** Holds every turn, and the nodes named: bars know no turns. */
const held = (nodes: number, fast: readonly number[]) =>
	Array.from({ length: nodes }, (_, k) => [3, 4, 5].map((d) => 6 * k + d))
		.flat()
		.concat(fast.flatMap((k) => [0, 1, 2].map((d) => 6 * k + d)));
const tolerance = { forceTolerance: 1e-8, momentTolerance: 1e-8 };

describe('two bars that snap through (von Mises truss)', () => {
	// feet 200 mm apart, apex 20 mm high, k = 100 N/mm
	const [half, rise, k] = [100, 20, 100];
	const l0 = Math.hypot(half, rise);
	const xyz = Float64Array.from([-half, 0, 0, half, 0, 0, 0, 0, rise]);
	const truss = (P: number) => {
		const loads = new Float64Array(9);
		loads[8] = -P;
		return new EquilibriumSystem(3, [new Bar(0, 2, k, l0), new Bar(1, 2, k, l0), new DeadLoads(loads)], [...held(3, [0, 1]), 6 * 2 + 1]);
	};
	/** load that the apex bears at height z */
	const bears = (z: number) => 2 * k * (l0 / Math.hypot(half, z) - 1) * z;
	const limit = Math.max(...Array.from({ length: 400 }, (_, i) => bears((rise * i) / 400)));
	const heightFor = (P: number, lo: number, hi: number) => {
		// on either stable branch the load falls as the apex rises
		for (let i = 0; i < 200; i++) {
			const mid = (lo + hi) / 2;
			if (bears(mid) > P) lo = mid;
			else hi = mid;
		}
		return (lo + hi) / 2;
	};
	it('below the limit load it stands where the closed form says', () => {
		const P = 0.9 * limit;
		const r = minimise(truss(P), stateAt(xyz), { ...tolerance, steps: 3 });
		expect(r.converged).toBe(true);
		// the upper branch: from the limit point up to the height at rest
		const top = Array.from({ length: 4000 }, (_, i) => (rise * i) / 4000).reduce((p, z) => (bears(z) > bears(p) ? z : p), 0);
		expect(r.state.x[8]).toBeCloseTo(heightFor(P, top, rise), 6);
		expect(r.forceResidual).toBeLessThan(1e-8);
	});
	it('past it, it has gone through and hangs below, again where the closed form says', () => {
		const P = 1.3 * limit;
		const r = minimise(truss(P), stateAt(xyz), { ...tolerance, steps: 4 });
		expect(r.converged).toBe(true);
		expect(r.state.x[8]).toBeLessThan(-rise);
		expect(r.state.x[8]).toBeCloseTo(heightFor(P, -3 * rise, -rise), 6);
	});
	it('a stable shape is the lower energy of its surroundings', () => {
		const system = truss(0.5 * limit);
		const r = minimise(system, stateAt(xyz), tolerance);
		for (const d of [-0.5, 0.5]) {
			const near = { x: r.state.x.slice(), R: r.state.R };
			near.x[8] += d;
			expect(system.energy(near, 1)).toBeGreaterThan(r.energy);
		}
	});
});

describe('two bars too long for their span must choose a side', () => {
	const [half, l0] = [100, 101];
	const xyz = Float64Array.from([-half, 0, 0, half, 0, 0, 0, 0, 0]);
	const strut = (P = 0) => {
		const loads = new Float64Array(9);
		loads[8] = P;
		return new EquilibriumSystem(3, [new Bar(0, 2, 100, l0), new Bar(1, 2, 100, l0), new DeadLoads(loads, true)], [...held(3, [0, 1]), 6 * 2 + 1]);
	};
	const towards = (sign: number) => {
		const seed = new Float64Array(18);
		seed[14] = sign;
		return seed;
	};
	it.each([1, -1])('straight is in balance and not stable: it is left to the side of the seed (%d), to z = sqrt(l0^2 - half^2)', (sign) => {
		const r = minimise(strut(), stateAt(xyz), { ...tolerance, seed: towards(sign) });
		expect([r.converged, r.branchings]).toEqual([true, 1]);
		expect(r.state.x[8]).toBeCloseTo(sign * Math.sqrt(l0 ** 2 - half ** 2), 8);
		expect(r.energy).toBeCloseTo(0, 12);
	});
	it('a push, however small, decides where there is no seed', () => {
		for (const P of [1e-3, -1e-3]) {
			const r = minimise(strut(P), stateAt(xyz), tolerance);
			expect(r.converged).toBe(true);
			expect(Math.sign(r.state.x[8])).toBe(Math.sign(P));
		}
	});
	it('the same input goes the same way, bit for bit', () => {
		const of = () => minimise(strut(), stateAt(xyz), { ...tolerance, seed: towards(1) });
		const [p, q] = [of(), of()];
		expect(p.state.x).toEqual(q.state.x);
		expect(p.iterations).toBe(q.iterations);
	});
	it('started from the shape on the other side it stays there: both stand', () => {
		const other = minimise(strut(), stateAt(xyz), { ...tolerance, seed: towards(-1) }).state;
		const r = minimise(strut(1), other, { ...tolerance, from: 0.5, once: true });
		expect(r.converged).toBe(true);
		expect(r.state.x[8]).toBeLessThan(0);
	});
});

describe('a load that nothing bears', () => {
	// pushes with a force that grows with the way: beyond k the energy has no floor
	class Runaway implements Term {
		*cliques() {}
		add(s: State, share: number, force?: Float64Array, matrix?: MatrixSink): number {
			const x = s.x[0];
			if (force) force[0] -= share * (10 + 12 * x);
			if (matrix) matrix.addNodeBlock(0, 0, 0, -share * 12);
			return -share * (10 * x + 6 * x * x);
		}
	}
	const system = new EquilibriumSystem(
		1,
		[new GroundSprings([{ node: 0, direction: [1, 0, 0], rest: 0, stiffness: 10 }]), new TurnSprings([]), new Runaway()],
		[1, 2, 3, 4, 5]
	);
	it('ends, says at what share, and gives the last shape in balance: x = 10 s / (10 - 12 s)', () => {
		const r = minimise(system, stateAt(new Float64Array(3)), { ...tolerance, steps: 4 });
		expect(r.converged).toBe(false);
		expect(r.share).toBeGreaterThan(0.7);
		expect(r.share).toBeLessThan(10 / 12);
		expect(r.words).toBe(`The shape was found up to ${(100 * r.share).toFixed(0)} % of the load and not beyond.`);
		expect(r.state.x[0]).toBeCloseTo((10 * r.share) / (10 - 12 * r.share), 6);
	});
	it('asked once, it does not go looking for how much would be borne', () => {
		let asked = 0;
		const r = minimise(system, stateAt(new Float64Array(3)), { ...tolerance, once: true, maxIterations: 30, progress: () => asked++ });
		expect([r.converged, r.share]).toEqual([false, 0]);
		expect(asked).toBeLessThanOrEqual(60);
	});
	it('what is told of progress may stop it', () => {
		expect(() =>
			minimise(system, stateAt(new Float64Array(3)), {
				...tolerance,
				progress: () => {
					throw new Error('enough');
				}
			})
		).toThrow('enough');
	});
});
