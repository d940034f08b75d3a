/**
 * What one run does to the metal: tendon force by strips, transverse shrinkage, angular change and eccentricity by closed forms.
 * Every modifier is explicit in `parts`. Method and limits: docs/theory/response.md.
 */
import { arcEnergy, type ArcEnergy } from '../heat/arcEnergy';
import { STILL_AIR } from '../heat/air';
import { heatedWidth, type ThinPlate } from '../heat/rosenthal';
import { sectionHistory, type SectionBar } from '../heat/section';
import { BLOCK_METALS, type Material } from '../materials/grades';
import { hotMetal } from '../materials/hot';
import type { Bar, Joint, WeldSettings } from '../plan/schema';
import type { Contact, Penetration } from '../plan/words';
import { acrossOf } from './across';
import type { Across } from './bands';
import { stripForce } from './strips';

/** 2 ln 2 / sqrt(2 pi e): Okerblom (1958), Leggatt; 0.335. */
export const OKERBLOM = (2 * Math.LN2) / Math.sqrt(2 * Math.PI * Math.E);

/** Contact to a bar, W/mm2.K: 1000 to 5000 W/m2K clamped tight, 200 to 500 loose (quoted from memory). */
export const CONTACT_VALUES: Record<Contact, number> = { tight: 2000e-6, fair: 800e-6, loose: 300e-6 };

/** Temperature at which a straw tint shows on clean stainless after a short heating, °C (common practice, no source). */
export const TINT_C = 300;

/** Share of the thickness that melts, and how much narrower the pool is at its root (own estimates, wide uncertainty). */
const POOL: Record<Penetration, { depth: number; rootWidth: number }> = {
	full: { depth: 1, rootWidth: 0.7 },
	partial: { depth: 0.6, rootWidth: 0 },
	sealing: { depth: 0.35, rootWidth: 0 }
};

/** A shallow pool's width in its depths (own estimate from ordinary TIG beads). */
const WIDTH_TO_DEPTH = 2.5;

/** Distance of the tendon force from mid-thickness towards the weld side, share of the thickness (own estimate). */
const ECCENTRICITY: Record<Penetration, number> = { full: 0.05, partial: 0.12, sealing: 0.12 };

export interface ResponsePart {
	label: string;
	value: string;
}

export interface WeldResponse {
	/** N, both sheets together */
	tendonForceN: number;
	/** mm */
	transverseShrinkageMm: number;
	/** rad, closing towards the weld side */
	angularChangeRad: number;
	/** mm from mid-thickness towards the weld side */
	eccentricityMm: number;
	/** how the force lies across the seam */
	across: Across;
	heat: ArcEnergy;
	meltWidthMm: number;
	tintWidthMm: number;
	/** the methods side by side: model form is the largest uncertainty, N */
	methods: { name: string; tendonForceN: number }[];
	/** share of the net heat a bar has taken while the metal is hot */
	barShare: number;
	overridden: boolean;
	parts: ResponsePart[];
	warnings: string[];
}

export interface ResponseInput {
	joint: Joint;
	settings: WeldSettings;
	/** sheets A and B */
	sheets: { material: Material; thicknessMm: number; widthMm?: number }[];
	ambientC: number;
	bar?: Bar;
}

/** What else tells how far a response can be trusted, or what changes it: one solution of the section each. */
export interface ForceVariants {
	/** °C before the arc by distance from the seam, mm (negative on A): heat that earlier runs have left */
	startC?: (x: number) => number;
	/** multiplies the bar's contact conductance */
	contactFactor?: number;
	/** the section may turn in its own plane */
	freeToTurn?: boolean;
}

/** Sheet beyond this takes no part in one run: the plastic zone reaches 80 mm at most, mm. */
const SECTION_WIDEST = 300;
const SECTION_NARROWEST = 5;

/** Conductivity and heat capacity of a bar or block. */
export const blockMetal = (bar: Bar) => (bar.material === 'own' ? bar.metal! : BLOCK_METALS.find((m) => m.id === bar.material)!);

const sectionBar = (bar: Bar): SectionBar => {
	const metal = blockMetal(bar);
	return {
		width: bar.widthMm,
		offset: bar.offsetMm,
		thickness: bar.thicknessMm,
		conductivity: metal.conductivity,
		rhoC: metal.rhoC,
		contact: CONTACT_VALUES[bar.contact]
	};
};

/** Rotation from a shrinking pool that is wider at the top: `12 / t^3` times the moment of its shrinkage about mid-thickness. */
export function taperAngle(meltWidth: number, thickness: number, penetration: Penetration, shrinkStrain: number): number {
	const { depth, rootWidth } = POOL[penetration];
	// the line-source width is for a pool through the whole sheet; a shallow pool is no wider than its depth allows
	if (penetration !== 'full') meltWidth = Math.min(meltWidth, WIDTH_TO_DEPTH * depth * thickness);
	const top = thickness / 2;
	const bottom = top - depth * thickness;
	const slope = (meltWidth * (1 - rootWidth)) / (top - bottom);
	const width0 = meltWidth - slope * top; // width(z) = width0 + slope z
	const integral = (z: number) => (width0 * z * z) / 2 + (slope * z ** 3) / 3;
	return (12 / thickness ** 3) * shrinkStrain * (integral(top) - integral(bottom));
}

