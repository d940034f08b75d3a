/**
 * Final shape: one non-linear solution of the joined, released piece under the summed actions and the misfits the staged
 * step found at joining. It knows what the linear step cannot: waves, dishing, which way a panel goes, weight and bench.
 */
import { directionOf, freedom, nodeOf, PER_NODE } from '../shell/freedoms';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import { EdgeContacts, type EdgeContact } from '../equilibrium/contact';
import { bucklingModes, type BucklingMode } from '../equilibrium/buckling';
import { GroundSprings, TurnSprings, type DeadLoads } from '../equilibrium/ground';
import { expInto, logInto, multiply3, transposeMultiply3 } from '../equilibrium/rotation';
import { Links, type Link } from '../equilibrium/links';
import { minimise, type Minimised } from '../equilibrium/minimise';
import { postureModel } from '../equilibrium/posture';
import { moved, stateAt, type State, type Term } from '../equilibrium/state';
import { EquilibriumSystem } from '../equilibrium/system';
import { Triangles } from '../equilibrium/triangles';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { PlanDocument } from '../document/schema';
import type { Posture } from '../document/words';
import { Timeline } from '../sequence/timeline';
import type { BeamSection } from '../shell/beam';
import { nodeAt } from '../shell/model';
import type { SheetMaterial } from '../shell/triangle';
import { memberBeams, tieAxes, type Condensed } from './condense';
import type { Staged } from './stage';
import { jointDirections } from './weldBook';
import { Refusal } from '../refusal/refusal';

/** What the welds do to the piece: misfit of each link and spring (mm, rad), and amounts of the weld loads. Sums and multiples mean what they say. */
export interface Pull {
	misfit: Float64Array;
	amounts: Float64Array;
}

/** Link forces and load amounts of the staged step, by action. */
export interface Source {
	lambda: Float64Array[];
	amounts: Float64Array[];
}

export const times = (p: Pull, f: number): Pull => ({ misfit: p.misfit.map((v) => f * v), amounts: p.amounts.map((v) => f * v) });

export const addPulls = (p: Pull, q: Pull, f = 1): Pull => ({
	misfit: p.misfit.map((v, i) => v + f * q.misfit[i]),
	amounts: p.amounts.map((v, i) => v + f * q.amounts[i])
});

function summed(source: Source, scales: readonly number[]): Laid {
	const sum = (list: Float64Array[]) => {
		const out = new Float64Array(list[0].length);
		list.forEach((v, a) => {
			if (scales[a] !== 0) for (let i = 0; i < out.length; i++) out[i] += scales[a] * v[i];
		});
		return out;
	};
	return { lambda: sum(source.lambda), amounts: sum(source.amounts) };
}

/** Parts that no seam ties to the main one hang on springs this weak in all, N/mm: they stay in the picture and carry nothing. */
const SOFT_TIE = 1e-2;
/** Edges that touch press with this share of a weld's stiffness: they sink in by less than a thousandth of a millimetre. */
const CONTACT_SHARE = 0.1;
const OFF: readonly number[] = [0, 0, 0, 0, 0, 0];

/** What the set-up of a shape hands from phase to phase. */
interface Building {
	plan: PlanDocument;
	mesh: AssemblyMesh;
	beams: ReturnType<typeof memberBeams>;
	xyz: Float64Array;
	outOfFlat?: Float64Array;
	/** everything is there, and off until it is put on */
	stepwise: boolean;
	/** rows that carry */
	active: ReadonlySet<number>;
}

/** Where the nodes lie before anything is laid on: the sheet's, out of flat if it is, and the members'. */
function placesOf(mesh: AssemblyMesh, extra: readonly number[], outOfFlat?: Float64Array): Float64Array {
	const xyz = new Float64Array(mesh.xyz.length + extra.length);
	xyz.set(mesh.xyz);
	if (outOfFlat) for (let i = 0; i < mesh.xyz.length; i++) xyz[i] += outOfFlat[i];
	xyz.set(extra, mesh.xyz.length);
	return xyz;
}

/** kg by node: a third of each triangle's. */
function massOf(mesh: AssemblyMesh, sheets: readonly SheetMaterial[], densities: readonly number[], xyz: Float64Array): Float64Array {
	const mass = new Float64Array(xyz.length / 3);
	for (let e = 0; e < mesh.triPart.length; e++) {
		const [p, q, r] = [0, 1, 2].map((i) => nodeAt(xyz, mesh.tri[3 * e + i]));
		const kg = (norm(cross(sub(q, p), sub(r, p))) / 2) * sheets[mesh.triPart[e]].thickness * densities[mesh.triPart[e]] * 1e-9;
		for (let i = 0; i < 3; i++) mass[mesh.tri[3 * e + i]] += kg / 3;
	}
	return mass;
}

