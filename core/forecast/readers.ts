/** Where a piece is read, and features as functions of what moved there. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import { featureKind } from '../features';
import { tapeEnds } from '../features/taped';
import { namedPlaces, type Place } from '../features/feature';
import { add, scale, type Vec2, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh, MeshPoint } from '../mesh/assemblyMesh';
import { nodeAt } from '../shell/model';
import type { Staged } from '../staging/stage';
import { ACTIONS } from '../staging/weldBook';
import { RigidFit } from '../linalg/rigid';

/** Multipliers by action, in the order of ACTIONS. */
export type Scales = readonly number[];

const keyOf = (part: string, at: Vec2) => `${part}@${at[0].toFixed(4)},${at[1].toFixed(4)}`;

/** All places that a plan reads, each once, whichever features share it. */
export class OutputPlaces {
	readonly places: Place[] = [];
	private readonly index = new Map<string, number>();

	constructor(plan: PlanDocument) {
		for (const f of plan.features)
			featureKind(f)
				.places(f, plan)
				.forEach((p) => this.want(p));
		plan.probes.forEach((p) => this.want(p));
		if (plan.datum) namedPlaces([plan.datum.origin, plan.datum.axis, plan.datum.plane], plan).forEach((p) => this.want(p));
	}

	indexOf(part: string, at: Vec2): number {
		return this.index.get(keyOf(part, at))!;
	}

	private want(p: Place) {
		const key = keyOf(p.part, p.at);
		if (!this.index.has(key)) this.index.set(key, this.places.push({ part: p.part, at: p.at }) - 1);
	}
}

/** A feature's own points: which outputs they are, where they (or a tape's ends at them) lie, and what takes their rigid motion out. */
interface Own {
	list: number[];
	points: Vec3[];
	fit: RigidFit;
}

const middleOf = (points: readonly Vec3[]) => points.reduce<Vec3>((s, p) => add(s, scale(p, 1 / points.length)), [0, 0, 0]);
const movesOf = (y: ArrayLike<number>, list: readonly number[]) => list.map((i): Vec3 => [y[3 * i], y[3 * i + 1], y[3 * i + 2]]);

export class FeatureReader {
	/** the output points in the drawing */
	readonly nominal: Vec3[];
	private readonly whole: RigidFit;
	private readonly own: Map<string, Own>;
	private readonly marks: Map<string, Staged['marks'][number]>;

	constructor(
		plan: PlanDocument,
		mesh: AssemblyMesh,
		outputs: readonly MeshPoint[],
		private readonly places: OutputPlaces,
		staged: Staged
	) {
		this.nominal = outputs.map((o) => o.nodes.reduce<Vec3>((p, n, i) => add(p, scale(nodeAt(mesh.xyz, n), o.weights[i])), [0, 0, 0]));
		this.whole = new RigidFit(this.nominal, middleOf(this.nominal));
		this.marks = new Map(staged.marks.map((m) => [m.id, m]));
		this.own = new Map(
			plan.features.map((f) => {
				const list = featureKind(f)
					.places(f, plan)
					.map((p) => this.places.indexOf(p.part, p.at));
				const points = list.map((i) => this.nominal[i]);
				const ends = tapeEnds(f, plan);
				return [f.id, { list, points: points.map((p, i) => add(p, ends[i])), fit: new RigidFit(points, middleOf(points)) }];
			})
		);
	}

	/** displacements of all output points, rigid motion of the whole taken out */
	displacements(y: Float64Array): Vec3[] {
		return this.whole.without(movesOf(y, [...this.nominal.keys()]));
	}

	nominalValue(feature: AnyFeature): number | undefined {
		return featureKind(feature).nominal(this.ownOf(feature).points);
	}

	/** the value of a feature for outputs (3 per output point, mm) put together elsewhere */
	valueOf(feature: AnyFeature, y: ArrayLike<number>): number {
		const own = this.ownOf(feature);
		return read(feature, own, movesOf(y, own.list));
	}

	/** outputs at a mark with given multipliers */
	combined(mark: string, scales: Scales): Float64Array {
		const y = new Float64Array(3 * this.nominal.length);
		this.at(mark).forEach((v, a) => {
			for (let i = 0; i < y.length; i++) y[i] += scales[a] * v[i];
		});
		return y;
	}

	/** the value of a feature with given multipliers; an action's outputs may be empty where it adds nothing */
	featureAt(feature: AnyFeature, mark: string, scales: Scales, extra: readonly (readonly [Float64Array[], number])[] = []): number {
		const own = this.ownOf(feature);
		const { list } = own;
		const sum = new Float64Array(3 * list.length);
		const put = (byAction: readonly Float64Array[], factor: number) => {
			for (let action = 0; action < ACTIONS.length; action++) {
				const f = factor * scales[action];
				const v = byAction[action];
				if (f !== 0 && v.length) for (let i = 0; i < list.length; i++) for (let d = 0; d < 3; d++) sum[3 * i + d] += f * v[3 * list[i] + d];
			}
		};
		put(this.at(mark), 1);
		for (const [added, factor] of extra) put(added, factor);
		return read(feature, own, movesOf(sum, [...list.keys()]));
	}

	/** the same for many draws: the value as a function of the multipliers and of how many times more each of `parts` counts */
	sampler(feature: AnyFeature, mark: string, parts: readonly Float64Array[][]): (scales: Scales, more: ArrayLike<number>) => number {
		const { list, points, fit } = this.ownOf(feature);
		const n = 3 * list.length;
		const order = [...list.keys()];
		// taking the rigid motion out is linear: once for each part instead of once for each draw
		const seen = [this.at(mark), ...parts].map((byAction) =>
			byAction.map((v) => (v.some((x) => x !== 0) ? Float64Array.from(fit.without(movesOf(v, list)).flat()) : undefined))
		);
		return (scales, more) => {
			const sum = new Float64Array(n);
			seen.forEach((byAction, k) =>
				byAction.forEach((v, action) => {
					const f = (k ? more[k - 1] : 1) * scales[action];
					if (v && f !== 0) for (let i = 0; i < n; i++) sum[i] += f * v[i];
				})
			);
			return featureKind(feature).moved(feature, points, movesOf(sum, order));
		};
	}

	private at(mark: string): readonly Float64Array[] {
		return this.marks.get(mark)!.byAction;
	}
	private ownOf(feature: AnyFeature): Own {
		return this.own.get(feature.id)!;
	}
}

/** Rigid motion of the feature's own points taken out, so that large free turns of a part do not read as form. */
const read = (feature: AnyFeature, { points, fit }: Own, u: Vec3[]) => featureKind(feature).moved(feature, points, fit.without(u));

/** Displacement of every node from its place in the drawing, for positions now; best rigid motion taken out. */
export function drawingFit(mesh: AssemblyMesh): (xyz: Float64Array) => Float32Array {
	const nodes = Array.from({ length: mesh.nodeCount }, (_, k) => nodeAt(mesh.xyz, k));
	const fit = new RigidFit(nodes, middleOf(nodes));
	return (xyz) => {
		const u = nodes.map((p, k): Vec3 => [xyz[3 * k] - p[0], xyz[3 * k + 1] - p[1], xyz[3 * k + 2] - p[2]]);
		return Float32Array.from(fit.without(u).flat());
	};
}
