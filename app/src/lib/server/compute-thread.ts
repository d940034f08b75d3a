/** Heavy computation of the server, in a thread of the pool: the page server stays free meanwhile. */
import { kernelFactory } from '$core/linalg/kernel/kernel';
import 'reflect-metadata';
import { accessFindings } from '$core/access/access';
import { FaultError } from '$core/document/faults';
import { jobFileOf } from '$core/formats/jobFile';
import { isRecord, jobRecordOf } from '$core/formats/jobRecord';
import { putRight } from '$core/corrections/putRight';
import { ForecastCache } from '$core/forecast/cache';
import { pathsOf as pathsOfForecast } from '$core/forecast/paths';
import { forecast } from '$core/forecast/forecast';
import { gapsAhead } from '$core/hot/ahead';
import { unitOf } from '$core/features';
import { couponOf } from '$core/coupons/coupons';
import { lessonFrom } from '$core/learn/fromPiece';
import { linearSensitivities, sensitivitiesOf } from '$core/learn/sensitivity';
import { learnShop } from '$core/learn/shop';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { isRefusal } from '$core/refusal/refusal';
import { benchPlan } from '$core/weldout/benchPlan';
import { whereItStands } from '$core/weldout/logbook';
import { placedOn } from '$core/scan/kept';
import { whereItEnds } from '$core/search/replan';
import { cooling } from '$core/weldout/cooling';
import { movedByRuns } from '$core/weldout/moves';
import type { ComputeAnswer, ComputeTask, LessonTask, ReadFile } from './compute';
import { couponsNext, narrowedBy } from './couponThread';
import { parseJson, planBody } from './parse';
import { scanMaps } from './scanMaps';
import { weldIn } from '$core/practice/weld';
import { makeSheet } from './sheets';

/** A bench that opens asks what each run moves; where the piece will end is asked of the same shape later, with a torch in hand. */
const cache = new ForecastCache(kernelFactory(WebAssembly));

function lessonOf({ piece, context, plan, readings, kept }: LessonTask) {
	const named = (id: string) => {
		const f = plan.features.find((x) => x.id === id)!;
		return { name: f.name, unit: unitOf(f) };
	};
	const known = readings.filter((r) => plan.features.some((f) => f.id === r.feature));
	return lessonFrom(piece, context, sensitivitiesOf(plan, { kernel: kernelFactory(WebAssembly) }), known, kept, named);
}

function work(task: ComputeTask): unknown {
	switch (task.kind) {
		case 'lesson':
			return lessonOf(task);
		case 'shop':
			return learnShop(task.evidence, task.asked);
		case 'coupon':
			return couponOf(task.ask, kernelFactory(WebAssembly));
		case 'coupon-next':
			return couponsNext(task.jobs, task.coupons, task.evidence);
		case 'linear':
			return linearSensitivities(task.plan, kernelFactory(WebAssembly), true);
		case 'said':
			return sensitivitiesOf(task.plan, { kernel: kernelFactory(WebAssembly) });
		case 'practice':
			return weldIn(task.exercise, task.doing, kernelFactory(WebAssembly));
		case 'narrowed':
			return narrowedBy(task.jobs, task.without, task.withIt);
		case 'bench':
			return benchPlan(task.plan);
		case 'moved':
			return movedByRuns(forecast(task.plan, { factors: task.factors, cache }).result, task.plan.runs);
		case 'ahead':
			return gapsAhead(forecast(task.plan, { cache }), kernelFactory(WebAssembly));
		case 'ends':
			return whereItEnds(task.plan, whereItStands(task.steps, task.lines), task.readings, { factors: task.factors, cache });
		case 'put-right':
			return putRight(task.plan, task.read, task.factors, cache);
		case 'path':
			return pathsOfForecast(forecast(task.plan, { factors: task.factors, cache }).result);
		case 'cooling':
			return cooling(task.plan, assemblyMesh(task.plan), task.steps, task.lines, task.next);
		case 'access':
			return accessFindings(task.plan, assemblyMesh(task.plan));
		case 'scan':
			return placedOn(assemblyMesh(task.plan), task.bytes);
		case 'scan-maps':
			return scanMaps(task, cache);
		case 'sheet':
			return makeSheet(task.task);
		case 'read':
			return readFile(task.text);
		case 'plan-body':
			return planBody(task.text);
	}
}

/** A job file or a record, whichever it says it is. */
function readFile(text: string): ReadFile {
	const raw = parseJson(text, 'file');
	return isRecord(raw) ? { record: jobRecordOf(raw) } : { file: jobFileOf(text) };
}

/** What the pool calls. What a person may be told goes back as words; anything else is a fault of the program. */
export default async function compute(task: ComputeTask): Promise<ComputeAnswer> {
	try {
		return { result: await work(task) };
	} catch (e) {
		if (e instanceof FaultError) return { faults: e.faults };
		if (isRefusal(e)) return { refused: e.message };
		throw e;
	}
}
