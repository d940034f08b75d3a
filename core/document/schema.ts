/**
 * The plan document: everything a forecast needs, written so that no family is needed to make one.
 * Lengths mm, angles degrees, temperatures °C. `layout` coordinates are a part's formed sizes laid flat about sharp
 * mid-surface corners; the cut blank differs from it by the bend deduction (see families/blank.ts).
 */
import 'reflect-metadata';
import { MATERIAL_GROUPS, type MaterialGroup } from '../materials/grades';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsObject, ValidateNested } from 'class-validator';
import type { Vec2, Vec3 } from '../geometry/vec';
import { Flag, Id, Ids, Int, ListOf, Maybe, Name, Note, Num, Numbers, One, OneOf, Parameters, Path, Point2, Point3, Rings } from './validators';
import {
	ADDITION_KINDS,
	CONTACTS,
	COOLINGS,
	FAMILIES,
	FEATURE_KINDS,
	FILM_SIDES,
	BAR_METALS,
	ROOT_CARE,
	HOLD_DOWN_KINDS,
	TACK_ORDERS,
	TAPE_OVER,
	TACK_PATTERNS,
	JOINT_TYPES,
	PENETRATIONS,
	POLARITIES,
	POSTURES,
	WELD_SIDES,
	type AdditionKind,
	type Contact,
	type Cooling,
	type FamilyKind,
	type Polarity,
	type TapeOver,
	type FeatureKind,
	type FilmSide,
	type HoldDownKind,
	type TackOrder,
	type TackPattern,
	type RootCare,
	type JointType,
	type Penetration,
	type Posture,
	type WeldSide,
	HOLD_POINT_KINDS,
	HOLD_POINT_MOMENTS,
	SIGNERS,
	type HoldPointKind,
	type HoldPointMoment,
	type Signer,
	REPLANNERS,
	type Replanner
} from './words';
import { DECISIONS, type Decision } from '../measure/decision';

export const PLAN_VERSION = 1;

/** Where a part's layout plane lies in the assembly. `x` and `y` are directions; `y` is squared to `x`. */
export class Frame {
	@Point3() origin: Vec3 = [0, 0, 0];
	@Point3() x: Vec3 = [1, 0, 0];
	@Point3() y: Vec3 = [0, 1, 0];
}

/** A fold along a line of the layout. A positive angle raises the far panel towards the part's front (its +normal). */
export class Bend {
	@Id() id!: string;
	@Point2() from!: Vec2;
	@Point2() to!: Vec2;
	@Num(-175, 175) angleDeg!: number;
	@Num(0, 500) insideRadiusMm!: number;
}

/** Rolls the layout about an axis: `x` bends the layout's x into the hoop. The front is the outside. */
export class Roll {
	@OneOf(['x', 'y']) hoop!: 'x' | 'y';
	@Num(1, 20_000) radiusMm!: number;
}

/** Rolls a flat sector into a cone: the layout's apex becomes the cone's, distances from it are kept. The front is the outside. */
export class Cone {
	/** where the sector's sides meet, in the layout */
	@Point2() apex!: Vec2;
	/** between axis and wall, degrees */
	@Num(1, 89) halfAngleDeg!: number;
}

/** A shallow pyramid creased into a four-cornered field, so that the panel stands stiffer. */
export class CrossBreak {
	@Id() id!: string;
	/** in order round the field */
	@Path(4, 4) corners!: Vec2[];
	/** of the crossing above the field, towards the front, mm */
	@Num(-20, 20) heightMm!: number;
}

/** A dished field: raised by a paraboloid. Shallow: what the sheet stretches is left out of the layout. */
export class Dish {
	@Point2() centre!: Vec2;
	@Num(5, 5000) radiusMm!: number;
	/** of its middle above its rim, towards the front, mm */
	@Num(-1000, 1000) heightMm!: number;
}

