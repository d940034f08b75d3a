/** What the server routes accept. */
import 'reflect-metadata';
import { IsObject, IsUUID, Matches, ArrayMinSize, ArrayMaxSize, IsArray, IsISO8601, IsIn, IsNumber, Max, Min } from 'class-validator';
import { Family, OwnMaterial, PlanDocument, WeldSettings } from '$core/document/schema';
import { Flag, Id, Ids, Int, ListOf, Maybe, Name, Note, Num, One, OneOf } from '$core/document/validators';
import {
	EVENT_KINDS,
	JOINT_TYPES,
	type JointType,
	INSPECTOR_MAY_WELD,
	READ_MOMENTS,
	POSTURES,
	type EventKind,
	type InspectorMayWeld,
	type ReadMoment,
	type Posture,
	DEVICE_KINDS,
	type DeviceKind,
	REGISTER_KINDS,
	type RegisterKind,
	TACK_ORDERS,
	type TackOrder,
	TACK_PATTERNS,
	type TackPattern
} from '$core/document/words';
import { COUPON_KINDS, type CouponKind } from '$core/coupons/coupons';
import { DIFFERENCES, type Difference } from '$core/coupons/differences';
import { METHODS, type Method } from '$core/measure/methods';
import type { Choices } from '$core/practice/tools';
import { ORDER_PATTERNS, type OrderPattern } from '$core/schools/orders';
import { MOST_PRESET_DEG } from '$core/weldout/preset';
import { ROLES } from '$lib/people/roles';
import { EventData } from '$core/weldout/happenings';
import { JobHeader } from '$core/formats/jobFile';
import { ScanFacts } from '$core/formats/jobRecord';
import type { Role } from '$store/auth';
import { DEFAULT_GOALS } from '$core/search/cost';
import { OUTCOMES, type Outcome } from '$store/logbook';
import { SECRET, SECRET_WORDS } from '$store/pins';
import { TASK_KINDS, type TaskKind } from '$store/schema';

const Pin = () => Matches(SECRET, { message: SECRET_WORDS });
/** A day of the calendar. */
const Day = (): PropertyDecorator => (t, k) => {
	Matches(/^\d{4}-\d\d-\d\d$/, { message: 'must be a day as 2026-01-31' })(t, k);
	IsISO8601({ strict: true }, { message: 'must be a day of the calendar' })(t, k);
};
const Roles = (): PropertyDecorator => (t, k) => {
	IsArray({ message: 'must be a list' })(t, k);
	ArrayMinSize(1, { message: 'must name at least one role' })(t, k);
	ArrayMaxSize(ROLES.length, { message: 'must name each role once' })(t, k);
	IsIn(ROLES, { each: true, message: 'must be planner, welder, inspector, admin or learner' })(t, k);
};