/** Every part on springs that carry nothing to speak of; a member that is off floats on them too. */
function looseTies(mesh: AssemblyMesh, xyz: Float64Array): GroundSprings['list'] {
	const ties: GroundSprings['list'] = [];
	const loose = (k: number, stiffness: number) => {
		for (let d = 0; d < 3; d++) {
			const direction: Vec3 = [0, 0, 0];
			direction[d] = 1;
			ties.push({ node: k, direction, rest: xyz[3 * k + d], stiffness });
		}
	};
	for (const p of mesh.parts) {
		const n = p.flat.xy.length / 2;
		for (let k = 0; k < n; k++) loose(p.node0 + k, SOFT_TIE / n);
	}
	for (let k = mesh.nodeCount; k < xyz.length / 3; k++) loose(k, SOFT_TIE);
	return ties;
}

export class FinalShape {
	readonly system: EquilibriumSystem;
	readonly start: State;
	readonly postureWords: string;
	private readonly weight: DeadLoads;
	private readonly isWeightless: boolean;
	/** nodes of the sheet; those of strongbacks follow */
	readonly shellNodes: number;
	private readonly links: Link[] = [];
	/** rows of the condensed model behind each link, or behind each spring */
	private readonly linkRows: number[][] = [];
	private readonly linkArm: Vec3[] = [];
	private readonly springs: GroundSprings;
	private readonly springRows: number[] = [];
	/** weak springs that keep parts from drifting while nothing joins them */
	readonly ties: GroundSprings['list'];
	private readonly springRest: number[] = [];
	private readonly contacts: EdgeContact[] = [];
	private readonly contactOf = new Map<number, EdgeContact>();
	private readonly triangles: Triangles;
	/** the terms that a pull changes, besides the sheet with its eigenstrains */
	private readonly pulled: Term[];
	/** which way to go where the piece could go either way: from the datum end of the first seam, towards its weld side */
	readonly seed: Float64Array;

	constructor(
		plan: PlanDocument,
		readonly mesh: AssemblyMesh,
		private readonly sheets: readonly SheetMaterial[],
		densities: readonly number[],
		private readonly c: Condensed,
		/** which link rows carry at the end; all of them, each off until it is put on, when absent */
		staged: Pick<Staged, 'active'> | undefined,
		posture: Posture = plan.posture,
		/** mm by node, 3 each: how far the sheet is out of the drawing before anything is laid on, free of stress */
		outOfFlat?: Float64Array
	) {
		const beams = memberBeams(plan, mesh);
		const nodeCount = mesh.nodeCount + beams.extraNodes.length / 3;
		const xyz = placesOf(mesh, beams.extraNodes, outOfFlat);
		const stepwise = staged === undefined;
		const building: Building = { plan, mesh, beams, xyz, outOfFlat, stepwise, active: new Set(staged ? staged.active : c.rows.keys()) };
		this.start = stateAt(xyz);
		this.shellNodes = mesh.nodeCount;
		this.triangles = new Triangles(xyz, mesh.tri, (e) => sheets[mesh.triPart[e]]);
		const apart = this.joinSeams(building);
		if (!stepwise && apart !== undefined)
			throw new Refusal(
				`Part “${apart}” is tied to “${mesh.parts[0].part.name}” by no tack and no run: the final shape needs one piece. Tack or weld a seam of it`
			);
		const { springs, used } = this.putHolds(building);
		this.springs = new GroundSprings(springs);

		const lying = postureModel(posture, mesh.xyz, mesh.nodeCount, massOf(mesh, sheets, densities, xyz));
		this.postureWords = lying.words;
		this.weight = lying.weight;
		this.isWeightless = plan.shape?.weightless ?? false;
		if (this.isWeightless) this.weight.factor = 0;

		this.ties = stepwise ? looseTies(mesh, xyz) : [];
		this.pulled = [new Links(this.links), this.springs];
		const terms: Term[] = [this.triangles, ...this.pulled, new EdgeContacts(this.contacts), new GroundSprings(this.ties), ...lying.terms];
		// nodes of strongbacks that are off by now take no part
		const extra = Array.from({ length: nodeCount - mesh.nodeCount }, (_, i) => mesh.nodeCount + i);
		const fixed = [...lying.fixed, ...extra.filter((k) => !used.has(k)).flatMap((k) => [0, 1, 2, 3, 4, 5].map((d) => freedom(k, d)))];
		if (stepwise) {
			terms.push(new TurnSprings(extra.map((node) => ({ node, stiffness: 1 }))));
			for (const l of this.links.slice(0, this.linkRows.length)) l.stiffness = OFF;
			for (const g of springs) g.stiffness = 0;
		}
		this.system = new EquilibriumSystem(nodeCount, terms, fixed, c.model.factor.kernel);
		this.seed = new Float64Array(PER_NODE * nodeCount);
		const seam = mesh.seams[0];
		if (seam) for (let d = 0; d < 3; d++) this.seed[freedom(seam.a[0], d)] = seam.frames[0].weldSide[d];
	}

