/**
 * Coupons: small pieces that are welded to be read. Each kind makes an ordinary plan of a size at which what the weld does is many times
 * what the instrument doubts and the coupon does not heat as a whole; says which; and says what to read with what.
 */
import { newPlan } from '../families/newPlan';
import type { FamilyParameters } from '../families/family';
import type { MadeFamily } from '../families';
import type { AnyFeature, Joint, PlanDocument, WeldSettings } from '../document/schema';
import { FaultError } from '../document/faults';
import { featureKind, unitOf } from '../features';
import { arcEnergy } from '../heat/arcEnergy';
import { pathLength, ringArea } from '../geometry/polyline';
import type { Sensitivity } from '../learn/sensitivity';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { sensitivitiesOf } from '../learn/sensitivity';
import { usualBar } from '../holds/usual';
import { findMaterial, type Material } from '../materials/grades';
import { hotMetal } from '../materials/hot';
import { METHOD_KINDS, type Method } from '../measure/methods';

export const COUPON_KINDS = ['butt', 'butt-on-bar', 'lap', 'tee', 'corner', 'tube-on-plate', 'ring-on-tube', 'mitre'] as const;
export type CouponKind = (typeof COUPON_KINDS)[number];

export interface CouponAsk {
	kind: CouponKind;
	material: string;
	thicknessMm: number;
	/** the shop's own metals */
	materials?: Material[];
	/** as in the job it is for; by the rule of thumb where nothing is said */
	settings?: WeldSettings;
}

interface CouponRecord {
	name: string;
	tells: string;
	family: MadeFamily;
	/** @param w mm to each side of the seam @param l mm along it */
	sizes(w: number, l: number): FamilyParameters;
	/** sheets that the heat goes into, in half widths */
	sides: number;
	/** minutes to cut, tack, weld, wait and read it (own estimate) */
	minutes: number;
	isOnBar?: true;
	/** proposed only where an open job has such a seam, or is of such a family */
	isFor?: (plan: PlanDocument) => boolean;
}

const hasTube = (plan: PlanDocument) => plan.joints.some((j) => j.type === 'flange-to-tube' || j.type === 'port');

export const COUPONS: Record<CouponKind, CouponRecord> = {
	butt: {
		name: 'Butt pair',
		tells: 'how far a butt seam closes across, and how far it folds',
		family: 'butt-panel',
		sizes: (w, l) => ({ widthsMm: [w, w], lengthMm: l }),
		sides: 2,
		minutes: 25
	},
	'butt-on-bar': {
		name: 'Butt pair on a copper bar',
		tells: 'what the bar takes of a butt seam’s closing and fold',
		family: 'butt-panel',
		sizes: (w, l) => ({ widthsMm: [w, w], lengthMm: l }),
		sides: 2,
		minutes: 30,
		isOnBar: true
	},
	lap: {
		name: 'Lap, one fillet',
		tells: 'how far a fillet on a lap closes and turns',
		family: 'lap-panel',
		sizes: (w, l) => ({ widthsMm: [w, w], lengthMm: l, overlapMm: 25, bothEdges: false }),
		sides: 2,
		minutes: 25
	},
	tee: {
		name: 'Tee, one fillet',
		tells: 'how far one fillet turns the web and folds the plate',
		family: 'stiffened-plate',
		sizes: (w, l) => ({ lengthMm: l, widthMm: 2 * w, stiffenerHeightMm: Math.min(w, 60), stiffeners: 1, bothSides: false }),
		sides: 3,
		minutes: 30
	},
	corner: {
		name: 'Corner pair',
		tells: 'how far a corner closes as it cools, and how far it bows',
		family: 'corner-panel',
		sizes: (w, l) => ({ lengthMm: l, baseMm: w, heightMm: w }),
		sides: 2,
		minutes: 25
	},
	'tube-on-plate': {
		name: 'Square tube on a plate',
		tells: 'which way and how far a tube leans that is welded all round to a plate',
		family: 'collar',
		sizes: (w) => ({ shape: 'square', ductMm: 40, ductLengthMm: Math.max(120, w), ringMm: Math.max(35, w / 2), standMm: 4, bothSides: false }),
		sides: 3,
		minutes: 35,
		isFor: hasTube
	},
	'ring-on-tube': {
		name: 'Ring round a tube',
		tells: 'how far a ring shrinks on to a tube and goes out of plane',
		family: 'collar',
		sizes: (w) => ({ shape: 'round', ductMm: 60, ductLengthMm: Math.max(80, w / 2), ringMm: 25, standMm: 4, bothSides: false }),
		sides: 3,
		minutes: 35,
		isFor: hasTube
	},
	mitre: {
		name: 'Small frame of square tube, mitred',
		tells: 'how far a mitre closes and pulls a corner out of square',
		family: 'mitred-frame',
		sizes: (w) => ({ section: 'square-tube', lengthMm: Math.max(250, 2 * w), widthMm: Math.max(200, 2 * w), sideMm: 30 }),
		sides: 2,
		minutes: 60,
		isFor: (plan) => plan.family?.kind === 'mitred-frame'
	}
};

