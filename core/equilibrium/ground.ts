/** What the ground does to single nodes: springs, dead loads, a bench that pushes but does not pull. */
import type { Vec3 } from '../geometry/vec';
import type { MatrixSink, State, Term } from './state';

export interface GroundSpring {
	node: number;
	/** unit direction it holds in */
	direction: Vec3;
	/** position along that direction where it rests, mm */
	rest: number;
	/** N/mm */
	stiffness: number;
	/** holds only when pushed below its rest (a support, not a clamp) */
	oneWay?: boolean;
}

export class GroundSprings implements Term {
	constructor(readonly list: GroundSpring[]) {}

	*cliques(): Iterable<number[]> {}

	add(s: State, _share: number, force?: Float64Array, matrix?: MatrixSink): number {
		let energy = 0;
		for (const g of this.list) {
			const [u, v, w] = g.direction;
			const d = u * s.x[3 * g.node] + v * s.x[3 * g.node + 1] + w * s.x[3 * g.node + 2] - g.rest;
			if (g.stiffness === 0 || (g.oneWay && d >= 0)) continue;
			energy += 0.5 * g.stiffness * d * d;
			for (let r = 0; r < 3; r++) {
				if (force) force[6 * g.node + r] += g.stiffness * d * g.direction[r];
				if (matrix) for (let c = 0; c < 3; c++) matrix.addNodeBlock(g.node, r, c, g.stiffness * g.direction[r] * g.direction[c]);
			}
		}
		return energy;
	}
}

/** Springs on the three turns of nodes: what keeps a lone beam node from spinning. Linear about the drawing, for tiny stiffness only. */
export class TurnSprings implements Term {
	constructor(private readonly list: { node: number; stiffness: number }[]) {}
	*cliques(): Iterable<number[]> {}
	add(_s: State, _share: number, _force?: Float64Array, matrix?: MatrixSink): number {
		// stiffness without force: it steadies the factorisation and leaves the answer alone
		if (matrix) for (const t of this.list) for (let d = 3; d < 6; d++) matrix.addDiagonal(t.node, d, t.stiffness);
		return 0;
	}
}

/** Forces that keep their direction (weight), 3 per node, N; they grow with the share of the load unless `whole`. */
export class DeadLoads implements Term {
	/** multiplies the whole: weight is left out where only the welds' pull counts */
	factor = 1;
	constructor(
		private readonly forces: Float64Array,
		private readonly whole = false
	) {}
	*cliques(): Iterable<number[]> {}
	add(s: State, share: number, force?: Float64Array): number {
		const f = this.factor * (this.whole ? 1 : share);
		let energy = 0;
		for (let i = 0; i < this.forces.length; i++) {
			energy -= f * this.forces[i] * s.x[i];
			if (force) force[6 * Math.floor(i / 3) + (i % 3)] -= f * this.forces[i];
		}
		return energy;
	}
}

/** Moments about fixed axes, for published cases: they have no potential for large turns about several axes, so only the gradient counts. */
export class DeadMoments implements Term {
	constructor(private readonly list: { node: number; moment: Vec3 }[]) {}
	*cliques(): Iterable<number[]> {}
	add(_s: State, share: number, force?: Float64Array): number {
		if (force) for (const l of this.list) for (let c = 0; c < 3; c++) force[6 * l.node + 3 + c] -= share * l.moment[c];
		return 0;
	}
}