	/** A link where a pair carries, a contact where edges only touch. @returns the name of a part that nothing joins to the first, if there is one */
	private joinSeams({ plan, mesh, outOfFlat, stepwise, active }: Building): string | undefined {
		const { c } = this;
		const group = mesh.parts.map((_, i) => i);
		const root = (i: number): number => (group[i] === i ? i : (group[i] = root(group[i])));
		const partOf = (node: number) => {
			let i = mesh.parts.length - 1;
			while (mesh.parts[i].node0 > node) i--;
			return i;
		};
		mesh.seams.forEach((seam, k) =>
			c.pairRow[k].forEach((first, i) => {
				const [a, b] = [seam.a[i], seam.b[i]];
				if (a === b) return;
				const { offset, axes } = seam.frames[i];
				/** from A to B as they now are */
				const arm = outOfFlat ? (offset.map((v, d) => v + outOfFlat[3 * b + d] - outOfFlat[3 * a + d]) as Vec3) : offset;
				const { shrink } = jointDirections(plan, seam, i);
				const length = norm(shrink);
				// edges that nothing joins (yet) touch
				if ((stepwise || !active.has(first)) && length > 1e-9) {
					const stiffness = CONTACT_SHARE / c.compliance[first];
					const contact = { a, b, arm, closing: scale(shrink, 1 / length), gap: seam.joint.gapMm, stiffness, on: true };
					this.contacts.push(contact);
					this.contactOf.set(first, contact);
				}
				if (!active.has(first)) return;
				this.addLink(a, b, arm, axes, first);
				group[root(partOf(a))] = root(partOf(b));
			})
		);
		const main = root(0);
		return mesh.parts.find((_, i) => root(i) !== main)?.part.name;
	}

	/** Hold-downs that carry: springs to the bench, and members with their ties. @returns the springs, and which members' nodes take part */
	private putHolds({ plan, mesh, beams, xyz, stepwise, active }: Building): { springs: GroundSprings['list']; used: ReadonlySet<number> } {
		const { c } = this;
		const springs: GroundSprings['list'] = [];
		const timeline = new Timeline(plan);
		const used = new Set<number>();
		for (const h of plan.holdDowns) {
			const rows = c.holdRows.get(h.id);
			if (!rows || (!stepwise && timeline.offOf(h) !== timeline.never) || !active.has(rows[0])) continue;
			const tied = beams.ties.get(h.id);
			tied?.forEach(([shell, beam, arm], i) => {
				this.addLink(shell, beam, arm, tieAxes(mesh, shell), rows[6 * i]);
				used.add(beam);
			});
			if (tied) continue;
			for (const r of rows) {
				// rows of a hold-down press single nodes along fixed directions
				const row = c.rows[r];
				const node = nodeOf(row.at[0]);
				const direction: Vec3 = [0, 0, 0];
				row.at.forEach((f, i) => (direction[directionOf(f)] = row.v[i]));
				this.springRows.push(r);
				this.springRest.push(dot(direction, nodeAt(xyz, node)));
				springs.push({ node, direction, rest: 0, stiffness: 1 / c.compliance[r] });
			}
		}
		for (const b of beams.elements) {
			const [p, q] = b.nodes.map((k) => nodeAt(xyz, k));
			if (used.has(b.nodes[0])) this.links.push({ ...beamLink(b.nodes, p, q, b.up, b.section) });
		}
		return { springs, used };
	}

	// --- stage by stage: links and springs put on and taken off as they lie ---

	private linkOf = (firstRow: number) => this.linkRows.findIndex((rows) => rows[0] === firstRow);