export class Part {
	@Id() id!: string;
	@Name() name!: string;
	@Name(40) material!: string;
	@Num(0.3, 12) thicknessMm!: number;
	@Path(3) outline!: Vec2[];
	@Rings() holes: Vec2[][] = [];
	@ListOf(() => Bend, 60) bends: Bend[] = [];
	@Maybe() @One(() => Roll) roll?: Roll;
	@Maybe() @One(() => Cone) cone?: Cone;
	@Maybe() @ListOf(() => CrossBreak, 20) crossBreaks?: CrossBreak[];
	@Maybe() @One(() => Dish) dish?: Dish;
	/** A point of the panel that stays in the frame's plane; the middle of the layout when absent. */
	@Maybe() @Point2() base?: Vec2;
	@One(() => Frame) frame!: Frame;
	@Maybe() @Name(40) heatNumber?: string;
	/** mm per m that its panels are out of flat before welding, as measured; a usual figure is taken when absent */
	@Maybe() @Num(0, 30) flatnessMmPerM?: number;
	@Maybe() @OneOf(['x', 'y', 'none']) grain?: 'x' | 'y' | 'none';
	/** which faces carry protective film */
	@Maybe() @OneOf(FILM_SIDES) film?: FilmSide;
}

export class NamedPoint {
	@Id() id!: string;
	@Name() name!: string;
	@Id() part!: string;
	@Point2() at!: Vec2;
}

/** One sheet's side of a joint: the seam's line on that part, from the datum end. */
export class SeamSide {
	@Id() part!: string;
	@Path(2, 500) path!: Vec2[];
}

/** Totals for the seam, measured or computed elsewhere; they replace the closed forms. */
export class ResponseOverride {
	@Maybe() @Num(0, 5_000_000) tendonForceN?: number;
	@Maybe() @Num(-20, 20) transverseShrinkageMm?: number;
	@Maybe() @Num(-1, 1) angularChangeRad?: number;
	/** Full width over which the force is spread evenly, both sheets together, mm. */
	@Maybe() @Num(1, 240) widthMm?: number;
	/** Distance of the force from mid-thickness towards the weld side, mm; and one standard deviation of it. */
	@Maybe() @Num(-20, 20) eccentricityMm?: number;
	@Maybe() @Num(0, 20) eccentricitySpreadMm?: number;
}

/** How a seam's tacks were planned: kept so that new sizes plan them the same way, and the page shows what holds. */
export class TackRule {
	@OneOf(TACK_PATTERNS) pattern!: TackPattern;
	@OneOf(TACK_ORDERS) order!: TackOrder;
	/** distance of the tacks that locate, mm */
	@Num(5, 1000) locateMm!: number;
	/** distance of the tacks that close up, mm */
	@Num(2, 500) closeMm!: number;
	@Num(1, 60) lengthMm!: number;
	@Flag() fusionOnly!: boolean;
	/** ground flush before the run passes */
	@Flag() flush!: boolean;
	/** clear of each end of a seam, mm */
	@Num(0, 200) endClearMm!: number;
	/** clear of holes (bolts) and of places where a run starts or stops, mm */
	@Num(0, 100) otherClearMm!: number;
}

export class Joint {
	@Id() id!: string;
	@Name() name!: string;
	@OneOf(JOINT_TYPES) type!: JointType;
	@One(() => SeamSide) a!: SeamSide;
	@One(() => SeamSide) b!: SeamSide;
	/** Root gap, mm. */
	@Num(0, 10) gapMm: number = 0;
	@Flag() gapMeasured: boolean = false;
	/** Over-angle set before welding so that it pulls true, degrees; against the expected angular change. */
	@Num(-30, 30) presetDeg: number = 0;
	@OneOf(PENETRATIONS) penetration: Penetration = 'full';
	@Flag() filler: boolean = false;
	/** Welded when the stock was made (a tube's own seam): joined from the start, never tacked, welded or forecast to pull. */
	@Maybe() @Flag() stock?: boolean;
	/** Strength and tightness allow it to be welded in lengths with gaps between. */
	@Maybe() @Flag() intermittent?: boolean;
	/** Leg or throat asked for, mm. */
	@Maybe() @Num(0.3, 20) weldSizeMm?: number;
	/** Butt, lap, tee: side of part A's normal. Corner: front is the outside of the corner. */
	@OneOf(WELD_SIDES) weldSide: WeldSide = 'front';
	@Id() settings!: string;
	@Maybe() @One(() => ResponseOverride) response?: ResponseOverride;
	/** the rule its tacks were planned by; the product's own first rule when absent */
	@Maybe() @One(() => TackRule) tackRule?: TackRule;
}

