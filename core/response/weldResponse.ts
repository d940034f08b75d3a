/**
 * What one run does to the metal beside it, on the springs that the piece holds it with at that moment: each sheet as a layered
 * strip under the heat of the travelling arc (layeredStrip.ts). Force, where it lies, shrinkage across, turn and eccentricity come
 * from one solution. Every modifier is explicit in `parts`. Method and limits: docs/theory/response.md.
 */
import { JOINTS } from '../joints';
import { arcEnergy, type ArcEnergy } from '../heat/arcEnergy';
import { STILL_AIR } from '../heat/air';
import { sectionHistory, type Section, type SectionBar, type SectionHistory } from '../heat/section';
import { BLOCK_METALS, type Material } from '../materials/grades';
import { hotMetal, metalOf } from '../materials/hot';
import { METALS } from '../materials/metals';
import type { Bar, Joint, WeldSettings } from '../document/schema';
import type { Contact, Penetration } from '../document/words';
import { acrossOf } from './across';
import type { Across } from './bands';
import { barCorrection, leftAcross } from './barTable';
import { cornerEffect, givesWay, growthOf, NO_SPREAD, teeTurn, type EdgeSpread } from './growth';
import { heatForLeg, largestLeg } from './fillet';
import { FREE, layeredStrip, type LayeredResult, type MetalModel, type SectionSprings } from './layeredStrip';
import { stripForce } from './strips';

/** 2 ln 2 / sqrt(2 pi e): Okerblom (1958), Leggatt; 0.335. */
export const OKERBLOM = (2 * Math.LN2) / Math.sqrt(2 * Math.PI * Math.E);

/** Contact to a bar, W/mm2.K: 1000 to 5000 W/m2K clamped tight, 200 to 500 loose (quoted from memory). */
export const CONTACT_VALUES: Record<Contact, number> = { tight: 2000e-6, fair: 800e-6, loose: 300e-6 };

/** Temperature at which a straw tint shows on clean stainless after a short heating, °C (common practice, no source). */
export const TINT_C = 300;

/** How deep the arc's heat goes in before it spreads, share of the thickness (own estimates). */
const DEPTH: Record<Penetration, number> = { full: 1, partial: 0.6, sealing: 0.35 };
/** From here on the sheet is thick enough for the top to be hotter than the bottom for a while, mm. */
const LAYERED_FROM = 3;
const LAYERS = 3;

/** What the metal may do beyond its tables, the one in use first: how it hardens and what it forgets is worth more than the mesh. */
type Grade = Pick<Material, 'id' | 'group'>;
export const metalModels = (m: Grade): readonly [MetalModel, ...MetalModel[]] => {
	const hardening = metalOf(m).hardening.mpa;
	return [
		{ id: 'hardening', hardening, forgets: true },
		{ id: 'no-hardening', hardening: 0, forgets: true },
		{ id: 'nothing-forgotten', hardening, forgets: false }
	];
};

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
	/** metal yields to this distance from the seam, mm */
	yieldsToMm: number;
	/** the methods side by side, as used first: model form is the largest uncertainty, N */
	methods: { name: string; tendonForceN: number }[];
	/** the force with other plausible models of the metal, over the one in use: lowest and highest */
	spread: readonly [number, number];
	/** the force if freedom to bow added no more than it did in a solid model of a coupon, over the one in use: lowest and highest */
	freedom: readonly [number, number];
	/** one standard deviation of where the force lies in the thickness, mm */
	eccentricitySpreadMm: number;
	/** rad, both sides together: how far a sheet is bent towards what stands on it, because that grew while it was hot (growth.ts) */
	facePushRad: number;
	/** one standard deviation of how far a sheet is turned by a weld on its face, beyond what the section knows, rad; 0 where it is welded at its edge */
	faceTurnSpreadRad: number;
	/** one standard deviation of what a corner makes of its shrinkage across: with so much more of it comes so much of a turn; nothing elsewhere */
	edgeSpread: EdgeSpread;
	/** share of the net heat a bar has taken while the metal is hot */
	barShare: number;
	overridden: boolean;
	/** something lies outside what this can speak of; `warnings` say what */
	isOutside: boolean;
	parts: ResponsePart[];
	warnings: string[];
}