	/** How a pair lies against the drawing: displacement of B against A in the axes half way between theirs (mm), turn about the pair's own axes (rad). */
	relative(state: State, firstRow: number): { move: Vec3; about: Vec3 } {
		const l = this.links[this.linkOf(firstRow)];
		const arm = this.linkArm[this.linkOf(firstRow)];
		const r = [0, 1, 2].map((d) => state.x[3 * l.b + d] - state.x[3 * l.a + d]);
		const Q = new Float64Array(9);
		transposeMultiply3(state.R, 9 * l.a, state.R, 9 * l.b, Q, 0);
		const t = new Float64Array(3);
		logInto(Q, 0, t);
		const half = new Float64Array(9);
		expInto(t[0] / 2, t[1] / 2, t[2] / 2, half);
		const R = new Float64Array(9);
		multiply3(state.R, 9 * l.a, half, 0, R, 0);
		const move = [0, 1, 2].map((c) => R[c] * r[0] + R[3 + c] * r[1] + R[6 + c] * r[2] - arm[c]) as Vec3;
		return { move, about: l.axes!.map((v) => dot(v, [t[0], t[1], t[2]])) as Vec3 };
	}
	/** Puts a pair on (or a strongback's tie); its rest is what `pull.misfit` says from then on. */
	putOn(firstRow: number) {
		const i = this.linkOf(firstRow);
		const contact = this.contactOf.get(firstRow);
		if (contact) contact.on = false;
		if (i >= 0) this.links[i].stiffness = this.linkRows[i].map((r) => 1 / this.c.compliance[r]);
		else this.springs.list[this.springRows.indexOf(firstRow)].stiffness = 1 / this.c.compliance[firstRow];
	}
	takeOff(row: number) {
		const i = this.linkOf(row);
		if (i >= 0) this.links[i].stiffness = OFF;
		else if (this.springRows.includes(row)) this.springs.list[this.springRows.indexOf(row)].stiffness = 0;
	}
	/** Misfit places of a row in a pull: six for a link, one for a spring. */
	placeOf(row: number): { at: number; spring?: { direction: Vec3; node: number; rest: number } } {
		const i = this.linkRows.findIndex((rows) => rows.includes(row));
		if (i >= 0) return { at: 6 * i + this.linkRows[i].indexOf(row) };
		const k = this.springRows.indexOf(row);
		const g = this.springs.list[k];
		return { at: 6 * this.linkRows.length + k, spring: { direction: g.direction, node: g.node, rest: this.springRest[k] } };
	}
	emptyPull(): Pull {
		return { misfit: new Float64Array(6 * this.linkRows.length + this.springRows.length), amounts: new Float64Array(this.c.loads.length) };
	}
	/** Weight on or off: the piece is carried by its jig while it is welded. */
	set weighs(on: boolean) {
		this.weight.factor = on && !this.isWeightless ? 1 : 0;
	}

	private addLink(a: number, b: number, arm: Vec3, axes: readonly [Vec3, Vec3, Vec3], firstRow: number) {
		const k = [0, 1, 2, 3, 4, 5].map((d) => 1 / this.c.compliance[firstRow + d]);
		this.linkRows.push([0, 1, 2, 3, 4, 5].map((d) => firstRow + d));
		this.linkArm.push(arm);
		// neither side is the first: the axes go with the mean of both
		this.links.push({ a, b, arm: [...arm], turn: [0, 0, 0], axes, stiffness: k, mean: true });
	}

	/** Sum of a source's actions with a multiplier each, as misfits of this piece's links. */
	pull(source: Source, scales: readonly number[]): Pull {
		return this.pulls([source], scales)[0];
	}

	/** The same of many sources: what the forces of all rows do to each is most of the work, and is gone through for several at a time. */
	pulls(sources: readonly Source[], scales: readonly number[]): Pull[] {
		return this.misfitted(sources.map((source) => summed(source, scales)));
	}

	/** Several sources as one pull, each with a share. */
	pullOf(sources: readonly (readonly [Source, number])[], scales: readonly number[]): Pull {
		const all = sources.map(([source, share]) => ({ share, ...summed(source, scales) }));
		const sum = (of: 'lambda' | 'amounts', size: number) => {
			const out = new Float64Array(size);
			for (const one of all) for (let i = 0; i < size; i++) out[i] += one.share * one[of][i];
			return out;
		};
		return this.misfitted([{ lambda: sum('lambda', this.c.rowCount), amounts: sum('amounts', this.c.loads.length) }])[0];
	}

