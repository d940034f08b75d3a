/** What has been laid at each pair so far, so that runs replace their tacks and later passes add only what goes beyond the earlier ones. */
import { add, cross, dot, norm, scale, type Vec3 } from '../geometry/vec';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../document/schema';
import { shareOfA, type Condensed, type LoadKind } from './condense';
import { overlap, type Actions, type WeldEvent } from './events';

/** Kinds of action, kept apart so that bands and learning can scale each: see docs/theory/staging.md. */
export const ACTIONS = ['force', 'shrinkage', 'angle', 'eccentricity', 'preset', 'given', 'placing', 'sliding'] as const;
const FORCE = 0;
const SHRINKAGE = 1;
const ANGLE = 2;
const ECCENTRIC = 3;
export const PRESET = 4;
/** values given for a joint: no factor of the shop's applies to them */
const GIVEN = 5;
/** one standard deviation of where the force lies in the thickness: no part of the forecast itself, only of its band */
export const PLACING = 6;
/** one standard deviation of how far a corner's edges slide past each other: of its band alone too */
export const SLIDING = 7;
/** what belongs to the band and not to the forecast */
export const SPREADS: readonly number[] = [PLACING, SLIDING];
/** what grows with the force of a run; shrinkage and angle have factors of their own */
export const GOES_BY_FORCE: readonly number[] = [FORCE, ECCENTRIC];

/**
 * Where a sheet is welded on its face, the face bends and the joint turns by this share of the angle each: half of the bend lies on
 * the weld's side, so the two together close there by the whole angle, and a weld on the other side brings a third of it back (that
 * both turn alike is an own choice; that the second brings back less than the first took is common practice, no source).
 */
export const TEE_SHARE = 2 / 3;

/** A tack pulls with this share of what its run would, until the run remelts it (own estimate). */
export const TACK_SHARE = 0.3;

export interface LoadChange {
	action: number;
	load: number;
	amount: number;
}
export interface MisfitChange {
	action: number;
	row: number;
	amount: number;
}

export class WeldBook {
	/** by pair: [shrinkage mm, angle rad] of tacks and of runs, and the share of the tack not yet remelted */
	private readonly applied: { tack: Float64Array; tackLeft: number; run: Float64Array; preset: number }[][];
	private readonly amounts: Float64Array[];

	constructor(
		private readonly plan: PlanDocument,
		private readonly seams: SeamMesh[],
		private readonly c: Condensed
	) {
		this.amounts = ACTIONS.map(() => new Float64Array(c.loads.length));
		this.applied = seams.map((s) => Array.from(s.stations, () => ({ tack: new Float64Array(2), tackLeft: 1, run: new Float64Array(2), preset: 0 })));
	}