export class SignInBody {
	@Name() name!: string;
	@Pin() pin!: string;
}
export class MeBody {
	@Maybe() @OneOf(['mm', 'in']) units?: 'mm' | 'in';
	@Maybe() @Pin() newPin?: string;
	/** the PIN until now: asked for with a new one */
	@Maybe() @Pin() pin?: string;
}
export class SettingsBody {
	@OneOf(INSPECTOR_MAY_WELD) inspectorMayWeld!: InspectorMayWeld;
}
export class PersonBody {
	@Name() name!: string;
	@Pin() pin!: string;
	@Roles() roles!: Role[];
}
export class PersonPatch {
	@Int(1, 1e9) version!: number;
	@Maybe() @Pin() pin?: string;
	@Maybe() @Roles() roles?: Role[];
	@Maybe() @Flag() archived?: boolean;
	@Maybe() @Flag() unlock?: boolean;
}
export class JobBody extends JobHeader {
	@One(() => Family) family!: Family;
}
export class PreviewBody {
	@One(() => Family) family!: Family;
}
export class CouponBody {
	@OneOf(COUPON_KINDS) kind!: CouponKind;
	@Name(60) material!: string;
	@Num(0.3, 12) thicknessMm!: number;
	@Maybe() @IsUUID() job?: string;
}
/** Ways of a trial to be sized up: what they cost in pieces, before anything is made. */
export class TrialSizeBody extends CouponBody {
	@OneOf(DIFFERENCES) difference!: Difference;
	@Ids(2, 4) ways!: string[];
}
export class TrialBody extends TrialSizeBody {
	@Name(100) name!: string;
	@Id() feature!: string;
	@Num(0.001, 1000) matters!: number;
	@Int(2, 20) each!: number;
}
export class GuessBody {
	/** the way that leaves least, by its place, or nothing for "no difference" */
	@Maybe() @Int(0, 3) way?: number;
	@Num(-500, 500) value!: number;
}
/** Which of them an exercise allows, and how far each may go, `core/practice` says. */
export class ChoicesBody implements Choices {
	@Maybe() @OneOf(TACK_PATTERNS) tacks?: TackPattern;
	@Maybe() @OneOf(TACK_ORDERS) tackOrder?: TackOrder;
	@Maybe() @OneOf(ORDER_PATTERNS) order?: OrderPattern;
	@Maybe() @Num(10, 500) runLengthMm?: number;
	@Maybe() @Flag() bar?: boolean;
	@Maybe() @Flag() clamps?: boolean;
	@Maybe() @Flag() strongback?: boolean;
	@Maybe() @Num(-MOST_PRESET_DEG, MOST_PRESET_DEG) presetDeg?: number;
	@Maybe() @Num(0, 1) planished?: number;
}
export class PracticeBody {
	@One(() => GuessBody) guess!: GuessBody;
	@One(() => ChoicesBody) choices!: ChoicesBody;
}
export class PracticeSetBody {
	@IsUUID() person!: string;
}
/** A way of a trial, counted from 0, into the plan of a job. */
export class TrialAdoptBody {
	@IsUUID() job!: string;
	@Int(0, 20) way!: number;
}
export class ConcludeBody {
	@Name(2000) conclusion!: string;
}
export class JobPatch {
	@Int(1, 1e9) version!: number;
	@Maybe() @Name(120) name?: string;
	@Maybe() @Name(120) customer?: string | null;
	@Maybe() @Matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, { message: 'must be a date like 2026-04-30' }) dueDate?: string | null;
	@Maybe() @Int(1, 500) quantity?: number;
	@Maybe() @Note() notes?: string | null;
	@Maybe() @Flag() archived?: boolean;
}
/** What is not said is as in the job it is like; a date is not. */
export class DuplicateBody {
	@Name(120) name!: string;
	@Maybe() @Name(120) customer?: string | null;
	@Maybe() @Matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, { message: 'must be a date like 2026-04-30' }) dueDate?: string | null;
	@Maybe() @Int(1, 500) quantity?: number;
}
export class PlanBody {
	@Int(1, 1e6) revision!: number;
	@Int(1, 1e9) version!: number;
	@One(() => PlanDocument) plan!: PlanDocument;
}
export class IssueBody {
	@Int(1, 1e6) revision!: number;
	@Int(1, 1e9) version!: number;
}
class FeatureWeight {
	@Name(60) id!: string;
	@Num(0, 100) weight!: number;
}
/** What a search or an advice is after. */
export class GoalsBody {
	@ListOf(() => FeatureWeight, 100) weights: FeatureWeight[] = [];
	@Num(0, 100) time: number = DEFAULT_GOALS.time;
	@Num(0, 100) heat: number = DEFAULT_GOALS.heat;
	@Num(0, 100) flip: number = DEFAULT_GOALS.flip;
	@Maybe() @Int(0, 500) maxFlips?: number;
	@Flag() mayReverse: boolean = true;
	@Int(0, 20) restarts: number = DEFAULT_GOALS.restarts;
}
export class TaskBody {
	@Int(1, 1e6) revision!: number;
	@Int(1, 1e9) version!: number;
	@OneOf(TASK_KINDS) kind: TaskKind = 'full-forecast';
	@Maybe() @One(() => GoalsBody) goals?: GoalsBody;
	/** every row with each arc watched, the best two by the full method as well */
	@Maybe() @Flag() full?: boolean;
	@Maybe() @Num(5, 4000) runLengthMm?: number;
}
export class EventBody {
	@IsUUID('4', { message: 'must be a UUID made by the device' }) clientId!: string;
	@OneOf(EVENT_KINDS) kind!: EventKind;
	@Maybe() @Name(120) step?: string;
	@Maybe() @Note() note?: string;
	@IsISO8601({ strict: true }, { message: 'must be a time like 2026-04-30T09:15:00Z' }) happenedAt!: string;
	/** what was given to the device when its person signed in */
	@Maybe() @IsUUID('4', { message: 'must be the stamp of a session' }) stamp?: string;
	/** the problem that this closes, or the entry that it takes back */
	@Maybe() @IsUUID('4', { message: 'must be the clientId of an entry' }) about?: string;
	@Maybe() @One(() => EventData) data?: EventData;
}
/** What belongs to a photograph beside its picture. */
export class PhotographQuery {
	@IsUUID('4', { message: 'must be a UUID made by the device' }) clientId!: string;
	@Maybe() @Name(120) step?: string;
	@Maybe() @Name(300) note?: string;
	/** the line of the log or the reading that it shows */
	@Maybe() @IsUUID('4', { message: 'must be the clientId of an entry or a reading' }) about?: string;
	@IsISO8601({ strict: true }, { message: 'must be a time like 2026-04-30T09:15:00Z' }) takenAt!: string;
	@Maybe() @IsUUID('4', { message: 'must be the stamp of a session' }) stamp?: string;
}
/** One of the ways on that were worked out for a piece. */
export class AdoptBody {
	@Name(120) way!: string;
	@IsUUID('4', { message: 'must be a UUID made by the device' }) clientId!: string;
}
/** Number of the last line of a log that is known already. */
/** What of the logbook is asked for; what is left empty asks for nothing. */
export class LogbookQuery {
	@Maybe() @Name(100) search?: string;
	@Maybe() @Name(40) material?: string;
	@Maybe() @Num(0.1, 50) thicknessMm?: number;
	@Maybe() @OneOf(JOINT_TYPES) joint?: JointType;
	@Maybe() @IsUUID('4', { message: 'must be a person of this shop' }) welder?: string;
	@Maybe() @Day() from?: string;
	@Maybe() @Day() to?: string;
	@Maybe() @OneOf(OUTCOMES) outcome?: Outcome;
	@Int(1, 1_000_000) page = 1;
}
export class AfterQuery {
	@Int(0, Number.MAX_SAFE_INTEGER) after = 0;
}
export class EventsBody extends AfterQuery {
	/** each is read as an `EventBody` by itself */
	@IsArray({ message: 'must be a list' })
	@ArrayMinSize(1, { message: 'must hold at least one' })
	@ArrayMaxSize(5000, { message: 'must hold at most 5000' })
	events!: unknown[];
}
/** No shop's tape, dial or protractor reads beyond this, mm or degrees. */
const MOST_READING = 1e5;
const BEYOND = `every reading must be a number from -${MOST_READING} to ${MOST_READING}`;
export class MeasurementBody {
	@IsUUID('4', { message: 'must be a UUID made by the device' }) clientId!: string;
	@Name(60) feature!: string;
	@OneOf(METHODS) method!: Method;
	@OneOf(READ_MOMENTS) moment!: ReadMoment;
	@OneOf(POSTURES) posture!: Posture;
	@Name(80) instrument!: string;
	/** of the shop's register: its name, uncertainty and date go with the reading */
	@Maybe() @IsUUID('4', { message: 'must be an instrument of the register' }) instrumentId?: string;
	@Maybe() @Num(-50, 1500) metalC?: number;
	@IsArray({ message: 'must be a list of numbers' })
	@ArrayMinSize(1, { message: 'must hold at least one reading' })
	@ArrayMaxSize(400, { message: 'must hold at most 400 readings' })
	@IsNumber({ allowNaN: false, allowInfinity: false }, { each: true, message: 'every reading must be a number' })
	@Min(-MOST_READING, { each: true, message: BEYOND })
	@Max(MOST_READING, { each: true, message: BEYOND })
	readings!: number[];
}
/** Of a laid scan; its shape is the body. */
export class ScanQuery extends ScanFacts {
	@IsUUID('4', { message: 'must be a UUID made by the device' }) clientId!: string;
}
export class WithdrawBody {
	@Name(300) why!: string;
}
export class SignBody {
	@Flag() accepted!: boolean;
	@Name(600) statement!: string;
	/** why it is accepted though something is outside its limits */
	@Maybe() @Name(600) concession?: string;
}
export class ProcedureBody {
	@Name() name!: string;
	@One(() => WeldSettings) settings!: WeldSettings;
	@Maybe() @Note() note?: string;
}
export class ProcedurePatch {
	@Int(1, 1e9) version!: number;
	@Maybe() @One(() => WeldSettings) settings?: WeldSettings;
	@Maybe() @Note() note?: string;
	@Maybe() @Flag() archived?: boolean;
}
export class MaterialBody {
	@One(() => OwnMaterial) material!: OwnMaterial;
}
export class HeatBody {
	@Name(60) heat!: string;
	@Name(60) materialId!: string;
	@Num(0.1, 50) thicknessMm!: number;
	@Maybe() @Name(120) supplier?: string;
}

export class RegisterBody {
	@OneOf(REGISTER_KINDS) kind!: RegisterKind;
	/** read as what its kind asks for */
	@IsObject({ message: 'must be an object' }) item!: object;
}
export class RegisterPatch {
	@Int(1, 1e9) version!: number;
	@Maybe() @IsObject({ message: 'must be an object' }) item?: object;
	@Maybe() @Flag() archived?: boolean;
}

export class DeviceBody {
	@OneOf(DEVICE_KINDS) kind!: DeviceKind;
	@Name() name!: string;
	@Flag() isSimulated = false;
}
export class DevicePatch {
	/** the piece it stands at; empty: none */
	@Maybe() @IsUUID('all', { message: 'must be a piece' }) piece?: string;
	@Maybe() @Flag() isDetached?: boolean;
	@Maybe() @Flag() archived?: boolean;
}
export class SimulateBody {
	@OneOf(['start', 'stop', 'press']) what!: 'start' | 'stop' | 'press';
}