/** K that the whole coupon may warm by, its heat kept and spread: well below where its proof strength has fallen much (own estimate). */
const WARMS_BY = 80;
/** mm to each side: wide enough to hold and read, no wider than a hand likes (own estimate). */
const WIDTH = [60, 200] as const;
/** mm along the seam, so that its ends are a small part of it (own estimate) */
const LENGTH = 200;

/** mm, of the flat coupons; a tube wants its own */
const MESH = 10;
const MESHED: readonly (string | undefined)[] = ['butt-panel', 'lap-panel', 'stiffened-plate', 'corner-panel'];

/** A reading of a coupon that is worth taking. */
export interface CouponReading {
	feature: string;
	name: string;
	unit: 'mm' | '°';
	method: Method;
	/** what the welds do to it by the forecast, and what the instrument doubts at 90 % */
	effect: number;
	doubt: number;
}

/** What is to be known of a coupon before it is welded. */
export interface CouponAbout {
	readings: CouponReading[];
	/** K, as a whole, if nothing of its heat left */
	warmsBy: number;
	/** what is not as it should be */
	cautions: string[];
}
export interface Coupon extends CouponAbout {
	kind: CouponKind;
	plan: PlanDocument;
	sensitivities: Sensitivity[];
}

/** Finer than the instrument’s first choice, where a coupon is read on a bench. */
const FINE: Partial<Record<Method, Method>> = { tape: 'calliper', straightedge: 'dial-line' };
/** An effect below so many of the instrument’s own doubts says little (own estimate). */
const WORTH = 3;

/** @returns mm to each side of its seam: at this width its heat, kept and spread, warms it by no more than WARMS_BY, where a hand still holds it */
export function couponWidth(ask: CouponAsk): number {
	const metal = hotMetal(findMaterial(ask.material, ask.materials));
	const { netHeat } = arcEnergy(ask.settings ?? plan(ask, WIDTH[0]).settings[0]);
	const wanted = netHeat / (COUPONS[ask.kind].sides * ask.thicknessMm * metal.heatContent(20 + WARMS_BY));
	return 10 * Math.ceil(Math.min(WIDTH[1], Math.max(WIDTH[0], wanted)) / 10);
}

/** Issued and welded as it is. @throws FaultError where the family does not make it */
export function couponPlan(ask: CouponAsk, widthMm = couponWidth(ask)): PlanDocument {
	const made = { ...plan(ask, widthMm), ...(ask.materials && { materials: ask.materials }) };
	if (ask.settings) made.settings = [{ ...ask.settings, id: made.settings[0].id }];
	// on a coupon this gives the same figures within a hundredth as half of it, in half the time
	if (MESHED.includes(made.family?.kind)) made.meshSizeMm = MESH;
	made.runs = straightThrough(made);
	if (COUPONS[ask.kind].isOnBar) made.holdDowns = made.joints.map(barUnder);
	return made;
}

/** Laid under a coupon and not pressed home. */
export const barUnder = (joint: Joint) => usualBar(joint, `bar-${joint.id}`, { contact: 'fair' });