export interface ResponseInput {
	joint: Joint;
	settings: WeldSettings;
	/** sheets A and B; `isFace`: the seam runs on its face, so that there is sheet on both sides of the line */
	sheets: { material: Material; thicknessMm: number; widthMm?: number; isFace?: boolean }[];
	ambientC: number;
	bar?: Bar;
	/** bending stiffness of the piece along the seam, out of A's plane and out of B's, the sheets' own included, N.mm2 (staging/restraint.ts); by the joint's type where the piece is not known */
	bendingNmm2?: readonly [number, number];
}

/** What else tells how far a response can be trusted, or what changes it: one solution of the section each. */
export interface ForceVariants {
	/** °C before the arc by distance from the seam, mm (negative on A): heat that earlier runs have left */
	startC?: (x: number) => number;
	/** that heat is alike on both sides */
	isEven?: boolean;
	/** multiplies the bar's contact conductance */
	contactFactor?: number;
}

/** Sheet beyond this takes no part in one run: the plastic zone reaches 80 mm at most, and a section that bows as a whole stands for no more, mm. */
const SECTION_WIDEST = 150;
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

/** Below this a spring against bowing does nothing, above it the section is held, N.mm2 a half. */
const [SOFT, HELD] = [3e5, 3e8];
/** The same for a bow in a sheet's own plane, as shares of what the sheet has there itself. */
const [SOFT_IN_PLANE, HELD_IN_PLANE] = [0.03, 30];

/** In thirds of a decade: the answer is smooth in them, and alike seams share a solution. */
const spring = (stiffness: number, soft: number, held: number): number =>
	stiffness < soft ? 0 : stiffness > held ? Infinity : 10 ** (Math.round(3 * Math.log10(stiffness)) / 3);

/** Springs of each sheet's half, from the stiffness of the whole: its own sheets bend in the section already. */
export function springsOf({ joint, sheets, bendingNmm2 }: Pick<ResponseInput, 'joint' | 'sheets' | 'bendingNmm2'>): [SectionSprings, SectionSprings] {
	const { isFlat } = JOINTS[joint.type];
	if (bendingNmm2 === undefined) {
		const held = isFlat ? FREE : { ...FREE, curvature: Infinity };
		return [held, held];
	}
	const sides = sidesOf(sheets);
	const own = sides.reduce((s, x) => s + (x.count * x.metal.eModulus(20) * x.thickness ** 3 * x.width) / 12, 0);
	return [0, 1].map((k) => ({
		...FREE,
		curvature: spring((bendingNmm2[k] - own) / 2, SOFT, HELD),
		inPlane: isFlat ? Infinity : inPlaneSpring(k as 0 | 1, bendingNmm2[1 - k], sheets, sides)
	})) as [SectionSprings, SectionSprings];
}

/**
 * What holds a sheet that is welded at its edge against bending in its own plane, N.mm2: the stiffness of the piece out of the other
 * sheet's plane, less the sheet's own and what the other brings as a flange, which follows the edge and bends it no further. A flange
 * pulled at its own edge is worth a quarter of its section (a strip gives way there four times as far as by its length alone), one
 * pulled in its middle the whole (Bernoulli). A sheet welded on its face has sheet on both sides and is held by it.
 */
function inPlaneSpring(k: 0 | 1, stiffness: number, sheets: ResponseInput['sheets'], sides: readonly [Side, Side]): number {
	const [own, other] = [sides[k], sides[1 - k]];
	if (own.count > 1) return Infinity;
	const wide = (x: Side, i: number) => Math.max(x.width * x.count, sheets[i]?.widthMm ?? x.width * x.count);
	const E = own.metal.eModulus(20);
	const width = wide(own, k);
	const area = own.thickness * width;
	const flange = (other.thickness * wide(other, 1 - k)) / (other.count > 1 ? 1 : 4);
	const bySection = E * ((own.thickness * width ** 3) / 12 + ((area * flange) / (area + flange)) * (width / 2) ** 2);
	const strip = (E * own.thickness * own.width ** 3) / 12;
	// the strip stands for no more than it is wide: what a wider sheet has beyond it holds it
	const beyond = (E * own.thickness * width ** 3) / 12 - strip;
	return spring(Math.max(0, stiffness - bySection) + beyond, SOFT_IN_PLANE * strip, HELD_IN_PLANE * strip);
}

interface Heat {
	history: SectionHistory;
	first: number;
	/** what it was worked out from */
	key: string;
}

interface Side {
	width: number;
	thickness: number;
	metal: ReturnType<typeof hotMetal>;
	grade: Material;
	/** of the net heat, both its halves together where there are two */
	share: number;
	/** sheets beside the line: two where it is welded on its face */
	count: number;
}

