/**
 * Arcs in the log of a welding source, and which run one was. Energy is the integral of volts times amps over the arc's time (ISO/TR 18491
 * for arcs that ramp or pulse), so that ramps count with what they gave and pauses with nothing; per length it is the arc energy of EN 1011-1.
 */
import type { DeviceReading } from './readings';

export type ArcSample = Pick<DeviceReading, 'id' | 'at' | 'arc' | 'ampsA' | 'volts'>;

export interface Arc {
	/** of the reading that says it went out */
	id: string;
	/** ms since 1970 */
	from: number;
	to: number;
	arcS: number;
	/** means over the arc's time, A and V; nothing where the source does not tell */
	ampsA?: number;
	volts?: number;
	/** J; nothing without amps and volts */
	energyJ?: number;
}

/** A shorter arc is a touch or a tack: no run, s. */
export const SHORTEST_S = 3;
/** A source that says nothing for this long while the arc burns is not heard any more: what it left open is no arc, s. */
export const SILENT_S = 120;

/** Arcs that have gone out, in order. A reading's amps and volts stand for the time since the one before it; a second `on` begins anew. */
export function arcsOf(samples: readonly ArcSample[]): Arc[] {
	const arcs: Arc[] = [];
	let open: { from: number; last: number; coulombs: number; voltSeconds: number; joules: number; toldS: number } | undefined;
	for (const s of [...samples].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))) {
		const at = Date.parse(s.at);
		if (open && at - open.last > 1000 * SILENT_S) open = undefined;
		if (open && s.arc !== 'on' && s.ampsA !== undefined) {
			const dt = (at - open.last) / 1000;
			open.coulombs += s.ampsA * dt;
			open.voltSeconds += (s.volts ?? 0) * dt;
			open.joules += s.ampsA * (s.volts ?? 0) * dt;
			open.toldS += dt;
		}
		if (open) open.last = at;
		if (s.arc === 'on') open = { from: at, last: at, coulombs: 0, voltSeconds: 0, joules: 0, toldS: 0 };
		if (s.arc === 'off' && open) {
			arcs.push(closed(s.id, at, open));
			open = undefined;
		}
	}
	return arcs;
}

function closed(id: string, to: number, o: { from: number; coulombs: number; voltSeconds: number; joules: number; toldS: number }): Arc {
	const arc: Arc = { id, from: o.from, to, arcS: (to - o.from) / 1000 };
	if (!(o.toldS > 0)) return arc;
	return { ...arc, ampsA: o.coulombs / o.toldS, ...(o.voltSeconds > 0 ? { volts: o.voltSeconds / o.toldS, energyJ: o.joules } : {}) };
}

/** What the plan has of the run in hand. */
export interface PlannedRun {
	/** of what is still to be laid, mm, in its direction */
	fromMm: number;
	toMm: number;
	speedMmPerS: number;
	/** mean of its current, A, and volts as planned or estimated */
	ampsA: number;
	volts: number;
}
export interface RecognisedRun {
	/** all of it, or the part from its beginning that an arc of this time lays at the planned speed */
	isWhole: boolean;
	toMm: number;
	/** mm/s: kept over the whole run; as planned where it is a part, for the length came from it */
	speedMmPerS: number;
	ampsA?: number;
	volts?: number;
	/** arc energy of this run over that of the plan; nothing where amps are not known */
	ratio?: number;
	/** what was much otherwise, in words; empty: as planned */
	otherwise: string[];
}

/** An arc of this share of the planned time is taken for the whole run, laid faster: hands differ by a quarter (common practice, no source). */
const WHOLE = 0.7;
/** Said from here on: below it hands and instruments differ anyway. */
export const MUCH = 0.15;

/** Which run an arc was; nothing where it is too short for one. */
export function recognise(arc: Arc, planned: PlannedRun): RecognisedRun | undefined {
	if (arc.arcS < SHORTEST_S) return undefined;
	const length = Math.abs(planned.toMm - planned.fromMm);
	const share = (arc.arcS * planned.speedMmPerS) / length;
	const isWhole = share >= WHOLE;
	const speedMmPerS = isWhole ? length / arc.arcS : planned.speedMmPerS;
	const toMm = isWhole ? planned.toMm : planned.fromMm + share * (planned.toMm - planned.fromMm);
	const ratio =
		arc.ampsA === undefined
			? undefined
			: (arc.ampsA * (arc.volts ?? planned.volts)) / speedMmPerS / ((planned.ampsA * planned.volts) / planned.speedMmPerS);
	const percent = (r: number) => `${Math.round(Math.abs(r - 1) * 100)} %`;
	const slowness = planned.speedMmPerS / speedMmPerS;
	const otherwise = [
		...(slowness > 1 + MUCH ? [`${percent(slowness)} longer under the arc than planned`] : []),
		...(slowness < 1 - MUCH ? [`${percent(slowness)} shorter under the arc than planned`] : []),
		...(ratio !== undefined && Math.abs(ratio - 1) > MUCH ? [`${percent(ratio)} ${ratio > 1 ? 'hotter' : 'colder'} than planned, by arc energy`] : [])
	];
	return { isWhole, toMm, speedMmPerS, ampsA: arc.ampsA, volts: arc.volts, ratio, otherwise };
}