/** K that a piece warms by as a whole, all the heat of its runs kept and spread. */
function warmingOf(made: PlanDocument): number {
	const heat = made.runs.reduce((sum, r) => {
		const id = r.settings ?? made.joints.find((j) => j.id === r.joint)!.settings;
		return sum + arcEnergy(made.settings.find((s) => s.id === id) ?? made.settings[0]).netHeat * Math.abs(r.toMm - r.fromMm);
	}, 0);
	const takes = made.parts.reduce((sum, p) => {
		const area = Math.abs(ringArea(p.outline)) - p.holes.reduce((s, h) => s + Math.abs(ringArea(h)), 0);
		const metal = hotMetal(findMaterial(p.material, made.materials));
		return sum + (area * p.thicknessMm * metal.heatContent(20 + WARMS_BY)) / WARMS_BY;
	}, 0);
	return heat / takes;
}

/** @param sensitivities of its plan by the final shape: free, a thin coupon waves, and what it folds by is then its pull's as much as its angle's */
export function aboutCoupon(made: PlanDocument, sensitivities: readonly Sensitivity[]): CouponAbout {
	const readings = made.features.flatMap((f) => readingOf(f, sensitivities));
	const warmsBy = warmingOf(made);
	return { readings, warmsBy, cautions: cautionsOf(readings, warmsBy) };
}

export function couponOf(ask: CouponAsk, kernel?: KernelFactory): Coupon {
	const made = couponPlan(ask);
	const sensitivities = sensitivitiesOf(made, { kernel });
	return { kind: ask.kind, plan: made, sensitivities, ...aboutCoupon(made, sensitivities) };
}

function plan(ask: CouponAsk, widthMm: number): PlanDocument {
	const record = COUPONS[ask.kind];
	const { plan: made, faults } = newPlan(record.family, {
		...record.sizes(widthMm, LENGTH),
		material: ask.material,
		thicknessMm: ask.thicknessMm
	});
	if (!made) throw new FaultError(faults);
	return made;
}

/** One run a seam, from end to end: what a coupon tells is told of the plainest way to weld it. */
const straightThrough = ({ joints, runs }: PlanDocument): PlanDocument['runs'] =>
	joints.flatMap((j) => {
		const own = runs.find((r) => r.joint === j.id);
		if (!own) return [];
		const { waitBeforeS: _wait, ...run } = own;
		return [{ ...run, fromMm: 0, toMm: pathLength(j.a.path) }];
	});

function readingOf(f: AnyFeature, sensitivities: readonly Sensitivity[]): CouponReading[] {
	const said = sensitivities.find((s) => s.feature === f.id && s.moment === 'unclamped');
	if (!said) return [];
	const [usual] = featureKind(f).methods;
	const method = FINE[usual] && featureKind(f).methods.includes(FINE[usual]) ? FINE[usual] : usual;
	const effect = Math.abs(said.predicted);
	const { reading90 } = METHOD_KINDS[method];
	return [{ feature: f.id, name: f.name, unit: unitOf(f), method, effect, doubt: reading90 }];
}

function cautionsOf(readings: readonly CouponReading[], warmsBy: number): string[] {
	const out: string[] = [];
	if (warmsBy > 1.05 * WARMS_BY)
		out.push(
			`So much heat warms the whole coupon by ${Math.round(warmsBy)} K: it stands for a longer seam only roughly. Let it cool between passes, and read it cold.`
		);
	if (!readings.some(isWorth))
		out.push('No reading of it is three times what its instrument doubts: read each three times, or make three coupons alike.');
	return out;
}
/** What some plan moves by more than half of what its instrument doubts: the rest is nothing for a trial to be about. @param foretold by each plan */
export const isMoved = (r: Pick<CouponReading, 'doubt'>, foretold: readonly number[]) => foretold.some((v) => Math.abs(v) >= MOVED * r.doubt);
const MOVED = 0.5;
export const isWorth = (r: CouponReading) => r.effect >= WORTH * r.doubt;
