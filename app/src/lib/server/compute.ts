/** What takes the server more than a moment goes to a small pool of threads, so that pages are answered meanwhile. */
import { createHash } from 'node:crypto';
import os from 'node:os';
import path from 'node:path';
import Piscina from 'piscina';
import type { Finding } from '$core/access/access';
import type { PutRight } from '$core/corrections/putRight';
import type { ReadNow } from '$core/corrections/way';
import { FaultError, type Fault } from '$core/document/faults';
import type { ShopFactors } from '$core/factors/factors';
import type { Paths } from '$core/forecast/paths';
import type { Ahead } from '$core/hot/ahead';
import type { JobFile } from '$core/formats/jobFile';
import type { JobRecord } from '$core/formats/jobRecord';
import type { Coupon, CouponAsk } from '$core/coupons/coupons';
import type { Narrowed, Worth } from '$core/coupons/worth';
import type { Context } from '$core/learn/context';
import type { PieceLesson } from '$core/learn/fromPiece';
import type { PieceReading } from '$core/learn/readings';
import type { Sensitivity } from '$core/learn/sensitivity';
import type { Evidence, Shop } from '$core/learn/shop';
import type { PlanDocument } from '$core/document/schema';
import type { ExerciseId } from '$core/practice/ids';
import type { Welded } from '$core/practice/outcome';
import type { Doing } from '$core/practice/tools';
import { Refusal } from '$core/refusal/refusal';
import type { ReadSoFar, Replan } from '$core/search/replan';
import type { BenchPlan } from '$core/weldout/benchPlan';
import type { BenchStep } from '$core/weldout/benchSteps';
import type { Cooling } from '$core/weldout/cooling';
import type { LogLine } from '$core/weldout/logbook';
import type { Moved } from '$core/weldout/moves';
import type { PlanBody } from './dto';
import { planBody } from './parse';
import type { ScanMaps, ScanMapsTask } from './scanMaps';
import type { SheetTask } from './sheets';

export interface LessonTask {
	piece: string;
	context: Context;
	/** as it was run */
	plan: PlanDocument;
	readings: PieceReading[];
	/** of the shop's lessons in force */
	kept: Evidence[];
}
export interface OpenJob {
	id: string;
	name: string;
	plan: PlanDocument;
	/** what its forecast says of its features by the linear staging */
	said: Sensitivity[];
}
/** A coupon that is proposed, without its plan. */
export interface Proposed extends Omit<Worth, 'coupon'>, Omit<Coupon, 'plan' | 'sensitivities'> {
	material: string;
	thicknessMm: number;
	/** whose settings it is welded with */
	job: string;
}
export interface CoolingTask {
	plan: PlanDocument;
	steps: BenchStep[];
	lines: LogLine[];
	/** run that is waited for */
	next: string;
}
export interface EndsTask {
	plan: PlanDocument;
	factors: ShopFactors;
	steps: BenchStep[];
	lines: LogLine[];
	readings: ReadSoFar[];
}
export type ReadFile = { record: JobRecord; file?: undefined } | { file: JobFile; record?: undefined };
export type ComputeTask =
	| ({ kind: 'lesson' } & LessonTask)
	| { kind: 'shop'; evidence: Evidence[]; asked: Context[] }
	| { kind: 'coupon'; ask: CouponAsk }
	| { kind: 'linear'; plan: PlanDocument }
	| { kind: 'said'; plan: PlanDocument }
	| { kind: 'practice'; exercise: ExerciseId; doing: Doing }
	| { kind: 'coupon-next'; jobs: OpenJob[]; coupons: { job: string; ask: CouponAsk; coupon: Coupon }[]; evidence: Evidence[] }
	| { kind: 'narrowed'; jobs: OpenJob[]; without: Evidence[]; withIt: Evidence[] }
	| { kind: 'bench'; plan: PlanDocument }
	| { kind: 'moved'; plan: PlanDocument; factors: ShopFactors }
	| { kind: 'ahead'; plan: PlanDocument }
	| ({ kind: 'ends' } & EndsTask)
	| { kind: 'put-right'; plan: PlanDocument; factors: ShopFactors; read: ReadNow[] }
	| { kind: 'path'; plan: PlanDocument; factors: ShopFactors }
	| ({ kind: 'cooling' } & CoolingTask)
	| { kind: 'access'; plan: PlanDocument }
	| { kind: 'scan'; plan: PlanDocument; bytes: Uint8Array }
	| ({ kind: 'scan-maps' } & ScanMapsTask)
	| { kind: 'sheet'; task: SheetTask }
	| { kind: 'read'; text: string }
	| { kind: 'plan-body'; text: string };
