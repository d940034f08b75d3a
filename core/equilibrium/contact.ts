/**
 * Edges of a seam that are not joined yet: B may come towards A until the gap is used up, then they press on each other and
 * do not pass. One way only; the direction goes with sheet A, so a rigid motion costs nothing.
 */
import type { Vec3 } from '../geometry/vec';
import type { MatrixSink, State, Term } from './state';

export interface EdgeContact {
	a: number;
	b: number;
	/** from A to B in the drawing, mm */
	arm: Vec3;
	/** unit direction in which B moves against A as the joint closes, in the drawing's axes */
	closing: Vec3;
	/** mm it may close before the edges touch */
	gap: number;
	/** N/mm */
	stiffness: number;
	/** off once the pair is joined: the weld holds it then */
	on: boolean;
}

export class EdgeContacts implements Term {
	constructor(readonly list: EdgeContact[]) {}

	*cliques() {
		for (const c of this.list) yield [c.a, c.b];
	}

	/** How far the edges press into each other, mm; negative while they are apart. */
	static depth(c: EdgeContact, s: State): number {
		const d = turned(c, s);
		return [0, 1, 2].reduce((sum, i) => sum + d[i] * (s.x[3 * c.b + i] - s.x[3 * c.a + i]) - c.closing[i] * c.arm[i], 0) - c.gap;
	}

	add(s: State, _share: number, force?: Float64Array, matrix?: MatrixSink): number {
		let energy = 0;
		const k = new Float64Array(144);
		const J = new Float64Array(12);
		for (const c of this.list) {
			if (!c.on) continue;
			const depth = EdgeContacts.depth(c, s);
			if (depth <= 0) continue;
			energy += 0.5 * c.stiffness * depth * depth;
			const d = turned(c, s);
			const r = [0, 1, 2].map((i) => s.x[3 * c.b + i] - s.x[3 * c.a + i]);
			for (let i = 0; i < 3; i++) {
				const [p, q] = [(i + 1) % 3, (i + 2) % 3];
				J[i] = -d[i];
				J[3 + i] = d[p] * r[q] - d[q] * r[p];
				J[6 + i] = d[i];
			}
			if (force)
				for (let i = 0; i < 6; i++) {
					force[6 * c.a + i] += c.stiffness * depth * J[i];
					force[6 * c.b + i] += c.stiffness * depth * J[6 + i];
				}
			if (matrix) {
				// the turn of the direction itself is left out of the slope: small beside the contact's own stiffness
				for (let i = 0; i < 12; i++) for (let j = 0; j < 12; j++) k[12 * i + j] = c.stiffness * J[i] * J[j];
				matrix.addElement([c.a, c.b], k);
			}
		}
		return energy;
	}
}

const turned = (c: EdgeContact, s: State): Vec3 =>
	[0, 1, 2].map(
		(i) => s.R[9 * c.a + 3 * i] * c.closing[0] + s.R[9 * c.a + 3 * i + 1] * c.closing[1] + s.R[9 * c.a + 3 * i + 2] * c.closing[2]
	) as Vec3;
