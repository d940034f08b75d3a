/** The plan on the desk: edits with undo, autosave with conflicts shown, forecast that follows. Shared by all stages of a job. */
import { brokenRule, followAssembly } from '$core/sequence/precedence';
import { getContext, setContext } from 'svelte';
import type { Forecast, Shapes } from '$core/forecast/forecast';
import type { ShopFactors } from '$core/factors/factors';
import { meshOf, pieceOf } from '$core/mesh/shapeOf';
import { checkPlan } from '$core/plan/check';
import type { Fault } from '$core/document/faults';
import type { PlanDocument } from '$core/document/schema';
import { call, type Refusal } from '$lib/call';
import { QuickClient } from '$lib/quick/client';
import type { Geometry } from '$lib/quick/protocol';

/** `at`: the place that was pointed at, on the part's flat layout, mm */
export type Selection = { kind: 'part' | 'joint' | 'tack' | 'run' | 'hold-down' | 'feature'; id: string; at?: [number, number] } | undefined;

interface Stored {
	revision: number;
	version: number;
	state: 'draft' | 'issued';
	document: PlanDocument;
}
interface Past {
	label: string;
	doc: PlanDocument;
}

const SAVE_AFTER_MS = 700;
const FORECAST_AFTER_MS = 20;
const UNDO_DEPTH = 100;

/** What the order of work hangs on beside the tacks and runs themselves. */
const assemblyOf = (p: PlanDocument) => JSON.stringify([p.fitUp.order, p.fitUp.adjustingJoint, p.parts.map((x) => x.id), p.joints.map((x) => x.id)]);

export class PlanDesk {
	readonly jobId: string;
	readonly mayEdit: boolean;
	factors = $state.raw() as ShopFactors;
	doc = $state.raw() as PlanDocument;
	revision = $state(1);
	version = $state(1);
	state = $state<'draft' | 'issued'>('draft');
	selection = $state<Selection>();
	saving = $state<'saved' | 'waiting' | 'saving' | 'refused'>('saved');
	refusal = $state.raw<Refusal | undefined>();
	/** the plan somebody else stored, when they were first */
	theirs = $state.raw<Stored | undefined>();
	notes = $state<string[]>([]);
	faults = $state.raw<Fault[]>([]);

	geometry = $state.raw<Geometry | undefined>();
	result = $state.raw<Forecast | undefined>();
	shapes = $state.raw<Shapes | undefined>();
	forecasting = $state(false);
	progress = $state(0);
	forecastMs = $state(0);
	forecastMessage = $state('');
	/** the forecast shown belongs to an older state of the plan */
	stale = $state(true);
	/** the final-shape depth, with the plan it was worked out for */
	deep = $state.raw<{ doc: PlanDocument; result: Forecast; shape: Float32Array; other?: Float32Array } | undefined>();
	deepBusy = $state(false);
	deepProgress = $state(0);
	deepMessage = $state('');
	/** the same with each arc watched along its seam */
	hot = $state.raw<PlanDesk['deep']>();
	hotBusy = $state(false);
	hotProgress = $state(0);
	hotMessage = $state('');
	/** the full depth, a task of the server's */
	full = $state.raw<{ doc: PlanDocument; result: Forecast; steps: Float32Array[]; other?: Float32Array } | undefined>();
	/** the deepest forecast of the plan as it stands */
	readonly shown = $derived([this.full, this.hot, this.deep].find((x) => x && x.doc === this.doc)?.result ?? this.result);

	/** final shapes found, by the plan as it then stood */
	private deeps = new WeakMap<PlanDocument, NonNullable<PlanDesk['deep']>>();
	private hots = new WeakMap<PlanDocument, NonNullable<PlanDesk['deep']>>();
	private past = $state.raw<Past[]>([]);
	private future = $state.raw<Past[]>([]);
	private readonly quick = new QuickClient();
	private readonly deepClient = new QuickClient();
	private readonly hotClient = new QuickClient();
	private readonly compareClient = new QuickClient();
	private saveTimer?: ReturnType<typeof setTimeout>;
	private forecastTimer?: ReturnType<typeof setTimeout>;
	private savingNow = false;
	private edits = 0;
	/** the mesh that is drawn, the piece the figures are of, and the one the forecast under way was asked for */
	private drawnMesh = '';
	private shownPiece = '';
	private askedPiece = '';
	private asking = false;
	private askAgain = false;

