/** What a piece takes at the bench, for a quote: time, gas, filler, and how likely it must be corrected. Unit times are own estimates to be changed. */
import { lowerFactor } from '../linalg/smallSymmetric';
import { JOINTS } from '../joints';
import { arcEnergy } from '../heat/arcEnergy';
import { findMaterial } from '../materials/grades';
import type { FeatureForecast, Forecast } from '../forecast/forecast';
import { Z90 } from '../factors/factors';
import { normalsFrom } from '../linalg/random';
import { settingsOf, type Schedule } from '../forecast/schedule';
import type { Joint, PlanDocument, Quote, WeldSettings } from '../document/schema';

/** To turn the piece and set it down again (own estimate), s. */
export const FLIP_S = 60;
/** A tack with its reposition (own estimate), s. */
export const TACK_S = 12;
/** A hold-down put on and taken off again (own estimate), s. */
export const HOLD_S = 60;
/** Of the wire fed, what becomes weld (common practice for TIG, no source). */
export const DEPOSITED = 0.95;
/** A cap and a root beyond the gap, on a butt or an edge corner, as a share of the sheet squared (own estimate). */
export const CAP = 0.25;
const DEFAULT_PRE_FLOW_S = 0.5;
const DEFAULT_POST_FLOW_S = 6;

export const DEFAULT_QUOTE: Quote = { fitUpMinPerPart: 6, setUpMin: 30, reworkMin: 25 };

export interface Estimate {
	/** s, per piece */
	arcS: number;
	tackS: number;
	betweenS: number;
	waitS: number;
	flips: number;
	flipS: number;
	fitUpS: number;
	/** the most likely rework: chance times what one takes */
	reworkS: number;
	reworkChance: number;
	/** unattended, after the last arc */
	coolS: number;
	/** hands on the piece: all of it but cooling at the end */
	benchS: number;
	gasL: number;
	purgeL: number;
	fillerG: number;
	/** J of arc */
	arcJ: number;
	cost?: { labour: number; gas: number; filler: number; total: number };
	batch: { quantity: number; benchS: number; gasL: number; fillerG: number; total?: number };
}

/** mm2 of filler metal in a section of the seam. */
export function fillerArea(joint: Joint, thicknessMm: number): number {
	if (!joint.filler) return 0;
	if (JOINTS[joint.type].isEdgeToEdge) return joint.gapMm * thicknessMm + CAP * thicknessMm ** 2;
	const leg = joint.weldSizeMm ?? thicknessMm;
	// a flat fillet: half the square of its leg; what the gap takes comes on top
	return leg ** 2 / 2 + joint.gapMm * leg;
}

/** Draws behind the chance of rework: it is known to some thousandths. */
const DRAWS = 20_000;

/**
 * Chance that at least one feature lies outside its limits: normal within the bands, erring together as the method's own draws
 * do, since the same welds and the same shop factors move them all.
 * @param correlation features x features, row by row
 */
export function chanceOutside(
	features: readonly Pick<FeatureForecast, 'predicted' | 'low' | 'high' | 'tolerance'>[],
	correlation: readonly number[]
): number {
	const n = features.length;
	const L = lowerFactor(correlation, n);
	const sigma = features.map((f) => (f.high - f.low) / (2 * Z90));
	const next = normalsFrom(1812);
	const z = new Float64Array(n);
	let out = 0;
	for (let k = 0; k < DRAWS; k++) {
		for (let i = 0; i < n; i++) z[i] = next();
		const isOut = features.some(({ predicted, tolerance: { upper, lower } }, i) => {
			let v = 0;
			for (let j = 0; j <= i; j++) v += L[i * n + j] * z[j];
			const value = predicted + sigma[i] * v;
			return value > upper || (lower !== undefined && value < lower);
		});
		if (isOut) out++;
	}
	return out / DRAWS;
}

/** @param flips turns of the piece in the weld order @param quantity pieces of the job */
export function estimate(
	plan: PlanDocument,
	schedule: Schedule,
	{ features, correlation }: Pick<Forecast, 'features' | 'correlation'>,
	flips: number,
	quantity: number
): Estimate {
	const quote = plan.quote ?? DEFAULT_QUOTE;
	const thin = (j: Joint) => Math.min(...[j.a.part, j.b.part].map((id) => plan.parts.find((p) => p.id === id)!.thicknessMm));
	let [gasL, purgeL, fillerG, arcJ] = [0, 0, 0, 0];
	const flow = (s: WeldSettings, arcS: number) =>
		(s.gasLPerMin * (arcS + (s.preFlowS ?? DEFAULT_PRE_FLOW_S) + (s.postFlowS ?? DEFAULT_POST_FLOW_S))) / 60;
	plan.runs.forEach((r, i) => {
		const joint = plan.joints.find((j) => j.id === r.joint)!;
		const s = settingsOf(plan, r);
		const { arcS, waitS } = schedule.runs[i];
		const length = Math.abs(r.toMm - r.fromMm);
		gasL += flow(s, arcS);
		purgeL += ((s.purgeLPerMin ?? 0) * (arcS + waitS)) / 60;
		arcJ += arcEnergy(s).arcEnergy * length;
		const { density } = findMaterial(plan.parts.find((p) => p.id === joint.a.part)!.material, plan.materials);
		fillerG += (fillerArea(joint, thin(joint)) * length * density * 1e-6) / DEPOSITED;
	});
	const tackS = plan.tacks.length * TACK_S;
	for (const t of plan.tacks)
		gasL += flow(
			plan.settings.find((s) => s.id === plan.joints.find((j) => j.id === t.joint)!.settings)!,
			2
		);
	const waitS = schedule.runs.reduce((s, r) => s + r.waitS, 0);
	const betweenS = schedule.totalS - schedule.arcS - waitS;
	const fitUpS = quote.fitUpMinPerPart * 60 * plan.parts.length;
	const reworkChance = chanceOutside(features, correlation);
	const reworkS = reworkChance * quote.reworkMin * 60;
	const flipS = flips * FLIP_S;
	const benchS = schedule.arcS + tackS + betweenS + waitS + flipS + fitUpS + reworkS;
	const all = benchS * quantity + quote.setUpMin * 60;
	const money = (seconds: number, litres: number, grams: number) => {
		const labour = (seconds / 3600) * (quote.hourRate ?? 0);
		const gas = litres * (quote.gasPerL ?? 0);
		const filler = (grams / 1000) * (quote.fillerPerKg ?? 0);
		return { labour, gas, filler, total: labour + gas + filler };
	};
	const priced = quote.hourRate !== undefined;
	return {
		arcS: schedule.arcS,
		tackS,
		betweenS,
		waitS,
		flips,
		flipS,
		fitUpS,
		reworkS,
		reworkChance,
		coolS: schedule.coolToMeasureS,
		benchS,
		gasL,
		purgeL,
		fillerG,
		arcJ,
		cost: priced ? money(benchS, gasL + purgeL, fillerG) : undefined,
		batch: {
			quantity,
			benchS: all,
			gasL: quantity * (gasL + purgeL),
			fillerG: quantity * fillerG,
			total: priced ? money(all, quantity * (gasL + purgeL), quantity * fillerG).total : undefined
		}
	};
}