const sidesOf = (sheets: ResponseInput['sheets']): [Side, Side] => {
	const [a, b] = [sheets[0], sheets[1] ?? sheets[0]];
	const count = (x: typeof a) => (x.isFace ? 2 : 1);
	const whole = a.thicknessMm * count(a) + b.thicknessMm * count(b);
	return [a, b].map((x) => ({
		width: Math.min(SECTION_WIDEST, Math.max(SECTION_NARROWEST, (x.widthMm ?? SECTION_WIDEST) / count(x))),
		thickness: x.thicknessMm,
		metal: hotMetal(x.material),
		grade: x.material,
		share: (x.thicknessMm * count(x)) / whole,
		count: count(x)
	})) as [Side, Side];
};

/** s the arc takes to pass a point: a pool's length over the speed */
const passingOf = (settings: WeldSettings) => 4 / settings.speedMmPerS;

/** Answers kept, by what they were worked out from: the same question is asked of many seams, and after every edit. */
class Kept<T> {
	private readonly known = new Map<string, T>();
	constructor(private readonly most: number) {}
	get(key: string, make: () => T): T {
		let found = this.known.get(key);
		if (found === undefined) {
			found = make();
			if (this.known.size >= this.most) this.known.clear();
			this.known.set(key, found);
		}
		return found;
	}
}
const keptHeats = new Kept<Heat>(60);
const keptStrips = new Kept<LayeredResult>(300);
const keptSpreads = new Kept<readonly [number, number]>(200);

/** The heat of one run in one of its sheets, taken as one of two like sheets; and where that sheet's own cells begin. */
function heatOf(input: ResponseInput, side: 0 | 1, v: ForceVariants = {}): Heat {
	const { settings, joint, ambientC } = input;
	const sides = sidesOf(input.sheets);
	const own = sides[side];
	const bar = input.bar && sectionBar(input.bar);
	const held = bar && { ...bar, contact: bar.contact * (v.contactFactor ?? 1) };
	const sign = side === 0 ? -1 : 1;
	const alike = { ...own, share: 0.5 };
	const section: Section = {
		sheets: [alike, alike],
		air: STILL_AIR,
		ambientC,
		netHeat: (arcEnergy(settings).netHeat * own.share * 2) / own.count,
		speed: settings.speedMmPerS,
		startC: v.startC && ((x) => v.startC!(sign * Math.abs(x))),
		bar: held,
		layers: joint.penetration !== 'full' || own.thickness >= LAYERED_FROM ? LAYERS : 1,
		depth: DEPTH[joint.penetration]
	};
	const key = JSON.stringify([section, input.sheets[side]?.material ?? input.sheets[0].material]);
	const solve = () => {
		const history = sectionHistory(section);
		return { history, first: history.x.findIndex((x) => x > 0), key };
	};
	// heat left by earlier runs is hardly ever the same twice, and hardly changes the shape of the field
	if (!v.startC) return keptHeats.get(key, solve);
	section.near = heatOf(input, side, { ...v, startC: undefined }).history.near;
	return solve();
}

/** One sheet's strip under its heat; both its halves where it has two. */
function stripOf(
	input: ResponseInput,
	side: 0 | 1,
	springs: SectionSprings,
	model: MetalModel,
	heat = heatOf(input, side)
): LayeredResult & { count: number } {
	const own = sidesOf(input.sheets)[side];
	const { history, first } = heat;
	const nz = history.layers;
	const n = history.x.length;
	// where a bar lies off the middle, side A's cells are those left of the seam, from the seam outwards
	const isLeft = side === 0 && input.bar !== undefined && (input.bar.offsetMm ?? 0) !== 0;
	const cells = Array.from({ length: n - first }, (_, i) => (isLeft ? first - 1 - i : first + i));
	const rows = history.layered ?? history.temperatures;
	const solve = () =>
		layeredStrip({
			dy: Float64Array.from(cells, (i) => history.dx[i]),
			temperatures: rows.map((row) => Float64Array.from({ length: cells.length * nz }, (_, k) => row[cells[Math.floor(k / nz)] * nz + (k % nz)])),
			layers: nz,
			times: history.times,
			arcS: history.arcS,
			speed: input.settings.speedMmPerS,
			thickness: own.thickness,
			metal: own.metal,
			model,
			springs
		});
	return { ...keptStrips.get(`${heat.key}/${isLeft}/${model.id}/${springs.curvature}/${springs.inPlane}`, solve), count: own.count };
}