	constructor(jobId: string, stored: Stored, factors: ShopFactors, mayEdit: boolean) {
		this.jobId = jobId;
		this.factors = factors;
		this.mayEdit = mayEdit;
		this.take(stored);
	}

	/** seams that are tacked and welded here: not those the stock came with */
	get seams() {
		return this.doc.joints.filter((j) => !j.stock);
	}
	get undoLabel() {
		return this.past[this.past.length - 1]?.label;
	}
	get redoLabel() {
		return this.future[this.future.length - 1]?.label;
	}

	private take(stored: Stored) {
		this.doc = stored.document;
		this.revision = stored.revision;
		this.version = stored.version;
		this.state = stored.state;
	}

	/** Starts the drawing and the forecast; call in the browser only. */
	begin() {
		this.recover();
		this.follow(0);
	}
	end() {
		clearTimeout(this.forecastTimer);
		this.quick.cancel();
		this.deepClient.cancel();
		this.hotClient.cancel();
		this.compareClient.cancel();
		if (this.saving === 'waiting') void this.save();
	}

	/** Makes one change. The label names it in undo. A change that makes the plan impossible is refused and says why; one that changes nothing leaves no trace. */
	change(label: string, edit: (draft: PlanDocument) => void | string[]): boolean {
		if (!this.mayEdit) return false;
		const draft = structuredClone(this.doc);
		// an edit written as an assignment gives back what it assigned
		const said: unknown = edit(draft);
		const notes: string[] = Array.isArray(said) ? [...(said as string[])] : [];
		// the work follows the assembly; an order that it forbids is not made by hand
		if (assemblyOf(draft) !== assemblyOf(this.doc)) notes.push(...followAssembly(draft));
		const broken = brokenRule(draft);
		const faults = checkPlan(draft);
		if (broken && !brokenRule(this.doc)) faults.push({ field: broken.what === 'run' ? 'runs' : 'tacks', value: '', allowed: broken.words });
		if (faults.length) {
			this.faults = faults;
			return false;
		}
		this.faults = [];
		if (JSON.stringify(draft) === JSON.stringify(this.doc)) return true;
		this.notes = notes;
		this.past = [...this.past.slice(-UNDO_DEPTH + 1), { label, doc: this.doc }];
		this.future = [];
		this.set(draft);
		return true;
	}
	undo() {
		const last = this.past[this.past.length - 1];
		if (!last) return;
		this.past = this.past.slice(0, -1);
		this.future = [...this.future, { label: last.label, doc: this.doc }];
		this.notes = [`Undone: ${last.label}`];
		this.set(last.doc);
	}
	redo() {
		const next = this.future[this.future.length - 1];
		if (!next) return;
		this.future = this.future.slice(0, -1);
		this.past = [...this.past, { label: next.label, doc: this.doc }];
		this.notes = [`Done again: ${next.label}`];
		this.set(next.doc);
	}

	private set(doc: PlanDocument) {
		this.doc = doc;
		this.edits++;
		this.stale = true;
		if (this.deepBusy) this.cancelFinalShape();
		if (this.hotBusy) this.cancelHot();
		this.hotMessage = '';
		this.keep();
		this.saving = this.theirs ? 'refused' : 'waiting';
		clearTimeout(this.saveTimer);
		if (!this.theirs) this.saveTimer = setTimeout(() => void this.save(), SAVE_AFTER_MS);
		this.follow(FORECAST_AFTER_MS);
	}

	// --- saving ---