/** From and to a step: `start`, `after-tacks`, `before-run:ID` / `after-run:ID`, `when-cold`, `stays`. */
export class Life {
	@Name(80) on: string = 'start';
	@Name(80) off: string = 'when-cold';
}

export class HoldDown {
	@Id() id!: string;
	@Name() name!: string;
	@OneOf(HOLD_DOWN_KINDS) kind!: HoldDownKind;
	@One(() => Life) life!: Life;
}

/** A lump of the shop's own, as measured. */
export class BlockMetal {
	/** W/mm.K */
	@Num(0.001, 0.5) conductivity!: number;
	/** J/mm3.K */
	@Num(0.0005, 0.01) rhoC!: number;
}

/** Backing bar behind a seam, or a chill block beside it: takes heat. To hold the sheet down as well, add clamps or a jig. */
export class Bar extends HoldDown {
	declare kind: 'bar';
	@Id() joint!: string;
	@Num(0, 20_000) fromMm!: number;
	@Num(0, 20_000) toMm!: number;
	@OneOf(BAR_METALS) material!: (typeof BAR_METALS)[number];
	/** where the material is `own` */
	@Maybe() @One(() => BlockMetal) metal?: BlockMetal;
	/** Its middle from the seam, mm: negative on sheet A, positive on B, 0 or absent under the seam. */
	@Maybe() @Num(-300, 300) offsetMm?: number;
	@Num(2, 500) widthMm!: number;
	@Num(1, 200) thicknessMm!: number;
	@OneOf(CONTACTS) contact!: Contact;
}

/** A clamp at a station of a seam: holds both sheets there, as they then lie. */
export class Clamp extends HoldDown {
	declare kind: 'clamp';
	@Id() joint!: string;
	@Num(0, 20_000) stationMm!: number;
	@OneOf(['normal', 'all']) holds!: 'normal' | 'all';
	@Num(1, 1e7) stiffnessNPerMm!: number;
}

/** A jig, square or channel along a seam: holds both sheets at every pair between two stations. */
export class Jig extends HoldDown {
	declare kind: 'jig';
	@Id() joint!: string;
	@Num(0, 20_000) fromMm!: number;
	@Num(0, 20_000) toMm!: number;
	@OneOf(['normal', 'all']) holds!: 'normal' | 'all';
	/** of each place it holds */
	@Num(1, 1e7) stiffnessNPerMm!: number;
}

/** A tack to the bench, ground off later: holds a point of a part every way. */
export class TableTack extends HoldDown {
	declare kind: 'table-tack';
	@Id() part!: string;
	@Point2() at!: Vec2;
	@Num(1, 1e7) stiffnessNPerMm: number = 50_000;
}

/** A weight laid on a part: holds it down as long as the sheet does not lift it. */
export class Weight extends HoldDown {
	declare kind: 'weight';
	@Id() part!: string;
	@Point2() at!: Vec2;
	@Num(0.1, 2000) massKg!: number;
}

/** A bar tacked between two places, on one part or two: cross bracing. */
export class Brace extends HoldDown {
	declare kind: 'brace';
	@Id() part!: string;
	@Point2() at!: Vec2;
	@Id() partB!: string;
	@Point2() atB!: Vec2;
	@Num(1, 1e6) areaMm2!: number;
	/** of its section, the same both ways */
	@Num(1, 1e10) iMm4!: number;
	@Num(1000, 1e6) eModulusMPa!: number;
}

