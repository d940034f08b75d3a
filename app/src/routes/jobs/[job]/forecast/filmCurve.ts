/** A feature's way through the steps as a line on a small picture, with its limits where they are near enough to be seen. */
interface Way {
	values: readonly number[];
	upper: number;
	lower?: number;
}

/** White above and below, share of the height. */
const ROOM = 0.12;

/** @param count steps of the film; a shorter way ends before the picture does @param width @param height of the picture */
export function curveOf({ values, upper, lower }: Way, count: number, width: number, height: number) {
	const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)];
	// a limit ten times as far as anything goes would press the way flat: it is off the picture
	const near = (limit: number) => Math.abs(limit) <= 4 * Math.max(-least, most);
	const limits = [upper, lower].filter((v): v is number => v !== undefined && near(v));
	const [lo, hi] = [Math.min(least, ...limits), Math.max(most, ...limits)];
	const span = hi - lo || 1;
	const y = (v: number) => height * (1 - ROOM - (1 - 2 * ROOM) * ((v - lo) / span));
	const x = (step: number) => (count > 1 ? (width * step) / (count - 1) : width / 2);
	return { path: values.map((v, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)} ${y(v).toFixed(1)}`).join(''), limits: limits.map(y), x, y };
}
