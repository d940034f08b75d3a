/**
 * Equilibrium as a minimum of the potential energy, load step by load step: Newton's method with a line search on the
 * energy, and the inertia of the tangent watched. Where the tangent has negative pivots the piece is at or past a
 * buckling point: it is steadied by a shift so that every step goes downhill to a stable shape (Nocedal & Wright 2006,
 * chapter 3). A state that is in equilibrium but not stable is left along the direction it would buckle in.
 */
import { directionOf, nodeOf } from '../shell/freedoms';
import { SingularError } from '../linalg/numeric';
import type { EquilibriumSystem } from './system';
import { moved, type State } from './state';

export interface MinimiseOptions {
	/** loads are laid on in this many steps at least */
	steps?: number;
	/** force residual allowed, N */
	forceTolerance: number;
	/** moment residual allowed, N.mm */
	momentTolerance: number;
	maxIterations?: number;
	/** largest change of a turn in one iteration, rad */
	maxTurn?: number;
	/** which way to go where the piece could go either way: its sign alone is used */
	seed?: Float64Array;
	/** called before each factorisation; may throw to stop */
	progress?: (share: number) => void;
	/** share of the load to start from */
	from?: number;
	/** lays the load on at a share of its full size, for loads that are not proportional; the terms are then taken whole */
	lay?: (share: number) => void;
	/** the whole load at once or not at all: a look at whether another shape stands, not a search at any price */
	once?: boolean;
	/** loads without a potential (end moments of published cases): plain Newton steps, no line search */
	plain?: boolean;
}

export interface Minimised {
	state: State;
	/** false: `share` says how far it came */
	converged: boolean;
	share: number;
	/** N and N.mm at the end */
	forceResidual: number;
	momentResidual: number;
	iterations: number;
	/** times an unstable equilibrium was left, so a branch was taken */
	branchings: number;
	energy: number;
	words: string;
}

const SHIFT_START = 1e-6;
const LARGEST_SHIFT = 10;
/** A look at another shape that has to lean this much on the shift stands where nothing is near: none of those came to rest. */
const LARGEST_SHIFT_OF_A_LOOK = 0.1;
/** Largest turn of the first step off an unstable shape, rad; mm where nothing turns. */
const FIRST_STEP = 0.01;
/** full Newton steps tried on a load level before it is halved */
const PLAIN_ITERATIONS = 25;