const isSameHold = (a: SectionSprings, b: SectionSprings) => a.curvature === b.curvature && a.inPlane === b.inPlane;

/** The same for both sheets; like ones are solved once. */
function stripsOf(input: ResponseInput, springs: readonly SectionSprings[], model: (grade: Grade) => MetalModel, heats: readonly Heat[]) {
	const sides = sidesOf(input.sheets);
	const a = stripOf(input, 0, springs[0], model(sides[0].grade), heats[0]);
	const isSame = heats[1] === heats[0] && isSameHold(springs[0], springs[1]);
	return [a, isSame ? a : stripOf(input, 1, springs[1], model(sides[1].grade), heats[1])] as const;
}

const isLike = ([a, b]: [Side, Side], input: ResponseInput) =>
	a.metal === b.metal && a.thickness === b.thickness && a.width === b.width && a.count === b.count && !(input.bar?.offsetMm ?? 0);

function heatsOf(input: ResponseInput, v: ForceVariants = {}): readonly [Heat, Heat] {
	const a = heatOf(input, 0, v);
	return [a, isLike(sidesOf(input.sheets), input) && (!v.startC || v.isEven) ? a : heatOf(input, 1, v)];
}

/** Force of strips held straight and flat (plane sections, no bending), N: for comparison, and for what changes a force in proportion. */
function straightForce(input: ResponseInput, heats: readonly Heat[]): number {
	const sides = sidesOf(input.sheets);
	const of = (k: 0 | 1) => {
		const like = [sides[k], sides[k]] as const;
		return (stripForce({ history: heats[k].history, sheets: like, heldStraight: true }).inherentForceN / 2) * sides[k].count;
	};
	const a = of(0);
	return a + (heats[1] === heats[0] ? a : of(1));
}

/** Factor on the tendon force under other conditions than the response's own, by straight strips. */
export function forceFactor(input: ResponseInput, v: ForceVariants): number {
	const own = straightForce(input, heatsOf(input));
	return own > 0 ? straightForce(input, heatsOf(input, v)) / own : 1;
}

/** Full width heated to a temperature or more, mm: where the peaks pass it, by straight lines between cells on a scale of logarithms. */
function widthAbove(heats: readonly Heat[], celsius: number): number {
	return heats.reduce((sum, { history, first }) => {
		const { x, peakC } = history;
		if (peakC[first] <= celsius) return sum;
		let i = first;
		while (i + 1 < x.length && peakC[i + 1] > celsius) i++;
		if (i + 1 === x.length) return sum + x[i];
		const f = Math.log(peakC[i] / celsius) / Math.log(peakC[i] / peakC[i + 1]);
		return sum + x[i] + f * (x[i + 1] - x[i]);
	}, 0);
}

/** Width of the pool on the line, mm: what passes the melting point. */
export function poolWidth(input: ResponseInput): number {
	return widthAbove(poolHeats(input), meanPair(input.sheets).meltC);
}

/** Width of the band that takes a tint, both sides together, mm: heat alone, no strips. */
export const tintWidth = (input: ResponseInput): number => widthAbove(heatsOf(input), TINT_C);

/** A pool is fed by the whole arc before its heat spreads: on a face, too, it melts as on an edge; and a bar is grooved under it. */
const poolHeats = (input: ResponseInput) => heatsOf({ ...input, bar: undefined, sheets: input.sheets.map((s) => ({ ...s, isFace: false })) });