/** A bench support under a point of a part (it holds both ways in the linear method). */
export class Support extends HoldDown {
	declare kind: 'support';
	@Id() part!: string;
	@Point2() at!: Vec2;
	@OneOf(['normal', 'all']) holds!: 'normal' | 'all';
	@Num(1, 1e7) stiffnessNPerMm!: number;
}

/** A stiff member fixed along a line of a part. Second moments about its own centroid, `iOutMm4` for bending out of the sheet. */
export class Strongback extends HoldDown {
	declare kind: 'strongback';
	@Id() part!: string;
	@Path(2, 50) path!: Vec2[];
	@Num(1, 1e6) areaMm2!: number;
	@Num(1, 1e10) iOutMm4!: number;
	@Num(1, 1e10) iInMm4!: number;
	@Num(1, 1e10) torsionMm4!: number;
	@Num(1000, 1e6) eModulusMPa!: number;
	/** Height of its centroid above the mid-surface, towards the front, mm. */
	@Num(-500, 500) offsetMm: number = 0;
	/** Distance between the places where it is fixed, mm. */
	@Num(5, 5000) pitchMm: number = 50;
}

/** A table that draws flat sheets down over their whole face, by vacuum or magnets; its top takes heat from seams between them. */
export class HoldingTable extends HoldDown {
	declare kind: 'holding-table';
	@Ids(1, 20) parts!: string[];
	@OneOf(['vacuum', 'magnet']) by!: 'vacuum' | 'magnet';
	@OneOf(['aluminium', 'steel']) material!: 'aluminium' | 'steel';
	/** of the top, mm */
	@Num(2, 200) thicknessMm!: number;
	@OneOf(CONTACTS) contact!: Contact;
	/** from one place it holds to the next, mm */
	@Num(20, 500) pitchMm!: number;
	/** of each place */
	@Num(1, 1e7) stiffnessNPerMm!: number;
}

/** A part bolted down on a block while it is welded. */
export class Bolts extends HoldDown {
	declare kind: 'bolts';
	@Id() part!: string;
	/** middles of the bolts on its layout */
	@Path(2, 60) places!: Vec2[];
	/** of their holes, mm */
	@Num(2, 40) holeMm!: number;
	/** of each bolt with what it presses on */
	@Num(1, 1e7) stiffnessNPerMm!: number;
}

export class WeldSettings {
	@Id() id!: string;
	@Name() name!: string;
	@OneOf(['TIG', 'MIG', 'MMA']) process: 'TIG' | 'MIG' | 'MMA' = 'TIG';
	@OneOf(['steady', 'pulsed']) current: 'steady' | 'pulsed' = 'steady';
	@Maybe() @OneOf(POLARITIES) polarity?: Polarity;
	/** Steady current, or the peak of a pulsed one, A. */
	@Num(1, 500) ampsA!: number;
	@Maybe() @Num(1, 500) backgroundA?: number;
	@Maybe() @Num(0.1, 5000) pulsesPerSecond?: number;
	@Maybe() @Num(0.05, 0.95) onFraction?: number;
	/** Arc volts; estimated from the current when absent. */
	@Maybe() @Num(5, 60) volts?: number;
	@Num(0.1, 50) speedMmPerS!: number;
	/** current the arc starts on and ends on, A, and how long it takes to rise to the welding current and to fall from it, s */
	@Maybe() @Num(1, 500) startA?: number;
	@Maybe() @Num(0, 30) upSlopeS?: number;
	@Maybe() @Num(1, 500) finishA?: number;
	@Maybe() @Num(0, 30) downSlopeS?: number;
	@Maybe() @Name(40) fillerGrade?: string;
	@Maybe() @Num(0.3, 6) fillerMm?: number;
	@Name(60) gas: string = 'Argon';
	@Num(0, 60) gasLPerMin: number = 8;
	@Maybe() @Num(0, 60) postFlowS?: number;
	@Maybe() @Num(0, 60) preFlowS?: number;
	@Maybe() @Num(0, 60) purgeLPerMin?: number;
	/** bore of the gas cup, mm */
	@Maybe() @Num(3, 40) cupMm?: number;
	/** tungsten beyond the cup, mm */
	@Maybe() @Num(1, 40) stickOutMm?: number;
	@Maybe() @Num(0.5, 6.4) tungstenMm?: number;
	@Maybe() @Name(40) tungsten?: string;
	/** the machine it is welded with, by the shop's name of it */
	@Maybe() @Name(80) source?: string;
}