	/** What one tack or one pair's part of a run adds, besides what joining holds. */
	// eslint-disable-next-line complexity -- a branch for each action of a weld
	increments(e: WeldEvent): { loads: LoadChange[]; misfits: MisfitChange[] } {
		const misfits: MisfitChange[] = [];
		const seam = this.seams[e.seam];
		const reach = seam.reach[e.pair];
		const share = Math.min(1, overlap(reach, e.from, e.to, seam) / (reach[1] - reach[0]));
		const done = this.applied[e.seam][e.pair];
		// both sides one node (a seam that meets itself): nothing to join
		const joined = seam.a[e.pair] !== seam.b[e.pair];
		const loads: LoadChange[] = [];
		const pull = [e.actions.transverseShrinkageMm, e.actions.angularChangeRad];
		const { given } = e.actions;
		let change: number[];
		if (e.tack) {
			// edges that touch come no closer: a tack draws in what gap there is, and strains only itself beyond that
			// it acts over its own length of what the pair stands for
			const own = Math.min(1, (e.to - e.from) / (reach[1] - reach[0]));
			const most = [Math.min(TACK_SHARE * Math.abs(pull[0]), seam.joint.gapMm) * Math.sign(pull[0]), TACK_SHARE * own * pull[1]];
			// a second tack at the same pair pulls no further than the first
			change = pull.map((p, k) => Math.max(0, Math.sign(p) * (most[k] - done.tack[k])) * Math.sign(p));
			change.forEach((v, k) => (done.tack[k] += v));
		} else {
			// the run replaces its tacks, and a later pass adds only what goes beyond the earlier ones
			const gone = e.pass === 1 ? Math.min(share, done.tackLeft) : 0;
			done.tackLeft -= gone;
			change = pull.map((p, k) => {
				const more = e.pass === 1 ? share * p : Math.sign(p) * Math.max(0, Math.abs(share * p) - Math.abs(done.run[k]));
				done.run[k] += more;
				return more - gone * done.tack[k];
			});
		}
		if (joined) {
			const { shrink, about } = jointDirections(this.plan, seam, e.pair);
			const first = this.c.pairRow[e.seam][e.pair];
			const turned = seam.edgeA && seam.edgeB ? 1 : TEE_SHARE;
			for (let d = 0; d < 3; d++) {
				misfits.push({ action: given.shrinkage ? GIVEN : SHRINKAGE, row: first + d, amount: change[0] * shrink[d] });
				misfits.push({ action: given.angle ? GIVEN : ANGLE, row: first + 3 + d, amount: turned * change[1] * about[d] });
			}
			if (!e.tack && e.pass === 1) {
				const { shrinkageMm, turnRad } = e.actions.edgeSpread;
				for (let d = 0; d < 3; d++) {
					if (shrinkageMm) misfits.push({ action: SLIDING, row: first + d, amount: share * shrinkageMm * shrink[d] });
					if (turnRad) misfits.push({ action: SLIDING, row: first + 3 + d, amount: turned * share * turnRad * about[d] });
				}
			}
			if (!done.preset && seam.joint.presetDeg !== 0) {
				done.preset = 1;
				for (let d = 0; d < 3; d++)
					misfits.push({ action: PRESET, row: first + 3 + d, amount: ((-seam.joint.presetDeg * Math.PI) / 180) * about[d] });
			}
		}
		// each half of the pair's reach lies in one segment
		if (!e.tack) {
			const n = seam.stations.length;
			const segments = this.c.loadsOf[e.seam];
			const middle = seam.stations[e.pair];
			for (const [g, lo, hi] of [
				[e.pair - 1, reach[0], middle],
				[e.pair, middle, reach[1]]
			] as const) {
				const index = seam.closed ? (g + n) % n : g;
				if (!(hi > lo) || index < 0 || index >= segments.length) continue;
				const part = overlap([lo, hi], e.from, e.to, seam) / (2 * (hi - lo)); // the reach ends at the segment's middle
				if (part <= 0) continue;
				for (const load of segments[index]) {
					const { kind, side, band } = this.c.loads[load];
					const full =
						kind === 'force'
							? e.actions.tendonForceN * e.actions.across[side!][band!]
							: kind === 'eccentric'
								? e.actions.tendonForceN * e.actions.eccentricityMm
								: kind === 'face-shrink'
									? pull[0]
									: TEE_SHARE * pull[1] + e.actions.facePushRad;
					const target = part * full;
					const action =
						kind === 'force'
							? given.force
								? GIVEN
								: FORCE
							: kind === 'eccentric'
								? given.force
									? GIVEN
									: ECCENTRIC
								: kind === 'face-shrink'
									? given.shrinkage
										? GIVEN
										: SHRINKAGE
									: given.angle
										? GIVEN
										: ANGLE;
					// a later pass adds only what goes beyond the earlier ones (half a segment's share of what is there)
					const amount = e.pass === 1 ? target : Math.sign(target) * Math.max(0, Math.abs(target) - Math.abs(this.amounts[action][load]) / 2);
					loads.push({ action, load, amount });
					const spread = e.pass === 1 ? spreadOf(kind, e.actions) : 0;
					if (spread > 0) loads.push({ action: PLACING, load, amount: part * spread });
				}
			}
		}
		for (const l of loads) this.amounts[l.action][l.load] += l.amount;
		return { loads, misfits };
	}
}

/** One standard deviation of what a load is not known by: where the pull lies, how far a face is folded. */
const spreadOf = (kind: LoadKind, a: Actions): number =>
	kind === 'eccentric' ? a.tendonForceN * a.eccentricitySpreadMm : kind === 'face-kink' ? a.faceTurnSpreadRad : 0;

/** Where B's node goes against A's per mm of shrinkage, and how B turns against A per rad of angular change, in the pair's own axes as its rows are. */
export function jointDirections(plan: PlanDocument, seam: SeamMesh, i: number): { shrink: Vec3; about: Vec3 } {
	const f = seam.frames[i];
	const share = shareOfA(plan, seam);
	const shrink = add(scale(f.outB, 1 - share), scale(f.outA, -share));
	let turn: Vec3 = [0, 0, 0];
	if (seam.edgeB) turn = cross(scale(f.outB, -1), f.weldSide);
	else if (seam.edgeA) turn = scale(cross(scale(f.outA, -1), f.weldSide), -1);
	const size = norm(turn);
	if (size > 1e-6) turn = scale(turn, 1 / size);
	return { shrink, about: f.axes.map((v) => dot(v, turn)) as Vec3 };
}