// eslint-disable-next-line max-lines-per-function -- one loop of Newton steps: its state is all of it, and cutting it would hand that about
export function minimise(system: EquilibriumSystem, start: State, options: MinimiseOptions): Minimised {
	const { forceTolerance, momentTolerance, maxIterations = 60, maxTurn = 0.15, progress = () => {} } = options;
	const n = system.freedoms;
	system.fillTangent(start, 0);
	const weights: Float64Array = system.matrix.diagonal().map(Math.abs);
	let state = start;
	let share = options.from ?? 0;
	let step = (1 - share) / (options.steps ?? 1);
	const smallest = step / 256;
	const stubborn = step / 8;
	let iterations = 0;
	let branchings = 0;
	let g: Float64Array = new Float64Array(n);
	let spare: Float64Array = new Float64Array(n);
	const residuals = (v: Float64Array) => {
		let [f, m] = [0, 0];
		for (let k = 0; k < n; k += 6)
			for (let d = 0; d < 3; d++) {
				f = Math.max(f, Math.abs(v[k + d]));
				m = Math.max(m, Math.abs(v[k + 3 + d]));
			}
		return [f, m] as const;
	};
	const size = (v: Float64Array) => {
		const [f, m] = residuals(v);
		return Math.max(f / forceTolerance, m / momentTolerance);
	};
	let energy = 0;
	let last: readonly [number, number] = [0, 0];

	/** One load level. @returns false when it does not converge */
	// eslint-disable-next-line complexity -- one loop of Newton steps: its state is all of it, and cutting it would hand that about
	const level = (aim: number, downhill: boolean): boolean => {
		let s = state;
		options.lay?.(aim);
		const target = options.lay ? 1 : aim;
		let shift = 0;
		let left = 0;
		({ energy, gradient: g } = system.gradient(s, target, g));
		system.foresee(s, target);
		const limit = downhill ? maxIterations : Math.min(maxIterations, PLAIN_ITERATIONS);
		for (let it = 0; it < limit; it++) {
			progress(aim);
			iterations++;
			let negative: number;
			system.fillTangent(s, target);
			for (let laid = 0; ;) {
				try {
					negative = system.factorShifted(shift - laid, weights);
				} catch (e) {
					if (!(e instanceof SingularError)) throw e;
					negative = 1;
				}
				const now = size(g);
				if (negative > 0 && now < 1 && shift === 0) break;
				if (negative === 0) break;
				laid = shift;
				shift = Math.max(SHIFT_START, shift * 4);
				if (shift > (options.once ? LARGEST_SHIFT_OF_A_LOOK : LARGEST_SHIFT)) return false;
			}
			let direction: Float64Array;
			if (size(g) < 1 && shift === 0) {
				if (negative === 0) {
					state = s;
					last = residuals(g);
					return true;
				}
				// in equilibrium but not stable: leave along the way it buckles
				if (++left > 8) return false;
				branchings++;
				direction = bucklingDirection(system, s, target, weights, options.seed);
			} else {
				direction = system.factor.solve(g).map((v) => -v);
			}
			let turn = 0;
			for (let k = 0; k < n; k += 6) for (let d = 3; d < 6; d++) turn = Math.max(turn, Math.abs(direction[k + d]));
			let factor = turn > maxTurn ? maxTurn / turn : 1;
			const before = size(g);
			let slope = 0;
			for (let i = 0; i < n; i++) slope += direction[i] * g[i];
			let taken = false;
			for (let back = 0; back < 12; back++, factor /= 2) {
				const next = moved(s, direction, factor);
				const { energy: e, gradient } = system.gradient(next, target, spare);
				// near the end the energy has no digits left to compare: a smaller residual decides
				const flat = Math.abs(factor * slope) < 1e-9 * (Math.abs(energy) + 1e-9);
				if (Number.isFinite(e) && (!downhill || e <= energy + 1e-4 * factor * slope || (flat && size(gradient) < before))) {
					if (!downhill)
						system.foresee(
							s,
							target,
							direction.map((v) => factor * v)
						);
					s = next;
					energy = e;
					spare = g;
					g = gradient;
					taken = true;
					break;
				}
			}
			if (!taken) {
				// no way down along this step: lean on the shift
				shift = Math.max(SHIFT_START, shift * 10);
				if (shift > LARGEST_SHIFT) return false;
				continue;
			}
			// a full step was good: lean less
			shift = factor >= 1 ? (shift / 16 < SHIFT_START ? 0 : shift / 16) : shift;
			if (size(g) < 1) shift = 0;
		}
		return false;
	};

	while (share < 1) {
		const target = Math.min(1, share + step);
		const keep = state;
		// full Newton steps first: on thin sheet the energy of a step rises while bending runs ahead of stretching, and the next
		// step mends it; a line search would creep. Where that fails, downhill
		if (level(target, false) || (!options.plain && (options.once || step <= stubborn) && level(target, true))) {
			share = target;
			step *= 1.5;
		} else {
			state = keep;
			step /= 3;
			if (options.once || step < smallest) break;
		}
	}
	const converged = share >= 1;
	return {
		state,
		converged,
		share,
		forceResidual: last[0],
		momentResidual: last[1],
		iterations,
		branchings,
		energy,
		words: converged ? '' : `The shape was found up to ${(100 * share).toFixed(0)} % of the load and not beyond.`
	};
}

/** Lowest mode of the tangent by inverse iteration on a shifted matrix, with the sign that agrees with `seed`. */
function bucklingDirection(system: EquilibriumSystem, s: State, share: number, weights: Float64Array, seed?: Float64Array): Float64Array {
	const n = system.freedoms;
	system.fillTangent(s, share);
	let shift = SHIFT_START;
	for (let laid = 0; system.factorShifted(shift - laid, weights) > 0;) {
		laid = shift;
		shift *= 4;
		if (shift > LARGEST_SHIFT) throw new RangeError('The tangent cannot be steadied');
	}
	// a start without symmetry of its own, the same every time
	let v = Float64Array.from({ length: n }, (_, i) => (directionOf(i) < 3 ? Math.sin(1 + 0.7 * nodeOf(i) + i) : 0));
	for (let k = 0; k < 40; k++) {
		// what is held fast takes no part in it
		for (const f of system.fixedList) v[f] = 0;
		const y = system.factor.solve(v.map((x, i) => x * weights[i]));
		const size = Math.sqrt(y.reduce((t, x, i) => t + x * x * weights[i], 0));
		const next = y.map((x) => x / size);
		const change = next.reduce((t, x, i) => t + x * v[i] * weights[i], 0);
		v = next;
		if (Math.abs(change) > 1 - 1e-8) break;
	}
	let sign = 1;
	if (seed) {
		let dot = 0;
		for (let i = 0; i < n; i++) dot += seed[i] * v[i];
		if (dot < 0) sign = -1;
	}
	let [move, turn] = [0, 0];
	for (let k = 0; k < n; k += 6)
		for (let d = 0; d < 3; d++) {
			move = Math.max(move, Math.abs(v[k + d]));
			turn = Math.max(turn, Math.abs(v[k + 3 + d]));
		}
	// a mode in which nothing turns (bars on hinges) is measured by its largest motion
	const size = turn > 1e-9 * move ? turn : move;
	return v.map((x) => (sign * FIRST_STEP * x) / size);
}