	private misfitted(laid: readonly Laid[]): Pull[] {
		const rows = [...this.linkRows.flat(), ...this.springRows];
		const out: Pull[] = [];
		for (let i = 0; i < laid.length; i += AT_A_TIME) {
			const part = laid.slice(i, i + AT_A_TIME);
			misfits(this.c, part, rows).forEach((misfit, k) => out.push({ misfit, amounts: part[k].amounts }));
		}
		return out;
	}

	private layEigen(laid: Pull, share: number, on = this.triangles) {
		on.clearEigen();
		this.c.loads.forEach((load, l) => {
			const amount = share * laid.amounts[l];
			if (amount !== 0) for (const { element, forces } of load.elements) on.addEigenForces(element, forces, amount);
		});
	}

	/** Lays a pull on, at a share of its full size. */
	lay(laid: Pull, share: number, sheet = true) {
		const n = 6 * this.linkRows.length;
		for (let i = 0; i < this.linkRows.length; i++) {
			const l = this.links[i];
			for (let d = 0; d < 3; d++) {
				l.arm[d] = this.linkArm[i][d] + share * laid.misfit[6 * i + d];
				l.turn[d] = share * l.axes!.reduce((s, v, k) => s + v[d] * laid.misfit[6 * i + 3 + k], 0);
			}
		}
		this.springRows.forEach((_, i) => (this.springs.list[i].rest = this.springRest[i] + share * laid.misfit[n + i]));
		if (sheet) this.layEigen(laid, share);
	}

	/**
	 * Lays the load on in shares and finds the shape at each. `from`: a shape to start at with the whole load on; `begin`: one to
	 * start at with a share of it on
	 */
	solve(
		laid: Pull,
		options: { from?: State; once?: boolean; steps?: number; begin?: { state: State; share: number }; progress?: (share: number) => void } = {}
	): Minimised {
		const largest = this.c.loads.reduce((most, load, l) => (load.kind === 'force' ? Math.max(most, Math.abs(laid.amounts[l])) : most), 1);
		return minimise(this.system, options.from ?? options.begin?.state ?? this.start, {
			forceTolerance: 1e-6 * largest,
			momentTolerance: 1e-5 * largest,
			seed: this.seed,
			maxTurn: 0.3,
			progress: options.progress,
			lay: (share) => this.lay(laid, share),
			// a shape to start at is close to the answer: the whole load at once
			steps: options.from ? 1 : (options.steps ?? 4),
			from: options.from ? 0.5 : (options.begin?.share ?? 0),
			once: options.once,
			// a look at another shape: Newton's own steps find it or nothing does
			plain: options.once,
			maxIterations: options.once ? 16 : undefined
		});
	}

	/** Lowest buckling factors of the welds' pull (times what is laid), weight aside. Needs a posture that holds all six motions. */
	modes(laid: Pull, count: number): BucklingMode[] {
		const carried = this.weight.factor;
		this.weight.factor = 0;
		try {
			return bucklingModes(this.system, this.start, count, (share) => this.lay(laid, share));
		} finally {
			this.weight.factor = carried;
		}
	}

	/**
	 * Motions that small extra pulls would cause at a solved state with `laid` on, per unit of each, and after them those of sheet that had
	 * come out of flat by each bump (3 per node, mm; the bump itself in them): 6 per node. The state's own tangent is factored here.
	 */
	answers(state: State, laid: Pull, changes: readonly Pull[], bumps: readonly Float64Array[] = []): Float64Array[] {
		const n = this.system.freedoms;
		this.lay(laid, 1);
		this.system.foresee(state, 1);
		this.system.factorTangent(state, 1);
		const gradient = () => {
			const g = new Float64Array(n);
			for (const t of this.pulled) t.add(state, 1, g);
			return g;
		};
		const h = 1e-4;
		const before = gradient();
		const out: Float64Array[] = [];
		const W = 4;
		for (let c0 = 0; c0 < changes.length; c0 += W) {
			const part = changes.slice(c0, c0 + W);
			const b = new Float64Array(n * part.length);
			part.forEach((change, c) => {
				this.lay(addPulls(laid, change, h), 1, false);
				const g = gradient();
				for (let i = 0; i < n; i++) b[i * part.length + c] = -(g[i] - before[i]) / h;
				// eigenstrains are in proportion: their forces as the triangles now lie
				this.layEigen(change, 1);
				const f = this.triangles.eigenForces(state);
				for (let i = 0; i < n; i++) b[i * part.length + c] += f[i];
			});
			this.lay(laid, 1);
			for (const f of this.system.fixedList) for (let c = 0; c < part.length; c++) b[f * part.length + c] = 0;
			const x = this.system.factor.solveMany(b, part.length);
			part.forEach((_, c) => out.push(Float64Array.from({ length: n }, (_v, i) => x[i * part.length + c])));
		}
		return [...out, ...bumps.map((bump) => this.answerTo(bump, state, laid))];
	}

