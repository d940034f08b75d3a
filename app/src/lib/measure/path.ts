/** A feature's way through the weld-out, laid out for a chart: forecast step by step beside what was read. */
import type { ReadMoment } from '$core/document/words';
import type { Paths } from '$core/forecast/paths';

export interface Bar {
	x: number;
	value: number;
	low: number;
	high: number;
}
export interface Path {
	/** under the axis: as received, each step, put right */
	labels: string[];
	forecast: { x: number; y: number }[];
	bands: Bar[];
	readings: Bar[];
	limits: number[];
	words: string;
}
export interface PathReading {
	moment: ReadMoment;
	value: number;
	uncertainty90: number;
	/** the run that lay last when it was read, where it was read after one */
	run?: string;
}

/** @param scale from mm to what the person reads */
export function pathOf(
	paths: Paths,
	feature: string,
	readings: readonly PathReading[],
	tolerance: { upper: number; lower?: number },
	scale: number
): Path {
	const own = paths.features[feature];
	const { steps } = paths;
	const at = (kind: string) =>
		1 +
		Math.max(
			0,
			steps.findIndex((s) => s.kind === kind)
		);
	/** so that its name stands clear of the last step's */
	const apart = Math.ceil(steps.length / 8);
	const place: Record<ReadMoment, (run?: string) => number> = {
		'as-received': () => 0,
		'as-tacked': () => at('tacked'),
		'after-run': (run) => {
			const k = steps.findIndex((s) => s.id === run);
			return k < 0 ? at('tacked') : 1 + k;
		},
		cold: () => at('cold'),
		unclamped: () => at('unclamped'),
		corrected: () => 1 + steps.length + apart
	};
	let runs = 0;
	const labels = [
		'received',
		...steps.map((s) => (s.kind === 'run' ? String(++runs) : s.kind === 'unclamped' ? 'free' : s.kind)),
		...(readings.some((r) => r.moment === 'corrected') ? [...Array.from({ length: apart }, () => ''), 'put right'] : [])
	];
	// past a panel's limit the quick method knows nothing of what waves own
	const speaks = own !== undefined && own.verdict !== 'final shape';
	const bar = (x: number, value: number, low: number, high: number): Bar => ({ x, value: value * scale, low: low * scale, high: high * scale });
	return {
		labels,
		forecast: speaks ? own.history.map((y, i) => ({ x: 1 + i, y: y * scale })) : [],
		bands: speaks
			? (['as-tacked', 'cold', 'unclamped'] as const).map((m) => bar(place[m](), own.moments[m].predicted, own.moments[m].low, own.moments[m].high))
			: [],
		readings: readings.map((r) => bar(place[r.moment](r.run), r.value, r.value - r.uncertainty90, r.value + r.uncertainty90)),
		limits: [tolerance.upper, ...(tolerance.lower === undefined ? [] : [tolerance.lower])].map((v) => v * scale),
		words: `${readings.length} reading${readings.length === 1 ? '' : 's'}${speaks ? ' beside the forecast step by step' : '; waves own it, so that the quick forecast is not drawn'}`
	};
}