// eslint-disable-next-line max-lines-per-function -- a line for each part of the response, with what it stands on
export function weldResponse(input: ResponseInput): WeldResponse {
	const { joint, settings, sheets, bar } = input;
	const heat = arcEnergy(settings);
	const q = heat.netHeat;
	const warnings: string[] = [];
	const parts: ResponsePart[] = [];
	const thickness = sheets.reduce((s, x) => s + x.thicknessMm, 0) / sheets.length;
	const pair = sidesOf(sheets);
	const means = meanPair(sheets);
	const heats = heatsOf(input);
	const springs = springsOf(input);
	const models = (i: number) => (grade: Grade) => metalModels(grade)[i];
	const used = stripsOf(input, springs, models(0), heats);
	const sum = (f: (r: LayeredResult) => number, of: readonly (LayeredResult & { count: number })[] = used) =>
		of.reduce((s, r) => s + r.count * f(r), 0);
	const straight = straightForce(input, heats);
	const okerblom = OKERBLOM * ((means.eModulus * means.alpha) / means.rhoC) * q;
	const kN = (v: number) => `${(v / 1000).toFixed(1)} kN`;

	const asHeld = sum((r) => r.forceN);
	const onBar = barEffect(input, used, () => stripsOf(bareInput(input), springs, models(0), heatsOf(bareInput(input))));
	const tendonForceN = asHeld * onBar.correction;
	parts.push({
		label: `Tendon force of the section as held: ${pair.map((p) => `${p.count > 1 ? '2 x ' : ''}${p.width.toFixed(0)}`).join(' + ')} mm of sheet`,
		value: kN(asHeld)
	});
	parts.push(...onBar.forceParts);
	parts.push({ label: 'How the piece holds it while it cools', value: springs.map(heldWords).join('; ') });
	const flat = straight > 0 ? asHeld / straight : 1;
	parts.push({ label: 'For comparison: straight strips, held flat', value: `${kN(straight)} (as held: x ${flat.toFixed(2)})` });
	parts.push({ label: 'For comparison: infinite plate, no loss (0.335 E alpha / rho c x q)', value: kN(okerblom) });
	const spread = metalSpread(input);
	parts.push({
		label: 'Other plausible metal: no hardening; nothing forgotten when hot',
		value: spread.map((f) => kN(f * tendonForceN)).join(' to ')
	});
	const yieldsToMm = Math.max(...used.map((r) => r.plasticHalfWidthMm));
	parts.push({ label: 'Metal yields to this distance from the seam', value: `${yieldsToMm.toFixed(0)} mm` });
	parts.push({
		label: 'Mean distance of the pull from the seam, A and B',
		value: used.map((r) => `${r.distanceMm.toFixed(0)}`).join(' and ') + ' mm'
	});

	const meltWidth = poolWidth(input);
	// heat that reached the bar by the time the pool has frozen and the metal beside it begins to pull (about a pool length behind)
	const barShare = bar ? heats.reduce((s, h, k) => s + pair[k].share * h.history.barShare(passingOf(settings) * 3), 0) : 0;

	const angled = atAngle(input, pair, q, onBar.transverseMm);
	let transverse = angled.shrinkageMm;
	parts.push(...onBar.acrossParts, ...angled.acrossParts);
	parts.push({
		label: 'For comparison: free butt (alpha / rho c x q / t)',
		value: `${((means.alpha / means.rhoC) * (q / thickness)).toFixed(3)} mm`
	});
	if (bar) parts.push({ label: 'Heat the bar takes while it is hot', value: `${(100 * barShare).toFixed(0)} %` });
	const added = addedMetal(joint);
	transverse += added.mm;
	parts.push(...added.parts);
	const fillet = filletOf(joint);
	if (fillet && heatForLeg(fillet, sheets[0].material) > q)
		warnings.push(
			`Seam “${joint.name}”: a leg of ${fillet} mm is ${(fillet ** 2 / 2).toFixed(1)} mm2 of filler, and melting that alone takes ${heatForLeg(fillet, sheets[0].material).toFixed(0)} J/mm of net heat. This arc gives ${q.toFixed(0)}: it lays ${largestLeg(q, sheets[0].material).toFixed(1)} mm at most in one pass. Ask for a smaller leg, or weld hotter: the piece then pulls more than is forecast here.`
		);
	if (!joint.filler && joint.gapMm > 0.1 * thickness)
		warnings.push(
			`Seam “${joint.name}” is fused without filler across a gap of ${joint.gapMm} mm: the sheet itself must fill it, and the seam will sink or blow through. Close the gap or add filler.`
		);
	const fold = sum((r) => r.turnRad);
	parts.push({ label: 'Angular change: fold of the section while it cools', value: degrees(fold) }, ...angled.turnParts);
	const eccentricity = asHeld > 0 ? sum((r) => r.momentNmm) / asHeld : 0;
	parts.push({ label: 'The pull lies from mid-thickness, towards the weld', value: `${eccentricity.toFixed(3)} mm` });

	const own: Inherent = {
		tendonForceN,
		transverseShrinkageMm: transverse,
		angularChangeRad: fold + angled.turnRad,
		eccentricityMm: eccentricity,
		eccentricitySpreadMm: ECCENTRICITY_SPREAD * thickness,
		facePushRad: angled.tee.turnRad,
		faceTurnSpreadRad: angled.tee.spreadRad,
		edgeSpread: angled.edgeSpread
	};
	const given = joint.response;
	const said = given ? withGiven(own, given) : own;
	if (given) parts.push({ label: 'Given for this joint', value: 'replaces the values above' });
	if (used.some((r) => !r.isBalanced))
		warnings.push('The section of this seam did not come into balance at every step: its tendon force is less certain than the band says.');
	const limits = limitWarnings(input, pair, meltWidth, said.tendonForceN);
	warnings.push(...settingWarnings(settings, heat, thickness, meltWidth, sheets[0].material), ...limits);
	const sides = used.map((r, k) => ({
		force: r.count * r.forceN,
		distance: given?.widthMm ? given.widthMm / 4 : r.distanceMm,
		width: pair[k].width
	}));
	return {
		...said,
		across: acrossOf([sides[0], sides[1]]),
		heat,
		meltWidthMm: meltWidth,
		tintWidthMm: widthAbove(heats, TINT_C),
		yieldsToMm,
		methods: [
			{ name: 'section as held', tendonForceN: asHeld * onBar.correction },
			{ name: 'straight strips, held flat', tendonForceN: straight },
			{ name: 'closed form, infinite plate without loss', tendonForceN: okerblom }
		],
		spread,
		freedom: [freedomLow(flat), 1],
		barShare,
		overridden: given !== undefined,
		isOutside: limits.length > 0,
		parts,
		warnings
	};
}