export class Tack {
	@Id() id!: string;
	@Id() joint!: string;
	@Num(0, 50_000) stationMm!: number;
	@Num(1, 60) lengthMm!: number;
	/** 1 locates, 2 closes up. */
	@Int(1, 2) stage: number = 1;
	@Flag() fusionOnly: boolean = true;
	/** ground flush before the run passes over it, where the run must go evenly */
	@Maybe() @Flag() flush?: boolean;
}

/** One length of weld laid without stopping, from `fromMm` to `toMm`: the direction is in the order of the two. */
export class Run {
	@Id() id!: string;
	@Id() joint!: string;
	@Num(0, 50_000) fromMm!: number;
	@Num(0, 50_000) toMm!: number;
	@Int(1, 9) pass: number = 1;
	@Maybe() @Id() settings?: string;
	@Maybe() @Num(0, 36_000) waitBeforeS?: number;
	/** what is done to the piece during the wait before this run; still air when absent */
	@Maybe() @OneOf(COOLINGS) cooling?: Cooling;
	/** keeps its place in the order, whatever a pattern or the search does with the rest */
	@Maybe() @Flag() locked?: boolean;
}

/** What is allowed: an upper value for a form error, or nominal with plus and minus. */
export class Tolerance {
	@Num(0, 1000) upper!: number;
	@Maybe() @Num(-1000, 0) lower?: number;
	/** "typed", or the standard and class it came from. */
	@Name(60) source: string = 'typed';
}

export class Feature {
	@Id() id!: string;
	@Name() name!: string;
	@OneOf(FEATURE_KINDS) kind!: FeatureKind;
	@One(() => Tolerance) tolerance!: Tolerance;
	/** lengths and angles: the target is a measured original instead of the drawing, mm or degrees */
	@Maybe() @Num(0, 20_000) original?: number;
}
/** Flatness over a grid of points on one panel: `nx` by `ny` from `at`, spread over `size`. */
export class Flatness extends Feature {
	declare kind: 'flatness';
	@Id() part!: string;
	@Point2() at!: Vec2;
	@Point2() size!: Vec2;
	@Int(2, 9) nx!: number;
	@Int(2, 9) ny!: number;
}
/** Straightness of a line on a part, over `n` points. */
export class Straightness extends Feature {
	declare kind: 'straightness';
	@Id() part!: string;
	@Path(2, 50) path!: Vec2[];
	@Int(3, 25) n: number = 9;
}
/** Distance between two named points. */
export class Length extends Feature {
	declare kind: 'length';
	@Ids(2, 2) points!: string[];
	/** faces the tape lies between; outside when absent */
	@Maybe() @OneOf(TAPE_OVER) over?: TapeOver;
}
/** Difference of the two diagonals of four named corners, in order round the opening. */
export class Squareness extends Feature {
	declare kind: 'squareness';
	@Ids(4, 4) points!: string[];
	/** faces the tape lies between; outside when absent */
	@Maybe() @OneOf(TAPE_OVER) over?: TapeOver;
}
/** Angle between two faces, each by three named points; degrees. */
export class Angle extends Feature {
	declare kind: 'angle';
	@Ids(3, 3) faceA!: string[];
	@Ids(3, 3) faceB!: string[];
}
/** Height of the fourth corner over the plane of the other three. */
export class Twist extends Feature {
	declare kind: 'twist';
	@Ids(4, 4) points!: string[];
}

