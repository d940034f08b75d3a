/** Scans as pictures for the record: each beside the forecast of how the piece would lie, all on one scale, from two corners. */
import sharp from 'sharp';
import { fieldMapSvg, fieldScaleSvg, offDrawing } from '$core/draw/fieldMap';
import type { ShopFactors } from '$core/factors/factors';
import type { PlanDocument } from '$core/document/schema';
import type { ForecastCache } from '$core/forecast/cache';
import { forecast } from '$core/forecast/forecast';
import { drawingFit } from '$core/forecast/readers';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { fromDatum } from '$core/scan/datum';
import { ontoMesh } from '$core/scan/kept';
import { formatLength, type LengthUnit } from '$core/units/length';

export interface ScanMapsTask {
	plan: PlanDocument;
	factors: ShopFactors;
	unit: LengthUnit;
	/** words of each, and its shape as it is kept, on whatever mesh it was laid */
	scans: { words: string; isFromDatum: boolean; bytes: Uint8Array }[];
}

export interface ScanMap {
	words: string;
	/** PNG in base64: as scanned from two corners, then as forecast from the same */
	scanned: string[];
	forecast: string[];
}

export interface ScanMaps {
	/** SVG */
	scale: string;
	maps: ScanMap[];
}

const WIDTH_PX = 260;
const SCALE_PT = 200;
/** Sharp on paper. */
const DENSITY = 2.5;
/** The scale reaches no closer: what is flat everywhere is all of one colour, mm. */
const LEAST_MM = 0.2;
const CORNERS = [0, 2] as const;

export async function scanMaps({ plan, factors, unit, scans }: ScanMapsTask, cache: ForecastCache): Promise<ScanMaps> {
	const mesh = assemblyMesh(plan);
	const fit = drawingFit(mesh);
	const last = forecast(plan, { factors, cache }).shapes().steps.at(-1);
	const maps = scans.map(({ words, isFromDatum, bytes }) => {
		const own = last && ((isFromDatum ? fromDatum(plan, mesh, last) : undefined) ?? fit(Float64Array.from(mesh.xyz, (v, i) => v + last[i])));
		return { words, scanned: offDrawing(mesh, ontoMesh(bytes, mesh)), forecast: own && offDrawing(mesh, own) };
	});
	const furthest = (off: Float64Array | undefined) => off?.reduce((most, v) => Math.max(most, Math.abs(v)), 0) ?? 0;
	const largest = Math.max(LEAST_MM, ...maps.flatMap((m) => [furthest(m.scanned), furthest(m.forecast)]));
	const drawn = (off: Float64Array | undefined) =>
		off
			? Promise.all(
					CORNERS.map(async (turn) => {
						const svg = fieldMapSvg(mesh, off, largest, turn, WIDTH_PX);
						return (
							await sharp(Buffer.from(svg), { density: 72 * DENSITY })
								.png()
								.toBuffer()
						).toString('base64');
					})
				)
			: [];
	return {
		scale: fieldScaleSvg(largest, SCALE_PT, (mm) => formatLength(mm, unit, 2)),
		maps: await Promise.all(maps.map(async (m) => ({ words: m.words, scanned: await drawn(m.scanned), forecast: await drawn(m.forecast) })))
	};
}
