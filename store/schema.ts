/** Tables. Columns are snake_case in the database; every time has its zone; nothing is deleted, only archived. */
import type { PieceSummary } from '../core/corrections/summary';
import type { EventData } from '../core/weldout/happenings';
import { EVENT_KINDS, READ_MOMENTS, POSTURES, DEVICE_KINDS, REGISTER_KINDS } from '../core/document/words';
import type { CouponKind } from '../core/coupons/coupons';
import type { Difference } from '../core/coupons/differences';
import type { ExerciseId } from '../core/practice/ids';
import type { Guess, Outcome } from '../core/practice/outcome';
import type { Choices } from '../core/practice/tools';
import { sql } from 'drizzle-orm';
import {
	type AnyPgColumn,
	bigserial,
	boolean,
	check,
	customType,
	date,
	doublePrecision,
	index,
	integer,
	jsonb,
	pgEnum,
	pgTable,
	primaryKey,
	text,
	timestamp,
	unique,
	uniqueIndex,
	uuid
} from 'drizzle-orm/pg-core';
import type { PlanDocument, WeldSettings } from '../core/document/schema';
import type { ShopFactors } from '../core/factors/factors';
import type { Said } from '../core/hot/factors';
import type { Context } from '../core/learn/context';
import type { Evidence } from '../core/learn/shop';
import type { Material } from '../core/materials/grades';
import { type DeviceReading } from '../core/devices/readings';
import { type RegisterItem } from '../core/registers/registers';
import type { Stock } from '../core/propose/desk';
import type { SearchGoals } from '../core/search/cost';
import type { ReadSoFar } from '../core/search/replan';
import type { BenchStep } from '../core/weldout/benchSteps';
import type { LogLine } from '../core/weldout/logbook';

const now = () => timestamp({ withTimezone: true, mode: 'date' }).notNull().defaultNow();
const when = () => timestamp({ withTimezone: true, mode: 'date' });
const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

export const role = pgEnum('role', ['planner', 'welder', 'inspector', 'admin', 'learner']);
export const planState = pgEnum('plan_state', ['draft', 'issued']);
export const pieceState = pgEnum('piece_state', ['waiting', 'in-hand', 'welded', 'handed-over']);
export const moment = pgEnum('moment', READ_MOMENTS);
export const posture = pgEnum('posture', POSTURES);
export const eventKind = pgEnum('event_kind', EVENT_KINDS);

export const people = pgTable(
	'people',
	{
		id: uuid().primaryKey().defaultRandom(),
		name: text().notNull().unique(),
		pinHash: text().notNull(),
		roles: role().array().notNull(),
		units: text({ enum: ['mm', 'in'] })
			.notNull()
			.default('mm'),
		createdAt: now(),
		archivedAt: when(),
		version: integer().notNull().default(1)
	},
	(t) => [check('people_name_length', sql`char_length(${t.name}) between 1 and 80`), check('people_roles', sql`cardinality(${t.roles}) > 0`)]
);

export const sessions = pgTable('sessions', {
	/** SHA-256 of the cookie's token: a copy of the table signs nobody in */
	tokenHash: text().primaryKey(),
	personId: uuid()
		.notNull()
		.references(() => people.id),
	createdAt: now(),
	expiresAt: timestamp({ withTimezone: true, mode: 'date' }).notNull(),
	/** what taps of this session carry */
	stampId: uuid().references(() => benchStamps.id)
});

/** Wrong tries in a row by name, by name on a device, and by address; the row is taken before a PIN is worked out. */
export const signInTries = pgTable('sign_in_tries', {
	key: text().primaryKey(),
	fails: integer().notNull().default(0),
	lockedUntil: when(),
	lastAt: now()
});

/** A device on which a person has signed in before: what strangers try elsewhere does not lock that person out here. */
export const knownDevices = pgTable(
	'known_devices',
	{
		/** SHA-256 of the device's cookie */
		tokenHash: text().notNull(),
		personId: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now()
	},
	(t) => [primaryKey({ columns: [t.tokenHash, t.personId] })]
);