/** What a joint's own values may replace, and what is not known of the rest. */
type Inherent = Pick<
	WeldResponse,
	| 'tendonForceN'
	| 'transverseShrinkageMm'
	| 'angularChangeRad'
	| 'eccentricityMm'
	| 'eccentricitySpreadMm'
	| 'facePushRad'
	| 'faceTurnSpreadRad'
	| 'edgeSpread'
>;

/** A value that is given replaces the section's, and what was not known of it. */
function withGiven(own: Inherent, given: NonNullable<Joint['response']>): Inherent {
	const [shrinks, turns] = [given.transverseShrinkageMm !== undefined, given.angularChangeRad !== undefined];
	return {
		tendonForceN: given.tendonForceN ?? own.tendonForceN,
		transverseShrinkageMm: given.transverseShrinkageMm ?? own.transverseShrinkageMm,
		angularChangeRad: given.angularChangeRad ?? own.angularChangeRad,
		eccentricityMm: given.eccentricityMm ?? own.eccentricityMm,
		eccentricitySpreadMm: given.eccentricitySpreadMm ?? own.eccentricitySpreadMm,
		facePushRad: turns ? 0 : own.facePushRad,
		faceTurnSpreadRad: turns ? 0 : own.faceTurnSpreadRad,
		edgeSpread: {
			shrinkageMm: shrinks ? NO_SPREAD.shrinkageMm : own.edgeSpread.shrinkageMm,
			turnRad: turns ? NO_SPREAD.turnRad : own.edgeSpread.turnRad
		}
	};
}

const degrees = (rad: number) => `${((rad * 180) / Math.PI).toFixed(2)}°`;

/** What each sheet's growth does to the other where they meet at an angle (growth.ts). @param butt mm, what a butt of them would close by */
function atAngle({ joint, bar }: ResponseInput, pair: readonly [Side, Side], q: number, butt: number) {
	const growth = pair.map((s) => growthOf(s.grade, (q * s.share) / s.count, s.thickness));
	const corner = cornerEffect(joint, butt, growth[0] + growth[1], bar !== undefined);
	const web = pair.findIndex((s) => s.count === 1);
	const tee = teeTurn(joint, web >= 0 && pair.some((s) => s.count > 1) ? growth[web] : 0, bar !== undefined);
	const acrossParts: ResponsePart[] = givesWay(joint, bar !== undefined)
		? [
				{
					label: 'At a corner: between edges that keep together (nothing) and edges that slide (all of it)',
					value: `${corner.shrinkageMm.toFixed(3)} mm`
				}
			]
		: [];
	const turnParts: ResponsePart[] = [
		...(corner.turnRad ? [{ label: 'Each sheet grown into the other: the corner closes inside', value: degrees(corner.turnRad) }] : []),
		...(tee.turnRad ? [{ label: 'The web grown into the sheet it stands on', value: degrees(tee.turnRad) }] : [])
	];
	return { shrinkageMm: corner.shrinkageMm, turnRad: corner.turnRad, edgeSpread: corner.spread, tee, acrossParts, turnParts };
}

