/** Residual heat of earlier runs and the wait it asks for: line sources in a thin plate with surface loss. */
import type { Vec3 } from '../geometry/vec';

/** Still air plus radiation at low temperature, W/mm2.K for one face (15 W/m2K; common value, no source). */
export const STILL_AIR = 15e-6;

export interface LaidRun {
	/** ends in space, mm */
	from: Vec3;
	to: Vec3;
	/** J/mm */
	netHeat: number;
	/** s, when its arc went out */
	endTime: number;
}

export interface CoolingPlate {
	thickness: number;
	lambda: number;
	rhoC: number;
	ambient: number;
}

function toSegment(p: Vec3, a: Vec3, b: Vec3) {
	const d = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
	const l2 = d[0] ** 2 + d[1] ** 2 + d[2] ** 2;
	const f = ((p[0] - a[0]) * d[0] + (p[1] - a[1]) * d[1] + (p[2] - a[2]) * d[2]) / l2;
	const aside = [0, 1, 2].map((i) => p[i] - a[i] - f * d[i]);
	const length = Math.sqrt(l2);
	return { along: f * length, length, aside2: aside[0] ** 2 + aside[1] ** 2 + aside[2] ** 2 };
}

/** Error function, Abramowitz & Stegun 7.1.26 (error below 1.5e-7). */
export function erf(x: number): number {
	const t = 1 / (1 + 0.3275911 * Math.abs(x));
	const y = 1 - ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x);
	return x < 0 ? -y : y;
}

/** Temperature at a point and time from the runs laid so far, °C. The sheet is taken as flat and wide (it is folded: an estimate). */
export function residualTemperature(p: Vec3, time: number, laid: readonly LaidRun[], plate: CoolingPlate): number {
	const a = plate.lambda / plate.rhoC;
	let rise = 0;
	for (const run of laid) {
		const age = time - run.endTime;
		if (age <= 0) continue;
		const { along, length, aside2 } = toSegment(p, run.from, run.to);
		const spread = Math.sqrt(4 * a * age);
		const part = (erf(along / spread) - erf((along - length) / spread)) / 2;
		const line = run.netHeat / (plate.thickness * plate.rhoC * Math.sqrt(Math.PI) * spread);
		rise += line * part * Math.exp(-aside2 / (spread * spread) - (2 * STILL_AIR * age) / (plate.rhoC * plate.thickness));
	}
	return plate.ambient + rise;
}

/** Seconds to wait, from `time` on, until the point is at or below `limit`, whatever it does in between. At most four hours. */
export function waitFor(limit: number, p: Vec3, time: number, laid: readonly LaidRun[], plate: CoolingPlate): number {
	const hot = (t: number) => residualTemperature(p, t, laid, plate) > limit;
	let enough = 0; // first sampled moment after which it has stayed cool so far
	let step = 2;
	let cool = 0;
	for (let t = 1; t < 14_400; t += step) {
		if (hot(time + t)) {
			enough = 0;
			cool = -1;
		} else if (cool < 0) {
			enough = t;
			cool = 1;
		} else if (++cool > 40) break;
		step = Math.min(60, step * 1.05);
	}
	// still hot after four hours: say so by the longest wait there is
	return cool < 0 ? 14_400 : Math.ceil(enough);
}