const sidesOf = (sheets: ResponseInput['sheets']) => {
	const whole = sheets.reduce((sum, y) => sum + y.thicknessMm, 0);
	const sides = sheets.map((x) => ({
		width: Math.min(SECTION_WIDEST, Math.max(SECTION_NARROWEST, x.widthMm ?? SECTION_WIDEST)),
		thickness: x.thicknessMm,
		metal: hotMetal(x.material),
		share: x.thicknessMm / whole
	}));
	return [sides[0], sides[1] ?? sides[0]] as const;
};

/** s the arc takes to pass a point: a pool's length over the speed */
const passingOf = (settings: WeldSettings) => 4 / settings.speedMmPerS;

/** Section and strips of one run, with or without its bar. */
function solveStrips({ settings, sheets, ambientC, bar }: ResponseInput, v: ForceVariants = {}) {
	const pair = sidesOf(sheets);
	const held = bar && sectionBar(bar);
	const history = sectionHistory({
		sheets: pair,
		air: STILL_AIR,
		ambientC,
		netHeat: arcEnergy(settings).netHeat,
		speed: settings.speedMmPerS,
		startC: v.startC,
		bar: held && { ...held, contact: held.contact * (v.contactFactor ?? 1) }
	});
	return { history, strips: stripForce({ history, sheets: pair, heldStraight: !v.freeToTurn }) };
}

/** Tendon force under other conditions than the response's own, N. */
export const forceUnder = (input: ResponseInput, v: ForceVariants): number => solveStrips(input, v).strips.inherentForceN;

export function weldResponse(input: ResponseInput): WeldResponse {
	const { joint, settings, sheets, ambientC, bar } = input;
	const heat = arcEnergy(settings);
	const q = heat.netHeat;
	const warnings: string[] = [];
	const parts: ResponsePart[] = [];
	// unlike sheets: mean thickness for the flow of heat, the weaker-conducting pair is not singled out (stated limit)
	const thickness = sheets.reduce((s, x) => s + x.thicknessMm, 0) / sheets.length;
	const m = sheets[0].material;
	const { alpha, rhoC, lambda, meltC } = m.responsePair;
	const passing = passingOf(settings);
	const pair = sidesOf(sheets);
	const free = solveStrips({ ...input, bar: undefined }).strips;
	const withBar = bar ? solveStrips(input) : undefined;
	const used = withBar?.strips ?? free;
	const okerblom = OKERBLOM * ((m.eModulus * alpha) / rhoC) * q;
	let tendonForceN = used.inherentForceN;
	const given = joint.response?.widthMm;
	const across = acrossOf([0, 1].map((k) => ({ ...used.sides[k], ...(given && { distance: given / 4 }), width: pair[k].width })) as never);
	const kN = (v: number) => `${(v / 1000).toFixed(1)} kN`;
	parts.push({
		label: `Tendon force by strips: ${pair.map((p) => p.width.toFixed(0)).join(' + ')} mm of sheet, still air`,
		value: kN(free.inherentForceN)
	});
	if (bar)
		parts.push({
			label: `Bar “${bar.name}” (${bar.material}, ${bar.contact} contact)`,
			value: free.inherentForceN > 0 ? `x ${(used.inherentForceN / free.inherentForceN).toFixed(2)}` : 'nothing to take'
		});
	parts.push({ label: 'For comparison: infinite plate, no loss (0.335 E alpha / rho c x q)', value: kN(okerblom) });
	parts.push({ label: 'Metal yields to this distance from the seam', value: `${used.plasticHalfWidthMm.toFixed(0)} mm` });
	parts.push({
		label: 'Sheet while hot: taken as held flat',
		value: 'left free to bow: about a third more (one solid-model trial), inside the band'
	});

	const plate: ThinPlate = {
		power: q * settings.speedMmPerS,
		speed: settings.speedMmPerS,
		thickness,
		lambda,
		rhoC,
		ambient: ambientC,
		loss: 2 * STILL_AIR
	};
	const meltWidth = heatedWidth(plate, meltC);
	// heat that reached the bar by the time the pool has frozen and the metal beside it begins to pull (about a pool length behind)
	const barShare = withBar ? withBar.history.barShare(passing * 3) : 0;
	const tintWidth = heatedWidth({ ...plate, power: plate.power * (1 - barShare) }, TINT_C);

	const freeShrinkage = (alpha / rhoC) * (q / thickness);
	let transverse = freeShrinkage * (1 - barShare);
	parts.push({ label: 'Transverse shrinkage, free butt (alpha / rho c x q / t)', value: `${freeShrinkage.toFixed(3)} mm` });
	if (bar) parts.push({ label: 'Heat the bar takes while it is hot', value: `${(100 * barShare).toFixed(0)} %` });
	const added = addedMetal(joint, thickness);
	for (const { label, areaMm2 } of added) {
		const more = (0.1 * areaMm2) / thickness;
		transverse += more;
		parts.push({ label: `${label}: ${areaMm2.toFixed(1)} mm2 (0.10 A / t, Blodgett)`, value: `+ ${more.toFixed(3)} mm` });
	}
	if (!joint.filler) parts.push({ label: 'Fusion only', value: 'no metal added' });
	if (!joint.filler && joint.gapMm > 0.1 * thickness)
		warnings.push(
			`Seam “${joint.name}” is fused without filler across a gap of ${joint.gapMm} mm: the sheet itself must fill it, and the seam will sink or blow through. Close the gap or add filler.`
		);
	let angular = taperAngle(meltWidth, thickness, joint.penetration, alpha * (meltC - ambientC)) * (1 - barShare);
	parts.push({ label: `Angular change, ${joint.penetration} penetration (pool taper)`, value: `${((angular * 180) / Math.PI).toFixed(2)}°` });

	if (joint.response) {
		tendonForceN = joint.response.tendonForceN ?? tendonForceN;
		transverse = joint.response.transverseShrinkageMm ?? transverse;
		angular = joint.response.angularChangeRad ?? angular;
		parts.push({ label: 'Given for this joint', value: 'replaces the values above' });
	}
	if (used.imbalance > 1e-4) warnings.push('The strips of this seam did not come into balance: its tendon force is not to be trusted.');
	warnings.push(...settingWarnings(settings, heat, thickness, meltWidth, m));
	return {
		tendonForceN,
		transverseShrinkageMm: transverse,
		angularChangeRad: angular,
		eccentricityMm: joint.response?.eccentricityMm ?? ECCENTRICITY[joint.penetration] * thickness,
		across,
		heat,
		meltWidthMm: meltWidth,
		tintWidthMm: tintWidth,
		methods: [
			{ name: 'strips, as used', tendonForceN: used.inherentForceN },
			{ name: 'strips, no bar', tendonForceN: free.inherentForceN },
			{ name: 'closed form, infinite plate without loss', tendonForceN: okerblom }
		],
		barShare,
		overridden: joint.response !== undefined,
		parts,
		warnings
	};
}