	private get keepKey() {
		return `sarta-plan-${this.jobId}`;
	}
	/** Until the server has it, the browser does: nothing is lost if the network or the server drops. */
	private keep() {
		try {
			localStorage.setItem(this.keepKey, JSON.stringify({ revision: this.revision, version: this.version, document: this.doc }));
		} catch {
			// a full or forbidden store: the page still holds the plan
		}
	}
	private forget() {
		try {
			localStorage.removeItem(this.keepKey);
		} catch {
			// nothing was kept
		}
	}
	private recover() {
		if (!this.mayEdit) return;
		try {
			const text = localStorage.getItem(this.keepKey);
			if (!text) return;
			const kept = JSON.parse(text) as { revision: number; version: number; document: PlanDocument };
			if (JSON.stringify(kept.document) === JSON.stringify(this.doc) || checkPlan(kept.document).length) return this.forget();
			if (kept.revision === this.revision && kept.version === this.version) {
				this.past = [{ label: 'the changes found in this browser', doc: this.doc }];
				this.notes = ['Changes that had not reached the server were found in this browser and put back. Undo drops them.'];
				this.set(kept.document);
			} else {
				this.theirs = { revision: this.revision, version: this.version, state: this.state, document: this.doc };
				this.doc = kept.document;
				this.saving = 'refused';
			}
		} catch {
			this.forget();
		}
	}

	async save() {
		if (this.savingNow || !this.mayEdit) return;
		clearTimeout(this.saveTimer);
		this.savingNow = true;
		this.saving = 'saving';
		const edit = this.edits;
		const r = await call<{ revision: number; version: number; state: 'draft' | 'issued' }>('PUT', `/api/jobs/${this.jobId}/plan`, {
			revision: this.revision,
			version: this.version,
			plan: this.doc
		});
		this.savingNow = false;
		if (r.ok) {
			this.refusal = undefined;
			this.revision = r.data.revision;
			this.version = r.data.version;
			this.state = r.data.state;
			if (edit === this.edits) {
				this.saving = 'saved';
				this.forget();
			} else {
				this.keep();
				void this.save();
			}
		} else if (r.refusal.status === 409 && r.refusal.current) {
			this.theirs = r.refusal.current as Stored;
			this.saving = 'refused';
		} else {
			this.refusal = r.refusal;
			const later = r.refusal.status === 0 || r.refusal.status >= 500;
			this.saving = later ? 'waiting' : 'refused';
			if (later) this.saveTimer = setTimeout(() => void this.save(), 5000);
		}
	}
	/** After a conflict: mine goes on top of theirs (theirs is one undo away), or theirs replaces mine (mine is). */
	resolve(choice: 'mine' | 'theirs') {
		const t = this.theirs;
		if (!t) return;
		const mine = this.doc;
		this.theirs = undefined;
		this.revision = t.revision;
		this.version = t.version;
		this.state = t.state;
		this.past = [...this.past, choice === 'mine' ? { label: 'keeping mine over theirs', doc: t.document } : { label: 'taking theirs', doc: mine }];
		if (choice === 'mine') this.set(mine);
		else {
			this.doc = t.document;
			this.saving = 'saved';
			this.forget();
			this.follow(0);
		}
	}
	/** Factors the shop has adopted since: every forecast that stands on the old ones goes, and the plan is forecast anew. */
	useFactors(factors: ShopFactors) {
		if (JSON.stringify(factors) === JSON.stringify(this.factors)) return;
		this.factors = factors;
		this.deep = undefined;
		this.deeps = new WeakMap();
		this.hots = new WeakMap();
		this.hot = undefined;
		this.full = undefined;
		if (this.deepBusy) this.cancelFinalShape();
		if (this.hotBusy) this.cancelHot();
		this.follow(0);
	}
	issued(now: { revision: number; version: number; state: 'draft' | 'issued' }) {
		this.revision = now.revision;
		this.version = now.version;
		this.state = now.state;
	}

	// --- forecast ---

