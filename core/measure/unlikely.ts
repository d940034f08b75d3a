/**
 * Readings that look like a slip of the hand: in the wrong unit, a figure moved by a place, or far from those beside them. They are asked
 * about and never refused: a piece may be as odd as that.
 */
import { METHOD_KINDS, type Method } from './methods';
import { unitsOf, type ReadingContext } from './methods/method';
import { MM_PER_INCH } from '../units/length';

export interface Doubt {
	/** place of the reading */
	at: number;
	words: string;
}

/** As near as this to a slip of the unit or of a figure is taken for one, as a share. */
const NEAR = 0.05;
/** A reading this many times as far from the line of its neighbours as the others are from theirs is asked about. */
const FAR = 6;
/** Below this many readings in a row nobody can say which is odd. */
const FEWEST = 4;

const SLIPS: readonly [number, string][] = [
	[1 / MM_PER_INCH, 'Is it in inches?'],
	[MM_PER_INCH, 'Was it in mm, and taken for inches?'],
	[10, 'Is a figure too many in it?'],
	[0.1, 'Is a figure missing in it?']
];

/** @param readings as many as are there; NaN where nothing is typed yet */
export function unlikely(method: Method, readings: readonly number[], context: ReadingContext): Doubt[] {
	const kind = METHOD_KINDS[method];
	const labels = kind.labels({ ...context, places: readings.length });
	const units = unitsOf(kind, { ...context, places: readings.length });
	const doubts: Doubt[] = [];
	const { nominal } = context;
	// only what is read on the scale of the drawing can be held against it
	const isWhole = kind.least !== undefined && !kind.least.isAllowed;
	if (nominal !== undefined && isWhole)
		readings.forEach((r, at) => {
			const slip = units[at] === 'mm' && SLIPS.find(([by]) => Math.abs(r / (nominal * by) - 1) < NEAR);
			if (slip) doubts.push({ at, words: `${labels[at]}: ${r} where the drawing has ${nominal.toFixed(2)}. ${slip[1]}` });
		});
	if (kind.chosen && !kind.isPoints) doubts.push(...outOfLine(readings, labels, kind.reading90));
	if (method === 'grid' && context.nx) {
		const { nx } = context;
		for (let row = 0; row < readings.length / nx; row++)
			doubts.push(
				...outOfLine(readings.slice(row * nx, (row + 1) * nx), labels.slice(row * nx, (row + 1) * nx), kind.reading90).map((d) => ({
					...d,
					at: d.at + row * nx
				}))
			);
	}
	return doubts;
}

/** Of readings along a line: the one without which the rest follow one another far better than it follows them. */
function outOfLine(readings: readonly number[], labels: readonly string[], reading90: number): Doubt[] {
	if (readings.length < FEWEST || readings.some((r) => !Number.isFinite(r))) return [];
	const rows = readings.map((r, i): [number, number] => [i, r]);
	const tried = rows.map((own) => {
		const rest = rows.filter((p) => p !== own);
		return { own, rest, rough: Math.max(...rest.slice(1, -1).map((p, k) => Math.abs(offLine(p, rest[k], rest[k + 2])))) };
	});
	const { own, rest, rough } = tried.reduce((best, t) => (t.rough < best.rough ? t : best));
	const [at] = own;
	const k = Math.min(Math.max(at - 1, 0), rest.length - 2);
	const off = Math.abs(offLine(own, rest[k], rest[k + 1]));
	return off > FAR * Math.max(2 * reading90, rough) ? [{ at, words: `${labels[at]}: ${own[1]} stands far off those beside it. Is it as read?` }] : [];
}

/** How far a place stands off the line through two others. */
const offLine = ([x, y]: readonly [number, number], [x1, y1]: readonly [number, number], [x2, y2]: readonly [number, number]) =>
	y - y1 - ((y2 - y1) * (x - x1)) / (x2 - x1);