/** Joints whose weld lies in a corner between the sheets. */
const FILLETS: readonly Joint['type'][] = ['lap', 'tee', 'corner-overlap', 'flange-to-tube', 'port'];

/** Metal that the weld adds across the joint: the gap is filled whatever fills it, a fillet's leg only where filler is fed. */
function addedMetal(joint: Joint, thickness: number): { label: string; areaMm2: number }[] {
	const out: { label: string; areaMm2: number }[] = [];
	if (joint.gapMm > 0) out.push({ label: 'Root gap filled', areaMm2: joint.gapMm * thickness });
	if (joint.filler && joint.weldSizeMm && FILLETS.includes(joint.type)) out.push({ label: 'Fillet of filler', areaMm2: joint.weldSizeMm ** 2 / 2 });
	return out;
}

/** Fillers the trade uses by grade (common practice, no source). */
const FILLERS: Record<string, readonly string[]> = {
	'1.4301': ['308L', '308', '309L', '316L'],
	'1.4307': ['308L', '309L', '316L'],
	'1.4404': ['316L', '318'],
	'1.4541': ['347', '308L', '321']
};

export function settingWarnings(s: WeldSettings, heat: ArcEnergy, thickness: number, meltWidth: number, m: Material): string[] {
	const out: string[] = [];
	if (s.current === 'pulsed' && (s.backgroundA === undefined || s.onFraction === undefined))
		out.push('Pulsed current needs a background current and an on-time; 50 % on and the peak current are taken until they are given.');
	if (s.current === 'pulsed' && s.backgroundA !== undefined && s.backgroundA > s.ampsA)
		out.push(`Background ${s.backgroundA} A is above the peak of ${s.ampsA} A.`);
	if (meltWidth > 6 * thickness)
		out.push(
			`The pool comes out ${meltWidth.toFixed(1)} mm wide on ${thickness.toFixed(2)} mm sheet: likely to burn through or sag. Use less current, more speed or a bar.`
		);
	if (meltWidth === 0) out.push('At this heat the sheet does not melt through on the line: more current or less speed.');
	else if (meltWidth < thickness) out.push(`The pool comes out only ${meltWidth.toFixed(1)} mm wide: it may not reach the root.`);
	const rule = thickness / 0.0254;
	if (m.group === 'austenitic' && heat.meanAmps > 1.5 * rule)
		out.push(`${heat.meanAmps.toFixed(0)} A mean is well above 1 A per 0.001 in (${rule.toFixed(0)} A; common practice, no source).`);
	const wanted = FILLERS[m.id];
	if (s.fillerGrade && wanted && !wanted.includes(s.fillerGrade.trim().toUpperCase()))
		out.push(`Filler ${s.fillerGrade} is unusual for ${m.name}: ${wanted.join(', ')} are common.`);
	if (m.group === 'austenitic' && s.process === 'TIG' && s.postFlowS !== undefined && s.postFlowS < 1)
		out.push('Post-flow under 1 s leaves the end of the run hot in air: it will grey.');
	return out;
}
