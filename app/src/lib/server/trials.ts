/** Trials: sized up, made with their coupons, and what has come of them so far. */
import { aboutCoupon, couponPlan, couponWidth, isMoved, type CouponAsk } from '$core/coupons/coupons';
import { checkWays, DIFFERENCE } from '$core/coupons/differences';
import { expectedBetween, judge, type Between } from '$core/coupons/trial';
import { FaultError } from '$core/document/faults';
import { MUCH } from '$core/devices/arcLog';
import type { PlanDocument, Run } from '$core/document/schema';
import { settingsOf } from '$core/forecast/schedule';
import { arcEnergy } from '$core/heat/arcEnergy';
import { unitOf } from '$core/features';
import { contextOf } from '$core/learn/context';
import { ofWelds } from '$core/learn/readings';
import type { Sensitivity } from '$core/learn/sensitivity';
import { pieceScatter } from '$core/learn/shop';
import { GRADES, findMaterial, type Material } from '$core/materials/grades';
import { checkPlan } from '$core/plan/check';
import { isRefusal } from '$core/refusal/refusal';
import { reworkMinutes } from '$core/corrections/summary';
import { asRun } from '$core/weldout/asRun';
import { rightedAt } from '$core/weldout/handOver';
import { SURFACE_WORDS } from '$core/weldout/afterwards';
import { standing as standingLines, whereItStands } from '$core/weldout/logbook';
import { eventsOf, measurementsOf, revisionOfPiece, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { currentPlan, getRevision, piecesOf, revisionNumbered, type Piece } from '$store/jobs';
import { listMaterials } from '$store/library';
import { photographsOf } from '$store/photographs';
import { addTrial, type Trial } from '$store/trials';
import { benchPlanOf, saidOf } from './compute';
import { coolAtOf } from './cooled';
import type { CouponWish } from './coupons';
import type { TrialBody, TrialSizeBody } from './dto';
import { factorsOf, warmOf } from './learning';
import { logLine, photographTitle } from './piece';

type Wish = CouponWish & Pick<TrialSizeBody, 'difference' | 'ways'>;

interface WayPlan {
	value: string;
	name: string;
	plan: PlanDocument;
}

/** The same coupon each way, of one size. @throws FaultError where a way cannot be had */
async function plansOf({ difference, ways, job, ...wish }: Wish): Promise<WayPlan[]> {
	const db = getDb();
	const like = job ? (await currentPlan(db, job)).document : undefined;
	const materials: Material[] = like?.materials ?? (await listMaterials(db)).map((m) => m.material);
	checkWays(
		difference,
		ways,
		[...GRADES, ...materials].map((m) => m.id)
	);
	const asks = ways.map((value): CouponAsk => {
		const material = difference === 'material' ? value : wish.material;
		// a metal is welded with settings of its own, unless the job's are for its kind
		const isLike = like && findMaterial(like.parts[0].material, materials).group === findMaterial(material, materials).group;
		return { ...wish, material, materials, settings: isLike ? like.settings[0] : undefined };
	});
	const widthMm = Math.max(...asks.map(couponWidth));
	const { change, named } = DIFFERENCE[difference];
	return ways.map((value, i) => {
		const plan = change(couponPlan(asks[i], widthMm), value);
		const faults = checkPlan(plan);
		if (faults.length) throw new FaultError(faults.map((f) => ({ ...f, field: `ways.${i}.${f.field}` })));
		return { value, name: named(value), plan };
	});
}

/** What each way is foretold to come to, and how far one piece lies from the next: how many it takes follows from what matters. */
export async function sizeTrial(wish: Wish) {
	const ways = await plansOf(wish);
	const said = await Promise.all(ways.map((w) => saidOf(w.plan)));
	const { readings } = aboutCoupon(ways[0].plan, said[0]);
	return {
		ways: ways.map((w) => w.name),
		features: readings.flatMap((r) => {
			const own = said.map((s) => s.find((x) => x.feature === r.feature && x.moment === 'unclamped')!);
			const foretold = own.map((s) => s.predicted);
			if (!isMoved(r, foretold)) return [];
			return {
				feature: r.feature,
				name: r.name,
				unit: r.unit,
				doubt: r.doubt,
				foretold,
				scatter: Math.max(...own.map(pieceScatter))
			};
		})
	};
}

export async function makeTrial({ name, feature, matters, each, ...wish }: TrialBody, by: string): Promise<Trial> {
	const ways = await plansOf(wish);
	const { features } = ways[0].plan;
	if (!features.some((f) => f.id === feature))
		throw new FaultError([{ field: 'feature', value: feature, allowed: `one of ${features.map((f) => f.id).join(', ')}` }]);
	const { kind: coupon, difference } = wish;
	return addTrial(getDb(), { name, difference, coupon, feature, matters, each, ways }, Date.now() % 2 ** 31, by);
}

export interface TrialPiece {
	id: string;
	serial: string;
	state: Piece['state'];
	way: number;
	round: number;
	/** by feature, unclamped, as last read */
	values: Record<string, number>;
	minutes: number;
	/** when its first arc went out, ms since 1970 */
	weldedAt?: number;
	/** what was seen or done of its surface: tint and how it was taken off */
	surface: string[];
	photographs: { clientId: string; title: string; note: string | null; person: string; takenAt: Date }[];
	/** why its readings are left out */
	out?: string;
	/** what else is to be known of it */
	notes: string[];
}

/** What was welded otherwise than its way says: then two things differ. An arc log never reads just what was set. */
function otherwise(issued: PlanDocument, run: PlanDocument): string | undefined {
	const heat = (plan: PlanDocument, r: Run) => arcEnergy(settingsOf(plan, r)).netHeat;
	const off = run.runs.map((r) => {
		const planned = issued.runs.find((p) => p.id === r.id) ?? issued.runs.find((p) => p.joint === r.joint);
		return planned ? heat(run, r) / heat(issued, planned) - 1 : 0;
	});
	const most = off.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0);
	if (Math.abs(most) > MUCH)
		return `a run was welded with ${Math.abs(Math.round(100 * most))} % ${most > 0 ? 'more' : 'less'} heat to the millimetre than its way has`;
	const laid = (plan: PlanDocument) => plan.runs.map((r) => `${r.joint} ${r.fromMm.toFixed(0)} ${r.toMm.toFixed(0)}`).join();
	return laid(run) === laid(issued) ? undefined : 'its runs were laid otherwise than planned';
}