export type ComputeAnswer = { result: unknown } | { refused: string } | { faults: Fault[] };

/** Longer than any piece the linear method accepts should take. */
const TIME_LIMIT_MS = 120_000;
/** Asked for at the same time and not begun; more is refused rather than waited for. */
const MOST_WAITING = 300;

let pool: Piscina | undefined;
const threads = () =>
	(pool ??= new Piscina({
		filename: path.resolve(process.env.SARTA_NODE_BUILD_DIR || 'build-node', 'compute-thread.js'),
		minThreads: 1,
		maxThreads: Math.max(2, Math.min(4, os.availableParallelism() - 1)),
		idleTimeout: 60_000,
		maxQueue: MOST_WAITING
	}));
/** When the server ends. */
export const closePool = async () => void (await pool?.destroy());

async function inThread<T>(task: ComputeTask): Promise<T> {
	if (threads().queueSize >= MOST_WAITING) throw new Refusal('The server has more to work out than it can at this moment: try again in a minute');
	let answer: ComputeAnswer;
	try {
		answer = (await threads().run(task, { signal: AbortSignal.timeout(TIME_LIMIT_MS) })) as ComputeAnswer;
	} catch (e) {
		if ((e as Error).name === 'AbortError') throw new Refusal('Working this piece out took longer than two minutes: set a coarser mesh size');
		throw e;
	}
	if ('faults' in answer) throw new FaultError(answer.faults);
	if ('refused' in answer) throw new Refusal(answer.refused);
	return answer.result as T;
}

/** Where a piece will end as planned: the first figures, at once. */
export const endsOf = (task: EndsTask) => inThread<Replan>({ kind: 'ends', ...task });
/** What an assembly closes off, and what of a plan cannot be done. */
export const findingsOf = (plan: PlanDocument) => inThread<Finding[]>({ kind: 'access', plan });
export const sheetInThread = (task: SheetTask) => inThread<Uint8Array<ArrayBuffer>>({ kind: 'sheet', task });
/** A scan's shape as it is kept. @throws FaultError where the bytes are no shape of the plan's mesh */
export const scanOfPlan = (plan: PlanDocument, bytes: Uint8Array) => inThread<Uint8Array<ArrayBuffer>>({ kind: 'scan', plan, bytes });
/** Each scan as a picture beside the forecast's, all on one scale. */
export const scanMapsOf = (task: ScanMapsTask) => inThread<ScanMaps>({ kind: 'scan-maps', ...task });
/** @throws FaultError with every fault of the file */
export const readInThread = (text: string) => inThread<ReadFile>({ kind: 'read', text });

/** Bodies up to this are read where they arrive: it takes less than handing them over, and does not wait behind anything. */
const LARGE = 100_000;
/** The body of a save, read and found sound. @throws FaultError */
export const readPlanBody = async (text: string) => (text.length > LARGE ? inThread<PlanBody>({ kind: 'plan-body', text }) : planBody(text));

type Stored = { id: string; version: number; document: PlanDocument };
const MOST_KEPT = 100;
/** Asked for once under a key, by whoever asks first, and kept; the oldest goes. A fault is not kept: whoever asks next tries again. */
function once<T>(): (key: string, work: () => Promise<T>) => Promise<T> {
	const kept = new Map<string, Promise<T>>();
	return (key, work) => {
		let answer = kept.get(key);
		if (!answer) {
			if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
			kept.set(key, (answer = work()));
			answer.catch(() => kept.delete(key));
		}
		return answer;
	};
}
/** Worked out once for a plan as it was stored. */
function onceAPlan<A extends unknown[], T>(work: (plan: PlanDocument, ...more: A) => Promise<T>): (stored: Stored, ...more: A) => Promise<T> {
	const known = once<T>();
	return ({ id, version, document }, ...more) => known(`${id}/${version}`, () => work(document, ...more));
}
/** Steps with their pictures. */
export const benchPlanOf = onceAPlan((plan) => inThread<BenchPlan>({ kind: 'bench', plan }));
/** What each run moves, by the factors in force when it was first asked. */
export const movedOf = onceAPlan((plan, factors: ShopFactors) => inThread<Record<string, Moved[]>>({ kind: 'moved', plan, factors }));
/** By run, how far the edges part ahead of its arc: of seams with few tacks or a gap, some seconds each. */
export const aheadOf = onceAPlan((plan) => inThread<Record<string, Ahead>>({ kind: 'ahead', plan }));
/** By a feature's id: what the forecast has of it, step by step. */
export const pathsOf = onceAPlan((plan, factors: ShopFactors) => inThread<Paths>({ kind: 'path', plan, factors }));
export const putRightInThread = (plan: PlanDocument, factors: ShopFactors, read: ReadNow[]) =>
	inThread<PutRight>({ kind: 'put-right', plan, factors, read });