	private follow(delay: number) {
		clearTimeout(this.forecastTimer);
		this.stale = true;
		this.forecastTimer = setTimeout(() => void this.ask(), delay);
	}
	/** Final shape of the plan as it stands, in a worker of its own; an edit ends it. */
	async askFinalShape() {
		if (this.deepBusy || (this.deep && this.deep.doc === this.doc)) return;
		const doc = this.doc;
		// an edit undone: it was worked out before
		const known = this.deeps.get(doc);
		if (known) {
			this.deep = known;
			return;
		}
		this.deepBusy = true;
		this.deepProgress = 0;
		this.deepMessage = '';
		const answer = await this.deepClient.finalShape(doc, this.factors, (p) => (this.deepProgress = p));
		if (!answer) return;
		this.deepBusy = false;
		if (answer.ok) this.deeps.set(doc, (this.deep = { doc, ...answer.data }));
		else this.deepMessage = answer.message;
	}
	/** Each arc watched along its seam and the final shape found with it, in a worker of its own; an edit ends it. */
	async askHot() {
		if (this.hotBusy || (this.hot && this.hot.doc === this.doc)) return;
		const doc = this.doc;
		const known = this.hots.get(doc);
		if (known) {
			this.hot = known;
			return;
		}
		this.hotBusy = true;
		this.hotProgress = 0;
		this.hotMessage = '';
		const plain = this.deep?.doc === doc ? this.deep.result : undefined;
		const answer = await this.hotClient.hot(doc, this.factors, plain, (p) => (this.hotProgress = p));
		if (!answer) return;
		this.hotBusy = false;
		if (answer.ok) this.hots.set(doc, (this.hot = { doc, ...answer.data }));
		else this.hotMessage = answer.message;
	}
	cancelHot() {
		this.hotClient.cancel();
		this.hotBusy = false;
	}
	/** Ended by hand: it does not begin by itself again on this plan. */
	stopHot() {
		this.cancelHot();
		this.hotMessage = 'Stopped.';
	}
	/** What another plan would gain over this one, in a worker of its own so that edits go on meanwhile. */
	compareWith = (then: PlanDocument) => this.compareClient.compare(this.doc, then, this.factors);
	deckOf = (title: string) => this.compareClient.deck(this.doc, this.factors, title);
	whatWaitingBuys = (progress: (share: number) => void) => this.compareClient.waiting(this.doc, this.factors, progress);
	cancelFinalShape() {
		this.deepClient.cancel();
		this.deepBusy = false;
	}
	cancelForecast() {
		this.quick.cancel();
		this.asking = this.askAgain = false;
		this.forecasting = false;
		this.forecastMessage = 'Stopped. The next edit, or Forecast now, starts it again.';
	}
	forecastNow() {
		this.follow(0);
	}
	/**
	 * One question at a time: edits made while one is answered are asked about together after it, as the plan stands then.
	 * It is answered when its figures are here; shapes and heat follow, unless a newer question takes their place.
	 */
	private async ask() {
		const plan = this.doc;
		const [piece, mesh] = [pieceOf(plan), meshOf(plan)];
		if (this.asking) {
			if (piece === this.askedPiece) {
				this.askAgain = true;
				return;
			}
			// another piece: an unfinished forecast of the old one is worth nothing
			this.quick.cancel();
		}
		this.asking = true;
		this.askAgain = false;
		this.askedPiece = piece;
		if (mesh !== this.drawnMesh) {
			const g = await this.quick.geometry(plan);
			if (g.ok) {
				this.drawnMesh = mesh;
				this.geometry = g.data;
				// shapes are by the nodes of their mesh; figures go on being shown, as older ones, while the piece is the same
				this.shapes = undefined;
				if (piece !== this.shownPiece) this.result = undefined;
				this.shownPiece = piece;
			} else this.forecastMessage = g.message;
		}
		this.forecasting = true;
		this.forecastMessage = '';
		this.progress = 0;
		const started = performance.now();
		const answered = () => {
			this.asking = false;
			if (!this.askAgain) return;
			this.askAgain = false;
			void this.ask();
		};
		const answer = await this.quick.forecast(
			plan,
			this.factors,
			(p) => (this.progress = p),
			(result) => {
				this.forecastMs = performance.now() - started;
				this.result = result;
				this.stale = plan !== this.doc || this.askAgain;
				answered();
			}
		);
		if (!answer) return;
		this.forecasting = false;
		if (answer.ok) {
			this.result = answer.data.result;
			this.shapes = answer.data.shapes;
		} else this.forecastMessage = answer.message;
		this.stale = plan !== this.doc || this.askAgain || !answer.ok;
		answered();
	}
}

const KEY = Symbol('desk');
export const setDesk = (desk: PlanDesk) => setContext(KEY, desk);
export const getDesk = () => getContext<PlanDesk>(KEY);