const WARM = 'read before the heat clock had it cold: read it again';

async function pieceOf(piece: Piece, way: number, round: number): Promise<TrialPiece> {
	const db = getDb();
	const base = {
		id: piece.id,
		serial: piece.serial,
		state: piece.state,
		way,
		round,
		values: {},
		minutes: 0,
		surface: [],
		photographs: [],
		notes: [] as string[]
	};
	const revision = await revisionOfPiece(db, piece.id);
	if (!revision) return base;
	const stored = await getRevision(db, revision);
	const [{ steps }, events, measured, photographs] = await Promise.all([
		benchPlanOf(stored),
		eventsOf(db, piece.id),
		measurementsOf(db, piece.id),
		photographsOf(db, piece.id)
	]);
	const titles = new Map(steps.map((t) => [t.id, t.title]));
	const standing = whereItStands(steps, events.map(logLine));
	const run = asRun(stored.document, standing);
	const log = events.map((e) => ({ ...e, at: tappedAt(e) }));
	const readings = ofWelds(
		measured.map((m) => ({ ...m, at: m.measuredAt.getTime() })),
		rightedAt(log)
	).filter((m) => m.moment === 'unclamped');
	// of each feature the last: what was read warm and again cold is cold
	const last = [...new Map(readings.map((r) => [r.feature, r])).values()];
	const warm = warmOf(last, run.endedAt.at(-1), await coolAtOf(piece.id, { plan: stored.document, steps }, events));
	const isLogged = run.endedAt.length > 0;
	const changed = stored.revision === 1 ? undefined : `it was welded to revision ${stored.revision} of its plan, which is not the trial’s`;
	return {
		...base,
		values: Object.fromEntries(last.map((r) => [r.feature, r.value])),
		minutes: reworkMinutes(log),
		surface: [...new Set(standingLines(events).flatMap((e) => (e.data?.surface ? [SURFACE_WORDS[e.data.surface]] : [])))],
		photographs: photographs.map((p) => ({
			clientId: p.clientId,
			title: photographTitle(p, events, titles),
			note: p.note,
			person: p.person,
			takenAt: p.takenAt
		})),
		weldedAt: run.endedAt[0],
		out: changed ?? (isLogged ? (otherwise(stored.document, run.plan) ?? (warm.length ? WARM : undefined)) : undefined),
		notes: readings.length && !isLogged ? ['no arc of it is in its log: it is taken as welded by its way'] : []
	};
}