const lessons = once<PieceLesson>();
/** What a piece teaches, once for each state of it and of the shop. */
export const lessonOnce = (key: string, task: LessonTask) => lessons(key, () => inThread<PieceLesson>({ kind: 'lesson', ...task }));
const shops = once<Shop>();
/** All that the lessons in force say together. @param mark of them */
export const shopInThread = (mark: string, evidence: Evidence[], asked: Context[] = []) =>
	shops(`${mark}/${JSON.stringify(asked)}`, () => inThread<Shop>({ kind: 'shop', evidence, asked }));
const factorsKnown = once<ShopFactors>();
/** The factors in force for a context: the readings are asked for only where they have changed since. */
export const factorsOnce = (mark: string, context: Context, evidence: () => Promise<Evidence[]>) =>
	factorsKnown(`${mark}/${JSON.stringify(context)}`, async () => (await shopInThread(mark, await evidence(), [context])).asked[0]);
const coupons = once<Coupon>();
export const couponInThread = (ask: CouponAsk) => coupons(JSON.stringify(ask), () => inThread<Coupon>({ kind: 'coupon', ask }));
/** What the linear staging says of a stored plan's features, the heat of earlier runs left out. */
export const linearOf = onceAPlan((plan) => inThread<Sensitivity[]>({ kind: 'linear', plan }));
const saidKnown = once<Sensitivity[]>();
/** What every depth says of a plan's features, the final shape where it can; stored or not. */
export const saidOf = (plan: PlanDocument) => saidKnown(keyOf(plan), () => inThread<Sensitivity[]>({ kind: 'said', plan }));
const practiceKnown = once<Omit<Welded, 'name'>>();
/** Pieces of the practice bench in hand or waiting; more is refused rather than waited for. */
const MOST_PRACTISED = 24;
let practised = 0;
let lane: Promise<unknown> = Promise.resolve();
/** What a plan comes out as in an exercise’s own virtual shop. One after the other: a class of learners takes one thread, and the shop’s own bench the rest. */
export const weldInPractice = (exercise: ExerciseId, doing: Doing) =>
	practiceKnown(`${exercise}/${keyOf(doing)}`, async () => {
		if (practised >= MOST_PRACTISED) throw new Refusal('The practice bench has as many pieces in hand as it can take: try again in a minute');
		practised++;
		const turn = lane.then(() => inThread<Omit<Welded, 'name'>>({ kind: 'practice', exercise, doing }));
		lane = turn.catch(() => undefined).finally(() => practised--);
		return turn;
	});
/** The database keeps no order of names: one that is stored and one that is not yet are the same plan. */
const keyOf = (document: unknown) => {
	const inOrder = (_: string, v: unknown) =>
		v && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1))) : v;
	return createHash('sha256').update(JSON.stringify(document, inOrder)).digest('hex');
};
/** Coupons by what they are worth to the jobs that are open. */
export const couponNext = (jobs: OpenJob[], made: { job: string; ask: CouponAsk; coupon: Coupon }[], evidence: Evidence[]) =>
	inThread<Proposed[]>({ kind: 'coupon-next', jobs, coupons: made, evidence });
export const narrowedInThread = (jobs: OpenJob[], without: Evidence[], withIt: Evidence[]) =>
	inThread<Narrowed[]>({ kind: 'narrowed', jobs, without, withIt });
const coolingKnown = once<Cooling>();
/** When a piece is cool enough, once for each state of its log. @param piece its id */
export const coolingOf = (piece: string, task: CoolingTask) =>
	coolingKnown(`${piece}/${task.lines.length}/${task.next}`, () => inThread<Cooling>({ kind: 'cooling', ...task }));