export class Probe {
	@Id() id!: string;
	@Name() name!: string;
	@Id() part!: string;
	@Point2() at!: Vec2;
}

/** 3-2-1: origin fixed, the second point gives the axis, the third the plane; named points. */
export class Datum {
	@Id() origin!: string;
	@Id() axis!: string;
	@Id() plane!: string;
}

export class PrepCheck {
	@Id() id!: string;
	@Name(200) text!: string;
	/** asked once the parts stand and are held, before the first tack; otherwise before anything else */
	@Maybe() @Flag() onceSetUp?: boolean;
}

/** A cut blank as it came: its size in the layout, between its outermost edges. */
export class CutReading {
	@Id() part!: string;
	@OneOf(['x', 'y']) along!: 'x' | 'y';
	@Num(1, 20_000) measuredMm!: number;
}
/** A fold as it came: the angle turned, like the bend's own. */
export class BendReading {
	@Id() part!: string;
	@Id() bend!: string;
	@Num(-178, 178) measuredDeg!: number;
}
/** Parts that come together at one step; the seams between them and what stands are welded before the next step. */
export class AssemblyStep {
	@Id() id!: string;
	@Name() name!: string;
	@Ids(1, 60) parts!: string[];
}

export class FitUp {
	/** The one true starting corner: a seam and which end of it. */
	@Maybe() @Id() trueJoint?: string;
	@Maybe() @OneOf(['datum', 'far']) trueEnd?: 'datum' | 'far';
	@ListOf(() => PrepCheck, 40) checks: PrepCheck[] = [];
	@Maybe() @ListOf(() => CutReading, 120) cutReadings?: CutReading[];
	@Maybe() @ListOf(() => BendReading, 400) bendReadings?: BendReading[];
	/** sub-assemblies first; parts not named come on at the first step */
	@Maybe() @ListOf(() => AssemblyStep, 60) order?: AssemblyStep[];
	/** left until last, so that it can take up the error of the rest */
	@Maybe() @Id() adjustingJoint?: string;
	/** parts that must come apart again until their neighbours have been located from them */
	@Maybe() @Ids(0, 60) separable?: string[];
}

/** Work waits here until it is signed. */
export class HoldPoint {
	@Id() id!: string;
	@OneOf(HOLD_POINT_KINDS) kind!: HoldPointKind;
	@OneOf(HOLD_POINT_MOMENTS) at!: HoldPointMoment;
	@OneOf(SIGNERS) signs!: Signer;
	/** what is wanted, beside what its kind says */
	@Maybe() @Note(200) wanted?: string;
}

/** How the root is kept bright. */
export class RootPlan {
	@OneOf(ROOT_CARE) care: RootCare = 'none';
	/** closed in behind the seams, by dams or by the piece itself, L */
	@Maybe() @Num(0.01, 100_000) volumeL?: number;
	@Maybe() @Num(0.1, 200) flowLPerMin?: number;
	/** bore of the vent, mm: purge goes in low, the vent stays open at the top */
	@Maybe() @Num(1, 200) ventMm?: number;
	@Maybe() @Note(300) dams?: string;
}

/** How flat lengths are worked out from formed ones. */
export class BendRule {
	@OneOf(['k-factor', 'din-6935']) method: 'k-factor' | 'din-6935' = 'k-factor';
	@Maybe() @Num(0.25, 0.5) kFactor?: number;
}

/** What a quote is worked out with; money in whatever the shop counts in. */
export class Quote {
	@Num(0, 600) fitUpMinPerPart: number = 6;
	/** once for the whole job */
	@Num(0, 6000) setUpMin: number = 30;
	/** to correct a piece that came out of its limits, and measure it again */
	@Num(0, 6000) reworkMin: number = 25;
	@Maybe() @Num(0, 100_000) hourRate?: number;
	@Maybe() @Num(0, 1000) gasPerL?: number;
	@Maybe() @Num(0, 100_000) fillerPerKg?: number;
}