export const jobs = pgTable(
	'jobs',
	{
		id: uuid().primaryKey().defaultRandom(),
		number: integer().notNull().unique().generatedAlwaysAsIdentity({ startWith: 101 }),
		name: text().notNull(),
		customer: text(),
		dueDate: date({ mode: 'string' }),
		quantity: integer().notNull().default(1),
		notes: text(),
		/** which coupon it is, where it is one */
		coupon: text().$type<CouponKind>(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now(),
		updatedBy: uuid()
			.notNull()
			.references(() => people.id),
		updatedAt: now(),
		archivedAt: when(),
		version: integer().notNull().default(1)
	},
	(t) => [check('jobs_quantity', sql`${t.quantity} between 1 and 500`), check('jobs_name_length', sql`char_length(${t.name}) between 1 and 120`)]
);

export const pieces = pgTable(
	'pieces',
	{
		id: uuid().primaryKey().defaultRandom(),
		jobId: uuid()
			.notNull()
			.references(() => jobs.id),
		serial: text().notNull(),
		state: pieceState().notNull().default('waiting'),
		createdAt: now(),
		archivedAt: when()
	},
	(t) => [unique('pieces_serial').on(t.jobId, t.serial)]
);

export const planRevisions = pgTable(
	'plan_revisions',
	{
		id: uuid().primaryKey().defaultRandom(),
		jobId: uuid()
			.notNull()
			.references(() => jobs.id),
		revision: integer().notNull(),
		/** 0: the job's own; others are of one piece, planned on from where it stood at the bench */
		variant: integer().notNull().default(0),
		pieceId: uuid().references((): AnyPgColumn => pieces.id),
		state: planState().notNull().default('draft'),
		document: jsonb().$type<PlanDocument>().notNull(),
		documentVersion: integer().notNull(),
		/** searched */
		family: text(),
		material: text().notNull(),
		thicknessMm: doublePrecision().notNull(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now(),
		updatedBy: uuid()
			.notNull()
			.references(() => people.id),
		updatedAt: now(),
		issuedBy: uuid().references(() => people.id),
		issuedAt: when(),
		version: integer().notNull().default(1)
	},
	(t) => [
		unique('plan_revision_number').on(t.jobId, t.revision, t.variant),
		check('plan_variant', sql`(${t.variant} = 0) = (${t.pieceId} is null)`),
		uniqueIndex('plan_one_draft')
			.on(t.jobId)
			.where(sql`${t.state} = 'draft'`),
		check('plan_issued', sql`(${t.state} = 'issued') = (${t.issuedAt} is not null)`)
	]
);

/** Append-only: a trigger refuses update and delete (see migrations). */
export const benchEvents = pgTable(
	'bench_events',
	{
		seq: bigserial({ mode: 'number' }).primaryKey(),
		/** made by the device, so that a repeated send is one event */
		clientId: uuid().notNull().unique(),
		pieceId: uuid()
			.notNull()
			.references(() => pieces.id),
		planRevisionId: uuid()
			.notNull()
			.references(() => planRevisions.id),
		kind: eventKind().notNull(),
		step: text(),
		note: text(),
		/** by the device's clock */
		happenedAt: timestamp({ withTimezone: true, mode: 'date' }).notNull(),
		receivedAt: now(),
		/** who tapped it */
		personId: uuid()
			.notNull()
			.references(() => people.id),
		/** whose session brought it, where that is somebody else: taps wait on a device and go with whoever is signed in next */
		sentBy: uuid().references(() => people.id),
		/** the problem that this event closes, or the event that it takes back, by its clientId */
		about: uuid(),
		/** what it carries beside its kind, step and note: see core/weldout/happenings */
		data: jsonb().$type<EventData>()
	},
	(t) => [index('bench_events_piece').on(t.pieceId, t.seq)]
);

/** Proof that a person was signed in on a device: its taps carry the id, also when they are sent under a later session. */
export const benchStamps = pgTable('bench_stamps', {
	id: uuid().primaryKey().defaultRandom(),
	personId: uuid()
		.notNull()
		.references(() => people.id),
	createdAt: now()
});

export const measurements = pgTable(
	'measurements',
	{
		id: uuid().primaryKey().defaultRandom(),
		clientId: uuid().notNull().unique(),
		pieceId: uuid()
			.notNull()
			.references(() => pieces.id),
		planRevisionId: uuid()
			.notNull()
			.references(() => planRevisions.id),
		feature: text().notNull(),
		method: text().notNull(),
		moment: moment().notNull(),
		posture: posture().notNull(),
		instrument: text().notNull(),
		/** last day its calibration was good, as the register had it when it was read */
		instrumentDueOn: date({ mode: 'string' }),
		metalC: doublePrecision(),
		readings: doublePrecision().array().notNull(),
		value: doublePrecision().notNull(),
		unit: text().notNull(),
		uncertainty90: doublePrecision().notNull(),
		arithmetic: text().notNull(),
		measuredBy: uuid()
			.notNull()
			.references(() => people.id),
		measuredAt: now(),
		/** taken back with a reason; the reading stays */
		withdrawnAt: when(),
		withdrawnBy: uuid().references(() => people.id),
		withdrawnWhy: text()
	},
	(t) => [index('measurements_piece').on(t.pieceId), check('measurement_withdrawn', sql`(${t.withdrawnAt} is null) = (${t.withdrawnWhy} is null)`)]
);

/** How the whole piece lay when it was scanned, beside the readings that were taken from it. Append-only, as the log is. */
export const scans = pgTable(
	'scans',
	{
		/** made by the device, so that a repeated send is one scan */
		clientId: uuid().primaryKey(),
		pieceId: uuid()
			.notNull()
			.references(() => pieces.id),
		planRevisionId: uuid()
			.notNull()
			.references(() => planRevisions.id),
		moment: moment().notNull(),
		posture: posture().notNull(),
		/** the scanner's file, by name: its points are not kept */
		file: text().notNull(),
		instrument: text().notNull(),
		metalC: doublePrecision(),
		/** by its three datum points, or with the piece as close to the drawing as it lies */
		isFromDatum: boolean().notNull(),
		points: integer().notNull(),
		scatterMm: doublePrecision().notNull(),
		/** by node where it is drawn and how far it stood from there, 6 numbers, mm, as 32 bit floats, low byte first (core/scan/kept) */
		shape: bytes().notNull(),
		measuredBy: uuid()
			.notNull()
			.references(() => people.id),
		measuredAt: now()
	},
	(t) => [index('scans_piece').on(t.pieceId, t.measuredAt)]
);

/** Taken at the bench or of a fault, made small and rid of what the camera wrote beside the picture. Append-only, as the log is. */
export const photographs = pgTable(
	'photographs',
	{
		/** made by the device, so that a repeated send is one photograph */
		clientId: uuid().primaryKey(),
		pieceId: uuid()
			.notNull()
			.references(() => pieces.id),
		step: text(),
		/** the line of the log or the reading that it shows, by its clientId */
		about: uuid(),
		note: text(),
		/** JPEG */
		picture: bytes().notNull(),
		/** the same for lists, JPEG */
		small: bytes().notNull(),
		widthPx: integer().notNull(),
		heightPx: integer().notNull(),
		/** by the device's clock */
		takenAt: timestamp({ withTimezone: true, mode: 'date' }).notNull(),
		receivedAt: now(),
		personId: uuid()
			.notNull()
			.references(() => people.id),
		/** whose session brought it, where that is somebody else */
		sentBy: uuid().references(() => people.id)
	},
	(t) => [index('photographs_piece').on(t.pieceId, t.takenAt)]
);

/**
 * One row per lesson: the readings of one piece as the learner takes them, and the factors that came of it, for the history. In force is
 * what all lessons together say that are not withdrawn and are of the method's present version.
 */
export const shopFactors = pgTable(
	'shop_factors',
	{
		id: uuid().primaryKey().defaultRandom(),
		materialGroup: text().notNull(),
		thicknessBand: text().notNull(),
		technique: text().notNull(),
		method: text().notNull(),
		factors: jsonb().$type<ShopFactors>().notNull(),
		/** measurement ids it was updated from */
		measurementIds: uuid().array().notNull(),
		fromPieceId: uuid().references(() => pieces.id),
		/** what it was learned under, and the readings; absent in rows of a method that did not keep them */
		context: jsonb().$type<Context>(),
		evidence: jsonb().$type<Evidence[]>(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now(),
		/** withdrawn */
		archivedAt: when(),
		archivedBy: uuid().references(() => people.id),
		archivedWhy: text()
	},
	(t) => [index('shop_factors_key').on(t.materialGroup, t.thicknessBand, t.technique, t.createdAt)]
);

/** Coupons that differ in one thing, welded in an order that chance made. */
export const trials = pgTable(
	'trials',
	{
		id: uuid().primaryKey().defaultRandom(),
		name: text().notNull(),
		difference: text().$type<Difference>().notNull(),
		coupon: text().$type<CouponKind>().notNull(),
		/** what it is about, and the difference in it that would change a plan, in the feature's unit */
		feature: text().notNull(),
		matters: doublePrecision().notNull(),
		/** a job each */
		ways: jsonb().$type<{ value: string; name: string; job: string }[]>().notNull(),
		/** way of each piece as they are welded */
		welding: integer().array().notNull(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now(),
		concludedAt: when(),
		concludedBy: uuid().references(() => people.id),
		/** what the shop takes from it, in its own words */
		conclusion: text()
	},
	(t) => [
		check('trials_name_length', sql`char_length(${t.name}) between 1 and 120`),
		check('trials_concluded', sql`(${t.concludedAt} is null) = (${t.conclusion} is null)`)
	]
);

/** Exercises as they were done: a guess, a plan, and what came of it in the virtual shop. */
export const practiceAttempts = pgTable(
	'practice_attempts',
	{
		id: uuid().primaryKey().defaultRandom(),
		personId: uuid()
			.notNull()
			.references(() => people.id),
		exercise: text().$type<ExerciseId>().notNull(),
		guess: jsonb().$type<Guess>().notNull(),
		choices: jsonb().$type<Choices>().notNull(),
		outcome: jsonb().$type<Outcome>().notNull(),
		/** that forecast it: only what the same method says is compared */
		method: text().notNull(),
		/** least cost of its own plan, for those who come after */
		cost: doublePrecision().notNull(),
		score: integer().notNull(),
		createdAt: now()
	},
	(t) => [index('practice_attempts_person').on(t.personId, t.exercise)]
);
/** Exercises that a planner has set somebody. */
export const practiceSet = pgTable(
	'practice_set',
	{
		personId: uuid()
			.notNull()
			.references(() => people.id),
		exercise: text().$type<ExerciseId>().notNull(),
		setBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now()
	},
	(t) => [primaryKey({ columns: [t.personId, t.exercise] })]
);

export const procedures = pgTable('procedures', {
	id: uuid().primaryKey().defaultRandom(),
	name: text().notNull().unique(),
	settings: jsonb().$type<WeldSettings>().notNull(),
	note: text(),
	createdBy: uuid()
		.notNull()
		.references(() => people.id),
	createdAt: now(),
	updatedAt: now(),
	archivedAt: when(),
	version: integer().notNull().default(1)
});

/** Every state a procedure has had: written with it, never changed. */
export const procedureVersions = pgTable(
	'procedure_versions',
	{
		id: uuid().primaryKey().defaultRandom(),
		procedureId: uuid()
			.notNull()
			.references(() => procedures.id),
		version: integer().notNull(),
		settings: jsonb().$type<WeldSettings>().notNull(),
		note: text(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now()
	},
	(t) => [unique('procedure_version_once').on(t.procedureId, t.version)]
);

export const ownMaterials = pgTable('own_materials', {
	id: text().primaryKey(),
	material: jsonb().$type<Material>().notNull(),
	createdBy: uuid()
		.notNull()
		.references(() => people.id),
	createdAt: now(),
	archivedAt: when()
});

export const heatNumbers = pgTable(
	'heat_numbers',
	{
		id: uuid().primaryKey().defaultRandom(),
		heat: text().notNull(),
		materialId: text().notNull(),
		thicknessMm: doublePrecision().notNull(),
		supplier: text(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now(),
		archivedAt: when()
	},
	(t) => [unique('heat_once').on(t.heat, t.materialId, t.thicknessMm), check('heat_thickness', sql`${t.thicknessMm} > 0`)]
);

/** What the shop has to work with: bars, clamps, instruments, power sources and the like. */
export const registerItems = pgTable(
	'register_items',
	{
		id: uuid().primaryKey().defaultRandom(),
		kind: text({ enum: REGISTER_KINDS }).notNull(),
		name: text().notNull(),
		item: jsonb().$type<RegisterItem>().notNull(),
		updatedBy: uuid()
			.notNull()
			.references(() => people.id),
		updatedAt: now(),
		archivedAt: when(),
		version: integer().notNull().default(1)
	},
	(t) => [unique('register_item_once').on(t.kind, t.name)]
);

/** What measures at the bench and sends by itself. A simulated one is started from its page. */
export const devices = pgTable('devices', {
	id: uuid().primaryKey().defaultRandom(),
	kind: text({ enum: DEVICE_KINDS }).notNull(),
	name: text().notNull().unique(),
	isSimulated: boolean().notNull(),
	/** SHA-256 of what it sends with: a copy of the table sends nothing */
	tokenHash: text().notNull().unique(),
	/** the piece that its readings are of, now */
	pieceId: uuid().references(() => pieces.id),
	createdBy: uuid()
		.notNull()
		.references(() => people.id),
	createdAt: now(),
	archivedAt: when()
});

/** As they were sent, by whichever device stood at the piece then. Append-only. */
export const deviceReadings = pgTable(
	'device_readings',
	{
		seq: bigserial({ mode: 'number' }).primaryKey(),
		id: uuid().notNull().unique(),
		deviceId: uuid()
			.notNull()
			.references(() => devices.id),
		pieceId: uuid()
			.notNull()
			.references(() => pieces.id),
		/** by the device's clock */
		at: timestamp({ withTimezone: true, mode: 'date' }).notNull(),
		receivedAt: now(),
		reading: jsonb().$type<DeviceReading>().notNull()
	},
	(t) => [index('device_readings_piece').on(t.pieceId, t.seq), index('device_readings_device').on(t.deviceId, t.seq)]
);

export const signatures = pgTable('signatures', {
	id: uuid().primaryKey().defaultRandom(),
	pieceId: uuid()
		.notNull()
		.references(() => pieces.id)
		.unique(),
	planRevisionId: uuid()
		.notNull()
		.references(() => planRevisions.id),
	statement: text().notNull(),
	accepted: boolean().notNull(),
	/** why it is accepted though something is outside its limits */
	concession: text(),
	/** the piece in a few figures, as the logbook sums them; absent: signed before they were kept */
	summary: jsonb().$type<PieceSummary>(),
	signedBy: uuid()
		.notNull()
		.references(() => people.id),
	signedAt: now()
});

/** The record of a job that came from elsewhere, as it was read: history, never worked on. Append-only. */
export const importedRecords = pgTable(
	'imported_records',
	{
		id: uuid().primaryKey().defaultRandom(),
		jobId: uuid()
			.notNull()
			.references(() => jobs.id),
		record: jsonb().notNull(),
		importedBy: uuid()
			.notNull()
			.references(() => people.id),
		importedAt: now()
	},
	(t) => [index('imported_records_job').on(t.jobId)]
);

/** What the shop has decided for itself: one row a question, none means as shipped. */
export const shopSettings = pgTable('shop_settings', {
	key: text().primaryKey(),
	value: jsonb().notNull(),
	updatedBy: uuid()
		.notNull()
		.references(() => people.id),
	updatedAt: now()
});

/** Who did what to the shop's own data, and who tried. Append-only (see migrations). */
export const audit = pgTable(
	'audit',
	{
		seq: bigserial({ mode: 'number' }).primaryKey(),
		at: now(),
		kind: text().notNull(),
		/** nobody is known where a sign-in failed, or where the machine did it */
		personId: uuid().references(() => people.id),
		/** what or whom it was done to, in words */
		about: text().notNull().default(''),
		address: text()
	},
	(t) => [index('audit_at').on(t.at)]
);

export const taskState = pgEnum('task_state', ['queued', 'running', 'done', 'failed', 'cancelled']);

export const TASK_KINDS = ['full-forecast', 'order-search', 'hold-advice', 'presets', 'replan', 'proposal'] as const;
export type TaskKind = (typeof TASK_KINDS)[number];
export interface TaskInput {
	plan: PlanDocument;
	factors: ShopFactors;
	/** of a search or an advice */
	ask?: { goals: SearchGoals; full?: boolean; runLengthMm?: number };
	/** what the shop has, for a proposal */
	stock?: Stock;
	/** of a piece that is planned on from: its steps, its log and what was read of it */
	piece?: { id: string; steps: BenchStep[]; lines: LogLine[]; readings: ReadSoFar[] };
}

/** What watched arcs have come to, by seam: a seam like one that any job had before costs a look-up. Worked out again whenever it is gone. */
export const hotAnswers = pgTable('hot_answers', {
	/** SHA-256 of the seam's own words */
	key: text().primaryKey(),
	/** version of the model it was worked out by */
	model: text().notNull(),
	said: jsonb().$type<Said>().notNull(),
	madeAt: now()
});

/** Background computing: one row a task, whatever becomes of its queue entry. Results stay and are found again by their hash. */
export const tasks = pgTable(
	'tasks',
	{
		id: uuid().primaryKey().defaultRandom(),
		kind: text({ enum: TASK_KINDS }).notNull(),
		jobId: uuid()
			.notNull()
			.references(() => jobs.id),
		/** SHA-256 of what the answer depends on: plan, factors, version of the method */
		inputHash: text().notNull(),
		input: jsonb().$type<TaskInput>().notNull(),
		state: taskState().notNull().default('queued'),
		progress: doublePrecision().notNull().default(0),
		message: text().notNull().default(''),
		/** times a worker has taken it up */
		attempts: integer().notNull().default(0),
		worker: text(),
		/** the worker's sign of life: without one for a while, the task is taken up by another */
		heartbeatAt: when(),
		cancelAsked: boolean().notNull().default(false),
		/** the best so far, while it runs */
		partial: jsonb(),
		result: jsonb(),
		createdBy: uuid()
			.notNull()
			.references(() => people.id),
		createdAt: now(),
		startedAt: when(),
		finishedAt: when()
	},
	(t) => [
		index('tasks_by_job').on(t.jobId, t.createdAt),
		uniqueIndex('tasks_one_answer')
			.on(t.kind, t.inputHash)
			.where(sql`${t.state} in ('queued', 'running', 'done')`),
		check('tasks_progress', sql`${t.progress} between 0 and 1`)
	]
);
