/** What crosses between the page and the forecast worker. */
import type { Forecast, Shapes } from '$core/forecast/forecast';
import type { ShopFactors } from '$core/learn/factors';
import type { PlanDocument } from '$core/plan/schema';

export interface SeamLine {
	joint: string;
	lengthMm: number;
	stations: number[];
	/** 3 per station, mm */
	points: number[];
	/** 3 per station: towards the weld side */
	side: number[];
	/** node of sheet A at each station */
	nodes: number[];
}

export interface Geometry {
	xyz: Float32Array;
	tri: Uint32Array;
	triPart: Uint16Array;
	seams: SeamLine[];
	sizeMm: number;
}

/** Errors cross as data: a worker's error objects lose their class on the way. */
export type Outcome<T> = { ok: true; data: T } | { ok: false; message: string };

export interface QuickApi {
	geometry(plan: PlanDocument): Outcome<Geometry>;
	forecast(plan: PlanDocument, factors: ShopFactors | undefined, progress: (share: number) => void): Outcome<{ result: Forecast; shapes: Shapes }>;
}