type Strips = readonly (LayeredResult & { count: number })[];

const bareInput = (input: ResponseInput): ResponseInput => ({ ...input, bar: undefined });
const over = (strips: Strips, f: (r: LayeredResult) => number) => strips.reduce((s, r) => s + r.count * f(r), 0);

/** What a bar leaves of the pull and of the shrinkage across, with how it was come by; without one, all of it. @param without the strips as they would be without it */
function barEffect({ bar, settings, sheets }: ResponseInput, used: Strips, without: () => Strips) {
	if (!bar) {
		const transverseMm = over(used, (r) => r.shrinkageMm);
		return {
			correction: 1,
			transverseMm,
			forceParts: [],
			acrossParts: [{ label: 'Transverse shrinkage of the section', value: `${transverseMm.toFixed(3)} mm` }]
		};
	}
	const thickness = sheets.reduce((s, x) => s + x.thicknessMm, 0) / sheets.length;
	const on = { heatPerThickness: arcEnergy(settings).netHeat / thickness, thickness, contact: CONTACT_VALUES[bar.contact] };
	const bare = without();
	const [free, held] = [bare, used].map((s) => over(s, (r) => r.forceN));
	const [correction, left] = [barCorrection(on), leftAcross(on)];
	const plain = over(bare, (r) => r.shrinkageMm);
	return {
		correction,
		transverseMm: left * plain,
		forceParts: [
			{
				label: `Bar “${bar.name}” (${bar.material}, ${bar.contact} contact): in the section`,
				value: free > 0 ? `x ${(held / free).toFixed(2)}` : 'nothing to take'
			},
			{ label: 'A plane section fails round a short hot spot: factor of the moving plane-stress model', value: `x ${correction.toFixed(2)}` }
		],
		acrossParts: [
			{ label: 'Transverse shrinkage of the section, without the bar', value: `${plain.toFixed(3)} mm` },
			{ label: 'Of it the bar leaves, by the moving plane-stress model', value: `x ${left.toFixed(2)}` }
		]
	};
}

/** Widths of sheet beside a seam, mm, that stand for all others where the width hardly matters. */
const STANDING_WIDTHS = [20, 40, 80, SECTION_WIDEST];

/**
 * Lowest and highest force with other plausible models of the metal over that with the one in use, in the section held against bowing: how
 * it is held hardly matters to that. Nor does its width: the nearest of a few is taken, so that many seams share an answer and none hangs
 * on which of them was asked first.
 */
function metalSpread(input: ResponseInput): readonly [number, number] {
	const held = { ...FREE, curvature: Infinity };
	const { settings, bar, joint, ambientC } = input;
	const sides = sidesOf(input.sheets);
	const sheets = input.sheets.map((s, k) => {
		const near = STANDING_WIDTHS.reduce((p, q) => (Math.abs(Math.log(q / sides[k].width)) < Math.abs(Math.log(p / sides[k].width)) ? q : p));
		return { ...s, widthMm: near * sides[k].count };
	});
	const key = JSON.stringify([
		arcEnergy(settings).netHeat,
		settings.speedMmPerS,
		sheets.map((s) => [s.material, s.thicknessMm, s.widthMm, s.isFace]),
		bar && { ...bar, id: '', life: '', fromMm: 0, toMm: 0 },
		joint.penetration,
		ambientC
	]);
	return keptSpreads.get(key, () => {
		const standing = { ...input, sheets };
		const heats = heatsOf(standing);
		const force = (i: number) =>
			stripsOf(standing, [held, held], (grade) => metalModels(grade)[i], heats).reduce((s, r) => s + r.count * r.forceN, 0);
		const [own, ...others] = [0, 1, 2].map(force);
		return own > 0 ? [Math.min(1, ...others.map((f) => f / own)), Math.max(1, ...others.map((f) => f / own))] : [1, 1];
	});
}

/** Where the pull lies in the thickness is known to about this, share of it, one standard deviation (own estimate; it picks the way a panel goes). */
export const ECCENTRICITY_SPREAD = 0.05;

/**
 * What freedom to bow adds to the force is this share of what the section says, in solid elements (free over held flat 1.21 against
 * some 1.8; tests/verification/coupons.test.ts holds the number to them). The section stays in use; this is the low end of its range.
 */
export const FREEDOM_IN_SOLID = 0.25;
const freedomLow = (overFlat: number) => (overFlat > 1 ? (1 + FREEDOM_IN_SOLID * (overFlat - 1)) / overFlat : 1);

