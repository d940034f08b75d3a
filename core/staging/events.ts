/** What happens to the piece in order: hold-downs on and off, tacks and runs pair by pair, and the marks between. */
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument, Run, Tack } from '../document/schema';
import { tackedMark, Timeline } from '../sequence/timeline';
import type { Across } from '../response/bands';
import { NO_SPREAD, type EdgeSpread } from '../response/growth';
import { nearestPair, type Condensed } from './condense';

/** What one seam's metal does at a place while it is welded: from weldResponse, scaled by the shop's factors. */
export interface Actions {
	tendonForceN: number;
	transverseShrinkageMm: number;
	angularChangeRad: number;
	eccentricityMm: number;
	/** one standard deviation of it */
	eccentricitySpreadMm: number;
	/** rad, how far a sheet whose face it runs on is bent by what stands on it, both sides together */
	facePushRad: number;
	/** one standard deviation of how far it turns a sheet whose face it runs on, beyond the angle */
	faceTurnSpreadRad: number;
	/** one standard deviation of what a corner makes of its shrinkage across */
	edgeSpread: EdgeSpread;
	/** how the force lies across the seam: shares in each of BANDS, of A and of B; they make up one */
	across: Across;
	/** which of the values were given with the joint, and so are not scaled */
	given: { force: boolean; shrinkage: boolean; angle: boolean };
}

/** For where only the order of joining is asked for. */
export const NO_ACTIONS: Actions = {
	tendonForceN: 0,
	transverseShrinkageMm: 0,
	angularChangeRad: 0,
	eccentricityMm: 0,
	eccentricitySpreadMm: 0,
	facePushRad: 0,
	faceTurnSpreadRad: 0,
	edgeSpread: NO_SPREAD,
	across: [
		[0, 0],
		[0, 0]
	],
	given: { force: false, shrinkage: false, angle: false }
};

export type WeldEvent = {
	type: 'weld';
	seam: number;
	pair: number;
	from: number;
	to: number;
	owner: string;
	actions: Actions;
	tack: boolean;
	pass: number;
};
export type StageEvent = { type: 'on'; rows: number[] } | { type: 'off'; rows: number[]; owner: string } | WeldEvent | { type: 'mark'; id: string };

/** @param actionsAt what a seam's metal does at a station during run `index` (-1: tacks) */
export function eventsOf(plan: PlanDocument, seams: SeamMesh[], c: Condensed, actionsAt: ActionsAt): StageEvent[] {
	const events: StageEvent[] = [];
	// what the stock's maker has welded holds from the start
	seams.forEach(
		(s, k) =>
			s.joint.stock &&
			events.push({ type: 'on', rows: [...c.pairRow[k]].flatMap((r, i) => (s.a[i] === s.b[i] ? [] : [0, 1, 2, 3, 4, 5].map((d) => r + d))) })
	);
	for (const act of new Timeline(plan).acts()) {
		switch (act.kind) {
			case 'on':
			case 'off': {
				const rows = c.holdRows.get(act.holdDown.id);
				if (rows) events.push(act.kind === 'on' ? { type: 'on', rows } : { type: 'off', rows, owner: `release:${act.holdDown.id}` });
				break;
			}
			case 'tack':
				events.push(tackEvent(act.tack, seams, actionsAt));
				break;
			case 'tacked':
				events.push({ type: 'mark', id: tackedMark(act.step, act.index) });
				break;
			case 'run':
				events.push(...runEvents(act.run, act.index, seams, actionsAt), { type: 'mark', id: act.run.id });
				break;
			case 'cold':
			case 'unclamped':
				events.push({ type: 'mark', id: act.kind });
		}
	}
	return events;
}

type ActionsAt = (seam: number, station: number, runIndex: number) => Actions;

function tackEvent(t: Tack, seams: SeamMesh[], actionsAt: ActionsAt): WeldEvent {
	const seam = seams.findIndex((s) => s.joint.id === t.joint);
	return {
		type: 'weld',
		seam,
		pair: nearestPair(seams[seam], t.stationMm),
		from: t.stationMm - t.lengthMm / 2,
		to: t.stationMm + t.lengthMm / 2,
		owner: 'tacks',
		actions: actionsAt(seam, t.stationMm, -1),
		tack: true,
		pass: 1
	};
}

/** A run pair by pair in its direction. */
function runEvents(run: Run, index: number, seams: SeamMesh[], actionsAt: ActionsAt): WeldEvent[] {
	const k = seams.findIndex((s) => s.joint.id === run.joint);
	const seam = seams[k];
	const [lo, hi] = [Math.min(run.fromMm, run.toMm), Math.max(run.fromMm, run.toMm)];
	const pairs = [...seam.stations.keys()].filter((i) => overlap(seam.reach[i], lo, hi, seam) > 1e-9);
	if (run.toMm < run.fromMm) pairs.reverse();
	return pairs.map((pair) => ({
		type: 'weld',
		seam: k,
		pair,
		from: lo,
		to: hi,
		owner: run.id,
		actions: actionsAt(k, seam.stations[pair], index),
		tack: false,
		pass: run.pass
	}));
}

/** Length of [lo, hi] inside a reach, mm; a closed seam's reach may wrap past its datum. */
export function overlap(reach: [number, number], lo: number, hi: number, seam: SeamMesh): number {
	const part = (a: number, b: number) => Math.max(0, Math.min(b, hi) - Math.max(a, lo));
	let sum = part(reach[0], reach[1]);
	if (seam.closed) sum += part(reach[0] + seam.lengthMm, reach[1] + seam.lengthMm) + part(reach[0] - seam.lengthMm, reach[1] - seam.lengthMm);
	return sum;
}
