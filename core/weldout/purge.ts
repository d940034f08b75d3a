/**
 * Purging the root: how long to sweep a closed space before the arc. Two ways a space is swept, and most lie between them:
 * well mixed, where each volume change leaves 1/e of what was there, and displacement, where argon fills from below.
 */
import type { PlanDocument } from '../document/schema';
import { blocksOf } from '../holds';
import { Refusal } from '../refusal/refusal';

/** Oxygen in air, ppm. */
export const AIR_OXYGEN_PPM = 209_500;
/** Residual oxygen at which stainless roots stay bright to straw, ppm (common practice, no source; codes and customers set their own). */
export const ROOT_OXYGEN_PPM = 100;
/** Flow above which the stream stirs the space and drags air in, L/min (common practice, no source). */
export const GENTLE_FLOW = 20;

/** Volume changes to come down to a residual, well mixed: ln(air / wanted). @throws RangeError outside (0, air) */
export function volumeChanges(wantedPpm = ROOT_OXYGEN_PPM): number {
	if (!(wantedPpm > 0 && wantedPpm < AIR_OXYGEN_PPM)) throw new Refusal(`Residual oxygen must lie between 0 and ${AIR_OXYGEN_PPM} ppm`);
	return Math.log(AIR_OXYGEN_PPM / wantedPpm);
}

/** Oxygen after a time of sweeping a well-mixed space, ppm. */
export const oxygenAfter = (minutes: number, volumeL: number, flowLPerMin: number) => AIR_OXYGEN_PPM * Math.exp((-flowLPerMin * minutes) / volumeL);

export interface Sweep {
	changes: number;
	/** well mixed, min: the safe side */
	mixedMin: number;
	/** pure displacement, one volume: the least it can take, min */
	displacedMin: number;
	argonL: number;
	/** mean speed in the vent, m/s */
	ventSpeed?: number;
	cautions: string[];
}

/** Speed in the vent above which pressure builds and blows the root out, m/s (own estimate: some tens of pascals). */
export const VENT_FAST = 3;

/** @param volumeL closed in behind the seams, L; @param flowLPerMin L/min; @param ventMm bore of the vent, mm */
export function sweep(volumeL: number, flowLPerMin: number, ventMm?: number, wantedPpm = ROOT_OXYGEN_PPM): Sweep {
	const changes = volumeChanges(wantedPpm);
	const mixedMin = (changes * volumeL) / flowLPerMin;
	const ventSpeed = ventMm ? flowLPerMin / 60 / 1000 / ((Math.PI / 4) * (ventMm / 1000) ** 2) : undefined;
	const cautions = [
		'Argon displaces air and cannot be smelled: never put head or body into a purged vessel; confined-space rules and a watch apply.',
		'Argon is heavier than air: let it in low, keep the vent open at the top, and open through the whole weld and cooling.',
		'Read the oxygen at the root with a meter where the root matters: this is an estimate for a space that mixes.'
	];
	if (!ventMm) cautions.push('No vent is given: a closed vessel builds up pressure and blows the root out. One must always be open.');
	else if (ventSpeed! > VENT_FAST)
		cautions.push(`The vent of ${ventMm} mm is small for ${flowLPerMin} L/min: pressure would build up. Open it further or turn the flow down.`);
	if (flowLPerMin > GENTLE_FLOW) cautions.push(`${flowLPerMin} L/min stirs the space: sweep more gently, or longer.`);
	return { changes, mixedMin, displacedMin: volumeL / flowLPerMin, argonL: mixedMin * flowLPerMin, ventSpeed, cautions };
}

/** How a plan's root is purged, for bench and sheets. */
export interface PurgeSetting {
	flowLPerMin?: number;
	ventMm?: number;
	dams?: string;
	litres?: number;
	/** to come down to ROOT_OXYGEN_PPM, well mixed; unknown where volume or flow is not given */
	sweepMin?: number;
	cautions: string[];
}

/** @returns how it is purged, or undefined where no gas is planned behind the root */
export function purgeOf({ root }: Pick<PlanDocument, 'root'>): PurgeSetting | undefined {
	if (root?.care !== 'purge' && root?.care !== 'both') return undefined;
	const { volumeL: litres, flowLPerMin, ventMm, dams } = root;
	if (litres === undefined || flowLPerMin === undefined)
		return {
			litres,
			flowLPerMin,
			ventMm,
			dams,
			cautions: ['Volume or flow is not given with the plan: sweep until a meter reads the oxygen that the root may have.']
		};
	const s = sweep(litres, flowLPerMin, ventMm);
	return { litres, flowLPerMin, ventMm, dams, sweepMin: Math.ceil(s.mixedMin), cautions: s.cautions };
}

/** What stands behind the root, stated plainly, and where that is not so. */
export function rootWords(plan: Pick<PlanDocument, 'root' | 'joints' | 'holdDowns' | 'runs'>): string {
	const care = plan.root?.care ?? 'none';
	const barred = new Set(
		blocksOf(plan)
			.filter((b) => b.contact === 'tight' && Math.abs(b.offsetMm ?? 0) < b.widthMm / 2)
			.map((b) => b.joint)
	);
	const through = plan.joints.filter((j) => !j.stock && j.penetration === 'full' && plan.runs.some((r) => r.joint === j.id));
	const named = (list: typeof through) => {
		const names = list.slice(0, MOST_NAMED).map((j) => `“${j.name}”`);
		return names.join(', ') + (list.length > MOST_NAMED ? ` and ${list.length - MOST_NAMED} more` : '');
	};
	const [bare, behind] = [through.filter((j) => !barred.has(j.id)), through.filter((j) => barred.has(j.id))];
	if (care === 'none' && behind.length)
		return bare.length
			? `A tight bar stands behind ${named(behind)}, nothing behind ${named(bare)}: there it will sugar where the weld goes through.`
			: 'A tight bar stands behind every root: it keeps air off and takes heat, so the sheet moves less; it must touch all along.';
	const lacks = (care === 'bar' || care === 'both') && bare.length ? ` No tight bar stands behind ${named(bare)} yet.` : '';
	return ROOT_WORDS[care] + lacks;
}
const MOST_NAMED = 3;

const ROOT_WORDS = {
	none: 'Nothing behind the root: it will sugar where the weld goes through. Right only for welds that do not penetrate.',
	bar: 'A tight bar keeps air off and takes heat, so the sheet moves less; it must touch along the whole root.',
	purge: 'Argon keeps the root bright and takes no heat: the sheet moves as if it were welded in air.',
	both: 'A bar takes the heat, argon in its groove keeps the root bright: the most work, and the best root.'
} as const;