/** A place on a panel of a part (between its bends and its outline) by distances from named edges: it moves with them. */
export class PanelPlace {
	/** which panel, counted between the bend lines: from the left, and from below */
	@Int(0, 60) column!: number;
	@Int(0, 60) row!: number;
	@OneOf(['left', 'right', 'middle']) acrossFrom!: 'left' | 'right' | 'middle';
	@Num(-20_000, 20_000) acrossMm!: number;
	@OneOf(['lower', 'upper', 'middle']) upFrom!: 'lower' | 'upper' | 'middle';
	@Num(-20_000, 20_000) upMm!: number;
}

/** Something put on a family's piece: made again, in its place, whenever the sizes change. */
export class FamilyAddition {
	/** of the part it makes; of the crease where it makes none */
	@Id() id!: string;
	@Name() name!: string;
	@OneOf(ADDITION_KINDS) kind!: AdditionKind;
	/** the part it sits on */
	@Id() part!: string;
	@OneOf(WELD_SIDES) side!: WeldSide;
	@One(() => PanelPlace) at!: PanelPlace;
	/** the other end, of what stands along a line */
	@Maybe() @One(() => PanelPlace) to?: PanelPlace;
	/** outside of a socket, diameter of a patch */
	@Maybe() @Num(4, 2000) acrossMm?: number;
	/** of a plate or a socket above the part, of a crossing above its field */
	@Maybe() @Num(0.5, 2000) heightMm?: number;
}

export class Family {
	@OneOf(FAMILIES) kind!: FamilyKind;
	@Parameters() parameters!: Record<string, number | string | boolean | number[]>;
	@Maybe() @ListOf(() => FamilyAddition, 60) additions?: FamilyAddition[];
}

/** Mean values a user added for a sheet metal of their own. */
export class ResponsePair {
	@Num(1e-6, 1e-4) alpha!: number;
	@Num(1e-4, 1e-1) rhoC!: number;
	@Num(1e-4, 1) lambda!: number;
	@Num(200, 3500) meltC!: number;
}
export class OwnMaterial {
	@Id() id!: string;
	@Name() name!: string;
	@OneOf(MATERIAL_GROUPS) group!: MaterialGroup;
	@OneOf(['stainless', 'carbon-steel', 'aluminium']) gaugeTable!: 'stainless' | 'carbon-steel' | 'aluminium';
	@Num(1000, 1e6) eModulus!: number;
	@Num(0, 0.49) poisson!: number;
	@Num(5, 3000) proofStrength!: number;
	@Num(500, 25_000) density!: number;
	@Num(1e-4, 1) conductivity!: number;
	@One(() => ResponsePair) responsePair!: ResponsePair;
	@Name(300) source!: string;
}

/** Sheet that is not flat before welding: heights over a grid on the part's layout, from its lower left corner, rows along its length. */
export class OutOfFlat {
	@Id() part!: string;
	@Int(2, 60) nx!: number;
	@Int(2, 60) ny!: number;
	/** nx x ny heights towards the front, mm, row by row from the lower edge up */
	@Numbers(3600, -100, 100) heightsMm!: number[];
}
/** A buckling mode of the joined piece as its shape before welding: which (1: the lowest), and its largest height. */
export class ModeOutOfFlat {
	@Int(1, 4) mode!: number;
	@Num(-100, 100) heightMm!: number;
}
/** How the deeper depths start and what they show: for published cases, and for sheet known not to be flat. */
export class ShapeOptions {
	/** leave the piece's own weight out */
	@Maybe() @Flag() weightless?: boolean;
	/** of the stable shapes that were found, by energy: 1 the lowest */
	@Maybe() @Int(1, 6) branch?: number;
	@Maybe() @ListOf(() => OutOfFlat, 40) outOfFlat?: OutOfFlat[];
	@Maybe() @ListOf(() => ModeOutOfFlat, 4) modes?: ModeOutOfFlat[];
}