function heldWords({ curvature, inPlane }: SectionSprings, side: number): string {
	const words = (stiffness: number, free: string, held: string, against: string) =>
		stiffness === 0 ? free : stiffness === Infinity ? held : `${(stiffness / 1e6).toPrecision(2)} N.m2 against ${against}`;
	return `${'AB'[side]} ${words(curvature, 'free to bow', 'held straight', 'bowing')}, ${words(inPlane, 'free to bend in its plane', 'not in its plane', 'bending in its plane')}`;
}

/** Constants of both sheets by the heat each takes: neither side is the first. */
function meanPair(sheets: ResponseInput['sheets']) {
	const sides = sidesOf(sheets);
	const of = (f: (m: Material) => number) => sides.reduce((s, x, k) => s + x.share * f((sheets[k] ?? sheets[0]).material), 0);
	return {
		eModulus: of((m) => m.eModulus),
		alpha: of((m) => m.responsePair.alpha),
		rhoC: of((m) => m.responsePair.rhoC),
		meltC: of((m) => m.responsePair.meltC)
	};
}

/** What lies outside what a response can speak of, each by name. */
function limitWarnings({ joint, sheets }: ResponseInput, pair: readonly Side[], meltWidth: number, tendonForceN: number): string[] {
	const out: string[] = [];
	const name = `Seam “${joint.name}”`;
	if (meltWidth === 0)
		out.push(`${name}: this arc melts nothing. What it would do to the piece is worked out, but there would be no weld: more current or less speed.`);
	const most = pair.reduce((s, p, k) => s + p.count * p.width * p.thickness * (sheets[k] ?? sheets[0]).material.proofStrength, 0);
	if (tendonForceN > most && most > 0)
		out.push(
			`${name}: a pull of ${(tendonForceN / 1000).toFixed(0)} kN is more than the ${(most / 1000).toFixed(0)} kN at which the whole of the sheet beside it yields: it cannot be this high. Less heat, or a wider sheet in the model.`
		);
	const thin = Math.min(...pair.map((p) => p.thickness));
	if (thin < THINNEST) out.push(`${name}: on ${thin} mm sheet nothing here has been checked: take the forecast as a direction only.`);
	return out;
}

/** Below this no model behind the response has been compared with anything, mm. */
const THINNEST = 0.8;

/** Leg of a fillet that filler is fed into, mm. */
export const filletOf = (joint: Joint): number | undefined => (joint.filler && !JOINTS[joint.type].isEdgeToEdge ? joint.weldSizeMm : undefined);

/** What metal that the weld adds shrinks besides: a gap is filled whatever fills it; a fillet acts by the heat that lays it (docs/theory/response.md). */
function addedMetal(joint: Joint): { mm: number; parts: ResponsePart[] } {
	const parts: ResponsePart[] = [];
	const mm = joint.gapMm > 0 ? 0.1 * joint.gapMm : 0;
	if (mm) parts.push({ label: `Root gap of ${joint.gapMm} mm filled (0.10 A / t, Blodgett)`, value: `+ ${mm.toFixed(3)} mm` });
	const leg = filletOf(joint);
	if (leg) parts.push({ label: `Fillet of ${leg} mm: acts by the heat that lays it`, value: 'nothing added' });
	if (!joint.filler) parts.push({ label: 'Fusion only', value: 'no metal added' });
	return { mm, parts };
}

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
	if (meltWidth > 0 && meltWidth < thickness) out.push(`The pool comes out only ${meltWidth.toFixed(1)} mm wide: it may not reach the root.`);
	const rule = thickness / 0.0254;
	if (metalOf(m).welding.needsRootGas && heat.meanAmps > 1.5 * rule)
		out.push(`${heat.meanAmps.toFixed(0)} A mean is well above 1 A per 0.001 in (${rule.toFixed(0)} A; common practice, no source).`);
	const metal = METALS.find((x) => x.id === m.id);
	const wanted = metal?.welding.usual;
	if (s.fillerGrade && wanted && !wanted.includes(s.fillerGrade.trim().toUpperCase()))
		out.push(`Filler ${s.fillerGrade} is unusual for ${m.name}: ${wanted.join(', ')} are common.`);
	if (metalOf(m).welding.needsRootGas && s.process === 'TIG' && s.postFlowS !== undefined && s.postFlowS < 1)
		out.push('Post-flow under 1 s leaves the end of the run hot in air: it will grey.');
	return out;
}