/** Pieces as they are welded: the order that chance made. */
export async function piecesOfTrial(trial: Trial): Promise<TrialPiece[]> {
	const db = getDb();
	const byWay = await Promise.all(trial.ways.map((w) => piecesOf(db, w.job)));
	const taken = trial.ways.map(() => 0);
	return Promise.all(
		trial.welding.flatMap((way) => {
			const round = taken[way]++;
			// its job was made smaller since
			const piece = byWay[way][round];
			return piece ? [pieceOf(piece, way, round)] : [];
		})
	);
}

const readingsOf = (trial: Trial, pieces: readonly TrialPiece[], of: (p: TrialPiece) => number | undefined) =>
	trial.ways.map((_, way) =>
		pieces
			.filter((p) => p.way === way)
			.sort((p, q) => p.round - q.round)
			.map((p) => (p.out ? undefined : of(p)))
	);

export interface Result {
	feature: string;
	name: string;
	unit: string;
	/** by way and round */
	readings: (number | undefined)[][];
	between: Between[];
}

/** As the trial was made: what a planner has changed since is another trial’s. */
export const plansOfTrial = (trial: Trial) => Promise.all(trial.ways.map((w) => revisionNumbered(getDb(), w.job, 1)));

export interface Results {
	rows: Result[];
	/** of each way that cannot be forecast, why */
	silent: string[];
}
/** A way that cannot be forecast is compared all the same: metal needs no forecast. */
async function foretoldOf(plan: PlanDocument, way: string): Promise<{ said: Sensitivity[]; silent?: string }> {
	try {
		return { said: await saidOf(plan) };
	} catch (e) {
		if (!isRefusal(e)) throw e;
		return { said: [], silent: `${way}: ${e.message}` };
	}
}

/** What its pieces say so far, the feature it is about first; the others only where they have been read. */
export async function resultsOf(trial: Trial, pieces: readonly TrialPiece[]): Promise<Results> {
	const stored = await plansOfTrial(trial);
	const foretold = await Promise.all(stored.map((s, i) => foretoldOf(s.document, trial.ways[i].name)));
	const said = foretold.map((f) => f.said);
	const silent = foretold.flatMap((f) => f.silent ?? []);
	const factors = await Promise.all(stored.map((s) => factorsOf(s.document)));
	const contexts = stored.map((s) => JSON.stringify(contextOf(s.document)));
	const { features } = stored[0].document;
	const first = features.filter((f) => f.id === trial.feature);
	const rest = features.filter((f) => f.id !== trial.feature && pieces.some((p) => f.id in p.values));
	const all = [...first, ...rest].map((f): Result => {
		const readings = readingsOf(trial, pieces, (p) => p.values[f.id]);
		const own = said.map((s) => s.find((x) => x.feature === f.id && x.moment === 'unclamped'));
		const each = Math.max(1, trial.welding.length / trial.ways.length);
		const expected = (a: number, b: number) =>
			own[a] && own[b] ? expectedBetween(own[a], own[b], [factors[a], factors[b]], { each, together: contexts[a] === contexts[b] }) : undefined;
		return { feature: f.id, name: f.name, unit: unitOf(f), readings, between: judge(readings, f.id === trial.feature ? trial.matters : 0, expected) };
	});
	const { readings: worth } = aboutCoupon(stored[0].document, said.find((s) => s.length) ?? []);
	const predictedOf = (feature: string) =>
		said.flatMap((s) => s.filter((x) => x.feature === feature && x.moment === 'unclamped').map((x) => x.predicted));
	/** what the welds hardly move is shown only where it differs all the same */
	const isShown = (r: Result) =>
		r.feature === trial.feature ||
		r.between.some((b) => b.verdict === 'differs') ||
		worth.some((w) => w.feature === r.feature && isMoved(w, predictedOf(w.feature)));
	const rows = all.filter(isShown);
	if (!pieces.some((p) => p.minutes > 0)) return { rows, silent };
	const minutes = readingsOf(trial, pieces, (p) => (p.state === 'waiting' ? undefined : p.minutes));
	const putRight = { feature: '', name: 'Minutes of putting right', unit: 'min', readings: minutes, between: judge(minutes, 0, () => undefined) };
	return { rows: [...rows, putRight], silent };
}