/** class-transformer picks the subclass by `kind`; `each` entry is then checked with its own fields. */
const byKind =
	(base: new () => object, kinds: Record<string, new () => object>): PropertyDecorator =>
	(target, key) => {
		IsArray({ message: 'must be a list' })(target, key);
		ArrayMaxSize(400, { message: 'must hold at most 400' })(target, key);
		IsObject({ each: true, message: 'must be a list of objects' })(target, key);
		ValidateNested({ each: true, message: 'must be a list of objects' })(target, key);
		Type(() => base, {
			keepDiscriminatorProperty: true,
			discriminator: { property: 'kind', subTypes: Object.entries(kinds).map(([name, value]) => ({ name, value })) }
		})(target, key);
	};

/** Every kind of hold-down and of feature with its document: a kind without one does not compile. The published schema reads these too. */
export const HOLD_DOWN_CLASSES = {
	bar: Bar,
	clamp: Clamp,
	jig: Jig,
	support: Support,
	'table-tack': TableTack,
	bolts: Bolts,
	weight: Weight,
	brace: Brace,
	strongback: Strongback,
	'holding-table': HoldingTable
} satisfies Record<HoldDownKind, new () => HoldDown>;
export const FEATURE_CLASSES = {
	flatness: Flatness,
	straightness: Straightness,
	length: Length,
	squareness: Squareness,
	angle: Angle,
	twist: Twist
} satisfies Record<FeatureKind, new () => Feature>;

export type AnyHoldDown = InstanceType<(typeof HOLD_DOWN_CLASSES)[HoldDownKind]>;
export type AnyFeature = InstanceType<(typeof FEATURE_CLASSES)[FeatureKind]>;

export class PlanDocument {
	@IsIn(['sarta-plan'], { message: 'must be sarta-plan' }) format: 'sarta-plan' = 'sarta-plan' as const;
	@IsIn([PLAN_VERSION], { message: `must be ${PLAN_VERSION}` }) version: 1 = 1 as const;
	@Maybe() @One(() => Family) family?: Family;
	@ListOf(() => OwnMaterial, 20) materials: OwnMaterial[] = [];
	@ListOf(() => Part, 150, 1) parts!: Part[];
	@ListOf(() => NamedPoint, 400) points: NamedPoint[] = [];
	@ListOf(() => Joint, 120) joints!: Joint[];
	@byKind(HoldDown, HOLD_DOWN_CLASSES)
	holdDowns: AnyHoldDown[] = [];
	@ListOf(() => WeldSettings, 40) settings!: WeldSettings[];
	@ListOf(() => Tack, 2000) tacks: Tack[] = [];
	@ListOf(() => Run, 1000) runs: Run[] = [];
	@byKind(Feature, FEATURE_CLASSES)
	features: AnyFeature[] = [];
	@ListOf(() => Probe, 200) probes: Probe[] = [];
	@Maybe() @One(() => Datum) datum?: Datum;
	@OneOf(POSTURES) posture: Posture = 'three-points';
	@Maybe() @One(() => ShapeOptions) shape?: ShapeOptions;
	@One(() => FitUp) fitUp!: FitUp;
	@Maybe() @One(() => RootPlan) root?: RootPlan;
	@Maybe() @ListOf(() => HoldPoint, 20) holdPoints?: HoldPoint[];
	/** who may take over another way on for a piece that is half welded; a planner when absent */
	@Maybe() @OneOf(REPLANNERS) replanBy?: Replanner;
	/** how a reading near a limit is taken; as read when absent */
	@Maybe() @OneOf(DECISIONS) decision?: Decision;
	@Maybe() @One(() => BendRule) bendRule?: BendRule;
	@Maybe() @One(() => Quote) quote?: Quote;
	@Num(20, 600) interpassLimitC: number = 150;
	@Num(-20, 60) ambientC: number = 20;
	/** Target side of a shell triangle, mm; chosen from the piece's area when absent. */
	@Maybe() @Num(1, 500) meshSizeMm?: number;
	@Maybe() @Note() notes?: string;
}
