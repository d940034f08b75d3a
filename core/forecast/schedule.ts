/** When each run is laid and how warm the metal is: arc time, waits for the interpass limit, cooling to measure. */
import { residualTemperature, waitFor, type CoolingPlate, type LaidRun } from '../heat/cooling';
import { arcEnergy } from '../heat/arcEnergy';
import { findMaterial } from '../materials/grades';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument, WeldSettings } from '../plan/schema';
import type { Vec3 } from '../geometry/vec';
import { nodeAt } from '../shell/model';

/** Between two runs: reposition, wire, helmet (own estimate), s. */
export const BETWEEN_RUNS_S = 15;
/** Cool enough to measure: this far above the shop's air, K (what is measured hot is not what you get cold). */
export const MEASURE_ABOVE_AIR = 10;

export interface RunTiming {
	run: string;
	/** s from the first arc */
	startS: number;
	arcS: number;
	waitS: number;
	/** metal at the run's start before its arc, °C */
	startC: number;
}

export interface Schedule {
	runs: RunTiming[];
	arcS: number;
	totalS: number;
	/** after the last arc, s */
	coolToMeasureS: number;
}

export function settingsOf(plan: PlanDocument, run: { joint: string; settings?: string }): WeldSettings {
	const joint = plan.joints.find((j) => j.id === run.joint)!;
	return plan.settings.find((s) => s.id === (run.settings ?? joint.settings))!;
}

export function pointOnSeam(mesh: AssemblyMesh, seam: SeamMesh, station: number): Vec3 {
	const s = seam.stations;
	let i = 1;
	while (i < s.length - 1 && s[i] < station) i++;
	const f = s[i] > s[i - 1] ? Math.min(1, Math.max(0, (station - s[i - 1]) / (s[i] - s[i - 1]))) : 0;
	const p = nodeAt(mesh.xyz, seam.a[i - 1]);
	const q = nodeAt(mesh.xyz, seam.a[i]);
	return [0, 1, 2].map((d) => p[d] + f * (q[d] - p[d])) as Vec3;
}

export function schedule(plan: PlanDocument, mesh: AssemblyMesh): Schedule {
	const laid: LaidRun[] = [];
	const runs: RunTiming[] = [];
	let time = 0;
	let arc = 0;
	let plate: CoolingPlate | undefined;
	for (const run of plan.runs) {
		const seam = mesh.seams.find((s) => s.joint.id === run.joint)!;
		const part = plan.parts.find((p) => p.id === seam.joint.a.part)!;
		const { lambda, rhoC } = findMaterial(part.material, plan.materials).responsePair;
		plate = { thickness: part.thicknessMm, lambda, rhoC, ambient: plan.ambientC };
		const settings = settingsOf(plan, run);
		const from = pointOnSeam(mesh, seam, run.fromMm);
		const to = pointOnSeam(mesh, seam, run.toMm);
		if (runs.length) time += BETWEEN_RUNS_S;
		// a little behind the start: at the very end of a run just laid the line formula knows no pool
		const waitS = run.waitBeforeS ?? waitFor(plan.interpassLimitC, from, time, laid, plate);
		time += waitS;
		const startC = residualTemperature(from, time, laid, plate);
		const arcS = Math.abs(run.toMm - run.fromMm) / settings.speedMmPerS;
		runs.push({ run: run.id, startS: time, arcS, waitS, startC });
		time += arcS;
		arc += arcS;
		laid.push({ from, to, netHeat: arcEnergy(settings).netHeat, endTime: time });
	}
	let coolToMeasureS = 0;
	if (plate && laid.length) {
		const limit = plan.ambientC + MEASURE_ABOVE_AIR;
		for (const r of laid.slice(-6)) {
			const middle = [0, 1, 2].map((d) => (r.from[d] + r.to[d]) / 2) as Vec3;
			coolToMeasureS = Math.max(coolToMeasureS, waitFor(limit, middle, time, laid, plate));
		}
	}
	return { runs, arcS: arc, totalS: time, coolToMeasureS };
}
