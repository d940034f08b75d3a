/** What a fit-up sheet says of each seam: film, gap, trimming, how to set a preset. Figures are common practice, no source, where none is named. */

import { JOINTS } from '../joints';
import { filmBackMm } from '../weldout/film';
import { presetSetting, presetWords } from '../weldout/preset';
import type { Joint, Part, PlanDocument } from '../document/schema';

export interface SeamAdvice {
	joint: string;
	/** film back from the seam on each side, mm */
	filmMm: number;
	/** the largest gap to weld over, mm */
	gapLimitMm: number;
	/** shrinkage across that each 0.1 mm of gap adds, mm */
	perTenthMm: number;
	notes: string[];
}

/** Largest gap: a tenth of the sheet where it is fused, half of it where filler is fed (common practice, no source). */
export const gapLimit = (joint: Pick<Joint, 'filler'>, thickness: number) => (joint.filler ? 0.5 : 0.1) * thickness;

/** @param tintMm width of the tint band by joint @param length lengths in the person's unit */
export function fitUpAdvice(plan: PlanDocument, tintMm: ReadonlyMap<string, number>, length = (mm: number) => `${mm.toFixed(1)} mm`): SeamAdvice[] {
	const partOf = (id: string): Part => plan.parts.find((p) => p.id === id)!;
	return plan.joints
		.filter((j) => !j.stock)
		.map((j) => {
			const [a, b] = [partOf(j.a.part), partOf(j.b.part)];
			const thickness = Math.min(a.thicknessMm, b.thicknessMm);
			const limit = gapLimit(j, thickness);
			const notes: string[] = [];
			if (j.gapMm > limit)
				notes.push(
					`The gap of ${j.gapMm} mm is wider than ${limit.toFixed(2)} mm: ${j.filler ? 'close it before tacking' : 'close it, or feed filler'}.`
				);
			if (a.thicknessMm !== b.thicknessMm)
				notes.push(
					`Sheets of ${a.thicknessMm} and ${b.thicknessMm} mm: point the arc at the thicker one (“${(a.thicknessMm > b.thicknessMm ? a : b).name}”) and let the pool wash over.`
				);
			const preset = presetSetting(plan, j);
			if (preset) notes.push(presetWords(preset, length));
			notes.push(...JOINTS[j.type].advice);
			if (j.type === 'butt' && plan.family?.parameters.fit === 'trimmed')
				notes.push(
					'Lay the sheets over each other, clamp, and cut both with one line; keep the line straight: a straight edge can be filed and shifted, a wandering one cannot. Deburr both edges.'
				);
			for (const [side, part] of [
				[j.a, a],
				[j.b, b]
			] as const)
				if (part.roll && a.id === b.id && side === j.a)
					notes.push(
						`The edges of a rolled sheet stay flat for about ${(2 * part.thicknessMm).toFixed(0)} to ${(10 * part.thicknessMm).toFixed(0)} mm: pre-bend them or leave trim on, or the seam stands peaked.`
					);
			const nearFold = [
				[j.a, a],
				[j.b, b]
			].some(([side, part]) => nearAFold(side as Joint['a'], part as Part));
			if (nearFold) notes.push('A fold runs close beside this seam: its radius pulls the edge out of line. Dress it before tacking.');
			return { joint: j.id, filmMm: filmBackMm(tintMm.get(j.id) ?? 0), gapLimitMm: limit, perTenthMm: 0.01, notes };
		});
}

/** A fold that runs along the seam, closer than its own radius and four thicknesses. */
function nearAFold(side: Joint['a'], part: Part): boolean {
	const [p, q] = [side.path[0], side.path[side.path.length - 1]];
	const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
	if (!(l > 0)) return false;
	return part.bends.some((b) => {
		const m = Math.hypot(b.to[0] - b.from[0], b.to[1] - b.from[1]);
		const sine = Math.abs((q[0] - p[0]) * (b.to[1] - b.from[1]) - (q[1] - p[1]) * (b.to[0] - b.from[0])) / (l * m);
		const away = Math.abs((b.from[0] - p[0]) * (q[1] - p[1]) - (b.from[1] - p[1]) * (q[0] - p[0])) / l;
		return sine < 0.05 && away > 0.5 && away < b.insideRadiusMm + 4 * part.thicknessMm;
	});
}