	/** With the state's tangent factored: the sheet's own forces as it lies, had it been free of stress in another shape. */
	private answerTo(bump: Float64Array, state: State, laid: Pull): Float64Array {
		const n = this.system.freedoms;
		const most = bump.reduce((p, v) => Math.max(p, Math.abs(v)), 0);
		const h = BUMP_MM / most;
		const carried = new Float64Array(n);
		for (let i = 0; i < bump.length; i++) carried[freedom(Math.floor(i / 3), i % 3)] = bump[i];
		// both ways, so that what goes by the square of it falls out: a soft way to move answers to little
		const force = (way: number) => {
			const other = new Triangles(
				this.start.x.map((v, i) => v + way * (bump[i] ?? 0)),
				this.mesh.tri,
				(e) => this.sheets[this.mesh.triPart[e]]
			);
			this.layEigen(laid, 1, other);
			const g = new Float64Array(n);
			other.add(moved(state, carried, way), 1, g);
			return g;
		};
		const [up, down] = [force(h), force(-h)];
		const b = up.map((v, i) => (down[i] - v) / (2 * h));
		for (const f of this.system.fixedList) b[f] = 0;
		return this.system.factor.solve(b).map((v, i) => v + carried[i]);
	}
}

/** How far sheet is bent out of flat to find what it would do, mm: little, so that it is in proportion. */
const BUMP_MM = 0.01;

interface Laid {
	lambda: Float64Array;
	amounts: Float64Array;
}
/** Pulls that are worked out in one pass over the flexibility: it is far larger than any cache. */
const AT_A_TIME = 8;

/** Misfit of link rows: what each would be at rest, B u - C lambda, from the staged step's forces and loads. */
function misfits(c: Condensed, laid: readonly Laid[], rows: readonly number[]): Float64Array[] {
	const nl = c.loads.length;
	const w = laid.length;
	const isUsed = (q: number) => laid.some((l) => l.lambda[q] !== 0);
	const used = Int32Array.from(Array.from({ length: c.rowCount }, (_, q) => q).filter(isUsed));
	/** forces of the used rows, pulls side by side */
	const forces = new Float64Array(used.length * w);
	used.forEach((q, i) => laid.forEach((l, k) => (forces[i * w + k] = l.lambda[q])));
	const out = laid.map(() => new Float64Array(rows.length));
	const sum = new Float64Array(w);
	rows.forEach((r, at) => {
		laid.forEach((l, k) => {
			sum[k] = -c.compliance[r] * l.lambda[r];
			for (let i = 0; i < nl; i++) if (l.amounts[i] !== 0) sum[k] += c.rowLoad[r * nl + i] * l.amounts[i];
		});
		const first = r * c.rowCount;
		for (let i = 0; i < used.length; i++) {
			const f = c.flexibility[first + used[i]];
			for (let k = 0; k < w; k++) sum[k] -= f * forces[i * w + k];
		}
		for (let k = 0; k < w; k++) out[k][at] = sum[k];
	});
	return out;
}

function beamLink(nodes: [number, number], p: Vec3, q: Vec3, up: Vec3, s: BeamSection): Link {
	const d = sub(q, p);
	const l = norm(d);
	const ex = unit(d);
	const ey = unit(cross(up, ex));
	const ez = cross(ex, ey);
	const E = s.eModulus;
	return {
		a: nodes[0],
		b: nodes[1],
		arm: d,
		turn: [0, 0, 0],
		axes: [ex, ey, ez],
		// the six ways a straight beam can be strained, each with its own stiffness (Przemieniecki 1968, section 5.6, in natural modes)
		stiffness: [
			(E * s.area) / l,
			(12 * E * s.iSide) / l ** 3,
			(12 * E * s.iUp) / l ** 3,
			(s.shearModulus * s.torsion) / l,
			(E * s.iUp) / l,
			(E * s.iSide) / l
		],
		mean: true
	};
}
