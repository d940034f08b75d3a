/** What crosses between the page and the worker that lays a scan on the piece. */
import type { PlanDocument } from '$core/document/schema';
import type { Side } from '$core/scan/align';
import type { FileUnit } from '$core/scan/cloud';
import type { ScannedFeature } from '$core/scan/features';
import type { Outcome } from '$lib/in-worker';

export interface ScanAsk {
	name: string;
	bytes: ArrayBuffer;
	unit: FileUnit;
	side: Side;
	/** displacement that it is laid on beside the drawing, 3 per node: the forecast's */
	onto?: Float32Array;
	/** the forecast's displacement, 3 per node, to be seen as the scan is */
	beside?: Float32Array;
	/** seen from the plan's three datum points; without: as close to the drawing as it can lie */
	isFromDatum: boolean;
	/** ids of the parts it is laid on; all where none is named */
	parts: string[];
	/** the way round, of those that fit alike */
	way?: number;
}

export interface ScanAnswer {
	points: number;
	taken: number;
	left: number;
	/** mm */
	rms: number;
	scatter: number;
	isSettled: boolean;
	way: number;
	others: { way: number; rms: number }[];
	features: ScannedFeature[];
	/** displacement of every node from the drawing, rigid motion taken out as was asked; 3 per node; and the forecast's alike */
	shape: Float32Array;
	/** it is seen from the plan's datum points */
	isFromDatum: boolean;
	beside?: Float32Array;
	/** names of the parts of which one face only was seen, and which one cannot be told */
	unsure: string[];
	/** share of the nodes that no point told of */
	unseen: number;
	seconds: number;
}

export interface ScanApi {
	lay(plan: PlanDocument, ask: ScanAsk, progress: (share: number) => void): Outcome<ScanAnswer>;
}
