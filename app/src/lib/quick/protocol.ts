/** What crosses between the page and the forecast worker. */
import type { Comparison } from '$core/forecast/compare';
import type { Forecast, Shapes } from '$core/forecast/forecast';
import type { ShopFactors } from '$core/factors/factors';
import type { WaitingRow } from '$core/estimate/waiting';
import type { Up } from '$core/layout/positions';
import type { PlanDocument } from '$core/document/schema';
import type { Outcome } from '$lib/in-worker';

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
	/** 2 per node: its place on its part's flat layout, mm */
	layout: Float32Array;
	seams: SeamLine[];
	sizeMm: number;
	/** by joint: how the piece may lie for it */
	positions: [string, Up[]][];
}

export interface DeepAnswer {
	result: Forecast;
	shape: Float32Array;
	other?: Float32Array;
}

/** Errors cross as data: a worker's error objects lose their class on the way. */
export interface QuickApi {
	geometry(plan: PlanDocument): Outcome<Geometry>;
	/** `first` gets the figures as soon as they are there; shapes and heat follow as the answer, or nothing where a newer question came in */
	forecast(
		plan: PlanDocument,
		factors: ShopFactors | undefined,
		progress: (share: number) => void,
		first: (result: Forecast) => void
	): Promise<Outcome<{ result: Forecast; shapes: Shapes }> | undefined>;
	compare(now: PlanDocument, then: PlanDocument, factors: ShopFactors | undefined): Outcome<Comparison>;
	/** for a general solver: the welds' pull laid on stage by stage */
	deck(plan: PlanDocument, factors: ShopFactors, title: string): Outcome<string>;
	waiting(plan: PlanDocument, factors: ShopFactors, progress: (share: number) => void): Outcome<WaitingRow[]>;
	finalShape(plan: PlanDocument, factors: ShopFactors | undefined, progress: (share: number) => void): Outcome<DeepAnswer>;
	/** the final shape with each arc watched; `plain`: the final shape without */
	hot(plan: PlanDocument, factors: ShopFactors | undefined, plain: Forecast | undefined, progress: (share: number) => void): Outcome<DeepAnswer>;
}
