/** What the final shape is not sure of: each cause as a pull, its effect on every feature by slope or, where it matters, solved anew. */
import { lowerFactor } from '../linalg/smallSymmetric';
import { FACTOR_NAMES, Z90, type ShopFactors } from '../factors/factors';
import { blocksOf, holdKind } from '../holds';
import type { AnyFeature } from '../document/schema';
import type { Minimised } from '../equilibrium/minimise';
import { moved as movedState, type State } from '../equilibrium/state';
import { addPulls, times, type FinalShape, type Pull } from '../staging/finalShape';
import { ACTIONS, GOES_BY_FORCE, PLACING, SLIDING } from '../staging/weldBook';
import { scalesOf, type Analysis, type Scales } from './analysis';
import { bumpsOf } from './asDelivered';
import { gapShare, SEAM_SCATTER } from './forecast';
import { formEnds, MODEL_FORMS } from './modelForm';

/** How stiffly a clamp or a support holds is known to a factor of this at 90 % (own estimate). */
export const HOLD_FACTOR = 2;
/** A factor that makes up more than this share of a band is solved anew at both of its ends. */
const MATTERS = 0.3;
/** Share of a pull by which slopes are taken. */
const SMALL = 1e-3;

/** A cause and by how much it may lower and raise each feature, in the plan's order. */
export interface BandPart {
	label: string;
	low: number[];
	high: number[];
}

/** Other analyses of the same piece that join the band under a label. */
export interface Beside {
	label: string;
	/** what each says otherwise */
	ends: readonly Analysis[];
	/** of that, one way and the other; as it is, where nothing is said */
	share?: number;
}

export class FinalBands {
	readonly parts: BandPart[] = [];
	/** what each weld adds to each feature, by owner */
	readonly influence = new Map<string, number[]>();
	/** by factor, what each feature moves by when it goes to the upper end of its band, by slope */
	readonly slopes = new Map<string, number[]>();
	private readonly asked: { pull: Pull; take: (slope: number[], du: Float64Array) => void }[] = [];
	/** by factor, how the piece answers to the upper end of it, by slope: where its own solution is begun */
	private readonly answered = new Map<string, Float64Array>();
	private readonly last: Analysis['staged']['marks'][number];
	private readonly byForce: Scales;
	private readonly root: Float64Array;

	/** @param laid the pull of the whole weld-out; @param read a feature's value in a state */
	constructor(
		private readonly a: Analysis,
		private readonly model: FinalShape,
		private readonly factors: ShopFactors,
		private readonly scales: Scales,
		private readonly laid: Pull,
		private readonly read: (f: AnyFeature, state: State) => number,
		private readonly beside: readonly Beside[] = []
	) {
		this.last = a.staged.marks[a.staged.marks.length - 1];
		this.byForce = ACTIONS.map((_, i) => (GOES_BY_FORCE.includes(i) ? scales[i] : 0));
		this.root = lowerFactor(factors.covariance, FACTOR_NAMES.length);
		this.askPlacing();
		this.askSliding();
		this.askFactors();
		this.askSeams();
		this.askForms();
		this.askBars();
		this.askGrips();
		this.askBeside();
	}

	/** All slopes at the shape found, together; where it was not found to the end, those of the share that was borne. */
	atShape(main: Minimised): void {
		const borne = main.converged ? this.laid : times(this.laid, main.share);
		const { features } = this.a.plan;
		const bumps = bumpsOf(this.a.plan, this.a.mesh);
		const pulls = this.asked.map((q) => q.pull);
		this.model
			.answers(
				main.state,
				borne,
				pulls,
				bumps.map((b) => b.bump)
			)
			.forEach((du, i) => {
				const [up, down] = [movedState(main.state, du, SMALL), movedState(main.state, du, -SMALL)];
				const slope = features.map((f) => (this.read(f, up) - this.read(f, down)) / (2 * SMALL));
				if (i < pulls.length) this.asked[i].take(slope, du);
				else this.parts.push({ label: bumps[i - pulls.length].label, low: slope.map((v) => -Math.abs(v)), high: slope.map(Math.abs) });
			});
	}

	/** A slope misleads past buckling, and factors work by multiplication: the ones that matter are solved anew at both ends. */
	solvedAnew(main: Minimised, values: readonly number[], progress: (share: number) => void): void {
		const total = values.map((_, k) => Math.sqrt(this.parts.reduce((s, p) => s + p.high[k] ** 2, 0)) || 1);
		FACTOR_NAMES.forEach((name, i) => {
			const part = this.parts.find((p) => p.label === name);
			if (!part || !part.high.some((v, k) => v > MATTERS * total[k])) return;
			const before = i / FACTOR_NAMES.length;
			const by = this.answered.get(name)!;
			// where the slope leads is where the first step of a solution begun at the shape itself would end
			const ends = [-1, 1].map((f) =>
				this.model.solve(this.model.pull(this.last, this.shifted(i, f)), {
					from: movedState(main.state, by, f),
					once: true,
					progress: () => progress(before)
				})
			);
			progress((i + 1) / FACTOR_NAMES.length);
			if (!ends.every((r) => r.converged)) return;
			const [down, up] = ends.map((r) => this.a.plan.features.map((f, k) => this.read(f, r.state) - values[k]));
			part.low = values.map((_, k) => Math.min(0, down[k], up[k]));
			part.high = values.map((_, k) => Math.max(0, down[k], up[k]));
		});
	}

