/** Coupons: which next, made and issued in one go, and what one has changed. */
import { couponPlan, COUPON_KINDS, COUPONS, type CouponAsk, type CouponKind } from '$core/coupons/coupons';
import { FaultError } from '$core/document/faults';
import type { PlanDocument } from '$core/document/schema';
import { isRefusal } from '$core/refusal/refusal';
import { getDb } from '$store/database';
import { createJob, currentPlan, getJob, issuePlan, listJobs, type Job } from '$store/jobs';
import { evidenceInForce } from '$store/lessons';
import { listMaterials } from '$store/library';
import { couponInThread, couponNext, linearOf, narrowedInThread, type OpenJob } from './compute';

/** Jobs that are looked into, those due first. */
const MOST_JOBS = 6;
/** Sheets that coupons are proposed of. */
const MOST_SHEETS = 2;

/** A plan that cannot be forecast says nothing of itself here: its own page does. */
async function orNothing<T>(work: Promise<T>): Promise<T[]> {
	try {
		return [await work];
	} catch (e) {
		if (isRefusal(e) || e instanceof FaultError) return [];
		throw e;
	}
}

/** Jobs that have pieces yet to be welded, coupons left out. */
async function openJobs(): Promise<OpenJob[]> {
	const db = getDb();
	const rows = (await listJobs(db, '', false)).filter((j) => !j.coupon && j.done < j.quantity).slice(0, MOST_JOBS);
	const found = rows.map(async (j): Promise<OpenJob> => {
		const stored = await currentPlan(db, j.id);
		return { id: j.id, name: j.name, plan: stored.document, said: await linearOf(stored) };
	});
	return (await Promise.all(found.map(orNothing))).flat();
}

const sheetOf = (plan: PlanDocument): Omit<CouponAsk, 'kind'> => ({
	material: plan.parts[0].material,
	thicknessMm: plan.parts[0].thicknessMm,
	materials: plan.materials,
	settings: plan.settings[0]
});

export async function nextCoupons() {
	const [jobs, { evidence }] = await Promise.all([openJobs(), evidenceInForce(getDb())]);
	const sheets = new Map<string, OpenJob>();
	for (const j of jobs) {
		const { material, thicknessMm } = sheetOf(j.plan);
		const key = `${material}/${thicknessMm}`;
		if (!sheets.has(key) && sheets.size < MOST_SHEETS) sheets.set(key, j);
	}
	const asks = [...sheets.values()].flatMap((j) =>
		COUPON_KINDS.filter((kind) => COUPONS[kind].isFor?.(j.plan) ?? true).map((kind) => ({ job: j.id, ask: { kind, ...sheetOf(j.plan) } }))
	);
	const made = await Promise.all(asks.map((a) => orNothing(couponInThread(a.ask).then((coupon) => ({ ...a, coupon })))));
	return couponNext(jobs, made.flat(), evidence);
}

/** What a coupon's readings do to what is in doubt on the open jobs. */
export async function narrowedByPiece(piece: string, fresh: Parameters<typeof narrowedInThread>[2]) {
	const [jobs, { evidence }] = await Promise.all([openJobs(), evidenceInForce(getDb())]);
	return narrowedInThread(
		jobs,
		evidence.filter((e) => e.piece !== piece),
		[...evidence, ...fresh]
	);
}

export interface CouponWish {
	kind: CouponKind;
	material: string;
	thicknessMm: number;
	/** a job whose settings it is welded with */
	job?: string;
}

/** A job of one piece, its plan issued. @throws FaultError where the family does not make it */
export async function makeCoupon(wish: CouponWish, by: string): Promise<Job> {
	const db = getDb();
	const like = wish.job ? (await currentPlan(db, wish.job)).document : undefined;
	const materials = like?.materials ?? (await listMaterials(db)).map((m) => m.material);
	const plan = couponPlan({ ...wish, materials, settings: like?.settings[0] });
	if (!plan.runs.length) throw new FaultError([{ field: 'kind', value: wish.kind, allowed: 'a coupon with a seam' }]);
	const name = `Coupon: ${COUPONS[wish.kind].name.toLowerCase()}, ${wish.material}, ${wish.thicknessMm} mm`;
	const notes = like && wish.job ? `Welded with the settings of job “${(await getJob(db, wish.job)).name}”.` : null;
	const job = await createJob(db, { name: name.slice(0, 120), quantity: 1, notes, coupon: wish.kind }, plan, by);
	const { revision, version } = await currentPlan(db, job.id);
	await issuePlan(db, job.id, { revision, version }, by);
	return job;
}
