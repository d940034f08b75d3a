/** Maps of the panels that were read over a grid, for the record: each as it was last read. */
import type { PlanDocument } from '$core/document/schema';
import { heightMapSvg, offPlane } from '$core/draw/heightMap';
import { readingContext } from '$core/features/context';
import { MOMENT_WORDS, type ReadMoment } from '$core/document/words';

interface GridRead {
	feature: string;
	method: string;
	moment: ReadMoment;
	readings: number[];
	measuredAt: Date;
	withdrawnAt: Date | null;
}
export interface HeightMap {
	name: string;
	words: string;
	svg: string;
}

const WIDTH_PT = 240;
/** Maps of panels flatter than this all look alike: their scale reaches no closer, mm. */
const LEAST_MM = 0.2;

export function heightMaps(plan: PlanDocument, readings: readonly GridRead[], length: (mm: number) => string): HeightMap[] {
	const last = plan.features.flatMap((f) => {
		const read = readings.filter((r) => r.feature === f.id && r.method === 'grid' && !r.withdrawnAt).pop();
		if (!read) return [];
		const { nx, sizeMm, relief } = readingContext(f, plan);
		const own = read.readings.map((z, i) => z - (relief?.[i] ?? 0));
		return [{ f, read, nx: nx!, size: sizeMm!, off: offPlane(own, nx!, sizeMm!) }];
	});
	const largest = Math.max(LEAST_MM, ...last.flatMap((m) => m.off.map(Math.abs)));
	return last.map(({ f, read, nx, size, off }) => ({
		name: f.name,
		words: `${MOMENT_WORDS[read.moment]}, ${read.measuredAt.toISOString().slice(0, 10)}: from ${length(Math.min(...off))} to ${length(Math.max(...off))} off its best plane, mm in the cells, seen from its front`,
		svg: heightMapSvg(off, nx, size, largest, WIDTH_PT)
	}));
}