	/** as much either way */
	private symmetric(label: string, pull: Pull, answered?: (du: Float64Array, size: number[]) => void) {
		this.asked.push({
			pull,
			take: (size, du) => {
				this.parts.push({ label, low: size.map((v) => -Math.abs(v)), high: size.map((v) => Math.abs(v)) });
				answered?.(du, size);
			}
		});
	}
	/** two pulls, one for either end of what is not known: the band reaches from the lower to the higher answer */
	private oneSided(label: string, ends: readonly Pull[]) {
		const slopes: number[][] = [];
		const take = (slope: number[]) => {
			slopes.push(slope);
			if (slopes.length < ends.length) return;
			this.parts.push({
				label,
				low: slope.map((_, k) => Math.min(0, ...slopes.map((s) => s[k]))),
				high: slope.map((_, k) => Math.max(0, ...slopes.map((s) => s[k])))
			});
		};
		for (const pull of ends) this.asked.push({ pull, take });
	}

	/** multipliers with one of the shop's independent causes at an end of its 90 % */
	private shifted(i: number, end: number): Scales {
		const n = FACTOR_NAMES.length;
		return scalesOf(this.factors.mean.map((m, k) => m + end * Z90 * this.root[k * n + i]));
	}

	private askPlacing() {
		const eccentric = ACTIONS.map((_, k) => (k === PLACING ? this.scales[0] * Z90 : 0));
		this.symmetric('where the pull sits in the thickness, and how far fillets turn their sheets', this.model.pull(this.last, eccentric));
	}

	private askSliding() {
		if (!this.a.responses.some((r) => r.response.edgeSpread.shrinkageMm || r.response.edgeSpread.turnRad)) return;
		const sliding = ACTIONS.map((_, k) => (k === SLIDING ? Z90 : 0));
		this.symmetric('whether corners slide and come short, or keep together and close', this.model.pull(this.last, sliding));
	}

	private askFactors() {
		FACTOR_NAMES.forEach((name, i) => {
			const by = this.shifted(i, 1).map((v, k) => v - this.scales[k]);
			if (by.some((v) => v !== 0))
				this.symmetric(name, this.model.pull(this.last, by), (du, size) => {
					this.answered.set(name, du);
					this.slopes.set(name, size);
				});
		});
	}

	/** each weld's own share, and each seam's scatter and gap */
	private askSeams() {
		const { a, model, scales } = this;
		const owners = [...a.staged.sources.keys()];
		const bySource = new Map(model.pulls([...a.staged.sources.values()], scales).map((pull, i) => [owners[i], pull]));
		for (const [owner, pull] of bySource) this.asked.push({ pull, take: (slope) => this.influence.set(owner, slope) });
		a.mesh.seams.forEach((seam, k) => {
			const own = [...a.staged.sources].filter(([owner]) => a.staged.seamOfRun.get(owner) === k);
			if (!own.length) return;
			const sum = sumOf(own.map(([owner]) => bySource.get(owner)!));
			this.symmetric(`seam “${seam.joint.name}” by itself`, times(sum, SEAM_SCATTER * Z90));
			const share = gapShare(a, k);
			if (!(share > 0)) return;
			const only = ACTIONS.map((_, i) => (i === 1 ? scales[1] : 0));
			this.symmetric(
				`gap of “${seam.joint.name}”`,
				model.pullOf(
					own.map(([, source]) => [source, share * Z90]),
					only
				)
			);
		});
	}

	/** the lower and the higher end of what other models would make of every seam's force */
	private askForms() {
		const { a, model } = this;
		const all = formEnds(a);
		MODEL_FORMS.forEach(({ label }, form) => {
			const ends = all
				.filter((e) => e.form === form)
				.flatMap(({ share }) => {
					const moved = [...a.staged.sources].filter(([owner]) => share(owner) !== 0);
					return moved.length
						? [
								model.pullOf(
									moved.map(([owner, source]) => [source, share(owner)]),
									this.byForce
								)
							]
						: [];
				});
			if (ends.length) this.oneSided(label, ends);
		});
	}

	/** how well each bar touches: half or twice as well at the two ends of the band */
	private askBars() {
		const { a, model } = this;
		const contact = a.barContact();
		const blocks = blocksOf(a.plan);
		// a table lies behind several seams: one cause all the same
		for (const bar of blocks.filter((b, i) => blocks.findIndex((x) => x.id === b.id) === i)) {
			const joints = blocks.filter((b) => b.id === bar.id).map((b) => b.joint);
			const runs = a.plan.runs.filter((r) => joints.includes(r.joint) && contact.has(r.id) && a.staged.sources.has(r.id));
			if (!runs.length) continue;
			const ends = (['half', 'twice'] as const).map((end) =>
				model.pullOf(
					runs.map((r) => [a.staged.sources.get(r.id)!, contact.get(r.id)![end]]),
					this.byForce
				)
			);
			this.oneSided(`how well “${bar.name}” touches`, ends);
		}
	}

	private askGrips() {
		const { a, model } = this;
		if (!a.plan.holdDowns.some((h) => holdKind(h).isGripUncertain)) return;
		const ends = [1 / HOLD_FACTOR, HOLD_FACTOR].map((f) => {
			const again = a.restaged(f);
			return addPulls(model.pull(again.marks[again.marks.length - 1], this.scales), this.laid, -1);
		});
		this.oneSided('how stiffly the clamps hold', ends);
	}

	private askBeside() {
		for (const { label, ends, share } of this.beside) {
			const changes = ends.map(({ staged: { marks } }) => addPulls(this.model.pull(marks[marks.length - 1], this.scales), this.laid, -1));
			if (share === undefined) this.oneSided(label, changes);
			else for (const c of changes) this.symmetric(label, times(c, share));
		}
	}
}

const sumOf = (pulls: readonly Pull[]): Pull => pulls.reduce((p, q) => addPulls(p, q));
