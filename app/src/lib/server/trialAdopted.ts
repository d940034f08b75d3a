/** What a trial means for the plans of open jobs: which of them weld the same sheet otherwise, and one of its ways put into them. */
import { DIFFERENCE, type Difference } from '$core/coupons/differences';
import { FaultError } from '$core/document/faults';
import type { PlanDocument } from '$core/document/schema';
import { checkPlan } from '$core/plan/check';
import { Refusal } from '$core/refusal/refusal';
import { brokenRule } from '$core/sequence/precedence';
import { getDb } from '$store/database';
import { currentPlan, getJob, listJobs, savePlan } from '$store/jobs';
import { isSamePlan } from '$store/tasks';
import type { Trial } from '$store/trials';

/** Another metal, another gap: a choice of the drawing's and no setting of the shop's. */
const NOT_ADOPTED: readonly Difference[] = ['material', 'gap'];
/** Sheets whose thicknesses differ by less than this share are the same sheet. */
const SAME_SHEET = 0.1;
const MOST_JOBS = 12;

const sheetOf = ({ parts: [p] }: PlanDocument) => ({ material: p.material, thicknessMm: p.thicknessMm });
const isSameSheet = (p: PlanDocument, q: PlanDocument) => {
	const [a, b] = [sheetOf(p), sheetOf(q)];
	return a.material === b.material && Math.abs(a.thicknessMm / b.thicknessMm - 1) < SAME_SHEET;
};
const changed = (trial: Trial, way: number, plan: PlanDocument) => DIFFERENCE[trial.difference].change(plan, trial.ways[way].value);

/** Open jobs in the sheet of the trial, and by which of its ways each is planned already. @param plan a coupon's of the trial */
export async function jobsInThisSheet(trial: Trial, plan: PlanDocument) {
	if (NOT_ADOPTED.includes(trial.difference)) return [];
	const db = getDb();
	const open = (await listJobs(db, '', false)).filter((j) => !j.coupon && j.done < j.quantity);
	const rows = await Promise.all(open.map(async (j) => ({ id: j.id, name: j.name, plan: (await currentPlan(db, j.id)).document })));
	return rows
		.filter((r) => isSameSheet(r.plan, plan))
		.slice(0, MOST_JOBS)
		.map((r) => ({ id: r.id, name: r.name, planned: trial.ways.findIndex((_, way) => isSamePlan(changed(trial, way, r.plan), r.plan)) }));
}

/** @throws FaultError, Refusal where the way does not suit the plan; nothing is changed then */
export async function adoptWay(trial: Trial, way: number, job: string, by: string) {
	if (way >= trial.ways.length) throw new FaultError([{ field: 'way', value: String(way), allowed: `0 to ${trial.ways.length - 1}` }]);
	if (NOT_ADOPTED.includes(trial.difference))
		throw new Refusal(`A trial of ${DIFFERENCE[trial.difference].name} is for the drawing: change it on the Parts page.`);
	const db = getDb();
	await getJob(db, job);
	const now = await currentPlan(db, job);
	const plan = changed(trial, way, now.document);
	if (isSamePlan(plan, now.document)) throw new Refusal(`The plan has it so already: ${trial.ways[way].name.toLowerCase()}.`);
	const broken = brokenRule(plan);
	const faults = [...checkPlan(plan), ...(broken ? [{ field: broken.what === 'run' ? 'runs' : 'tacks', value: '', allowed: broken.words }] : [])];
	if (faults.length) throw new FaultError(faults);
	return savePlan(db, job, now, plan, by);
}
