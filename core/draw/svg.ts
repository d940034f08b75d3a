/** A line drawing as SVG: the piece in thin lines, what is at hand in thick ones, black on white so that a printer and a dim booth both show it. */
import type { LineDrawing, SeamLine } from './lineDrawing';

export interface AtHand {
	/** this seam is lit, with its zero end and its letter */
	joint?: string;
	/** a run: an arrow from one station to the other */
	run?: { fromMm: number; toMm: number };
	/** stations of tacks, or of a clamp */
	marks?: readonly number[];
	/** places with their labels, some joined by lines: where a feature is read, where a hold-down goes */
	places?: PagePlaces;
	/** letters of the other seams too */
	letters?: boolean;
	/** seams with a number each: runs of a position on one picture */
	arrows?: readonly { joint: string; fromMm: number; toMm: number; label: string }[];
}

export interface PagePlaces {
	at: [number, number][];
	labels: string[];
	lines: [number, number][];
	/** the one that is next, by index */
	next?: number;
}

/** What is lit for places on a page, and for the length of a seam they may lie along. */
export const pointing = (
	{ at, labels, lines, seam }: PagePlaces & { seam?: { joint: string; fromMm: number; toMm: number } },
	next?: number
): AtHand => ({
	places: { at, labels, lines, next },
	...(seam && { joint: seam.joint, marks: [seam.fromMm, seam.toMm] })
});

type Point = [number, number];

/** A place on a seam's line at a station. */
function placeAt(seam: SeamLine, station: number): Point {
	const { stations, points } = seam;
	let i = stations.findIndex((s) => s >= station - 1e-6);
	if (i < 0) i = stations.length - 1;
	if (i === 0) return points[0];
	const f = Math.max(0, Math.min(1, (station - stations[i - 1]) / Math.max(1e-9, stations[i] - stations[i - 1])));
	return [points[i - 1][0] + f * (points[i][0] - points[i - 1][0]), points[i - 1][1] + f * (points[i][1] - points[i - 1][1])];
}
const between = (seam: SeamLine, from: number, to: number): Point[] => {
	const [lo, hi] = [Math.min(from, to), Math.max(from, to)];
	const inner = seam.stations.flatMap((s, i) => (s > lo + 1e-6 && s < hi - 1e-6 ? [seam.points[i]] : []));
	const list = [placeAt(seam, lo), ...inner, placeAt(seam, hi)];
	return from <= to ? list : list.reverse();
};
const path = (points: readonly Point[]) => `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`;

/** @param widthPx of the picture; its height follows @param heightPx at most */
export function drawingSvg(d: LineDrawing, hand: AtHand, widthPx: number, heightPx = Infinity): string {
	const px = Math.max(d.width / widthPx, d.height / heightPx);
	const [w, h] = [d.width / px, d.height / px];
	const parts: string[] = [`<path d="${d.lines.map(path).join('')}" fill="none" stroke="#29323a" stroke-width="${(1.5 * px).toFixed(2)}"/>`];
	// a white edge first, so that a letter stands clear of the lines; a printer's SVG knows no order of painting inside one text
	const text = (place: Point, words: string, size: number, bold = false) => {
		// wholly on the picture, however near its edge the place is
		const [side, rise] = [0.32 * words.length * size * px, 0.5 * size * px];
		const at: Point = [Math.min(d.width - side, Math.max(side, place[0])), Math.min(d.height - rise, Math.max(rise, place[1]))];
		const open = `<text x="${at[0].toFixed(1)}" y="${(at[1] + 0.36 * size * px).toFixed(1)}" font-size="${(size * px).toFixed(1)}" text-anchor="middle"${bold ? ' font-weight="bold"' : ''}`;
		return `${open} fill="#fff" stroke="#fff" stroke-width="${(3 * px).toFixed(1)}">${words}</text>${open} fill="#000">${words}</text>`;
	};
	const beside = (s: SeamLine, at: Point, by: number): Point => [at[0] + by * px * s.out[0], at[1] + by * px * s.out[1]];
	const arrow = (s: SeamLine, from: number, to: number, width: number) => {
		const line = between(s, from, to);
		const [p, q] = [line[Math.max(0, line.length - 2)], line[line.length - 1]];
		const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
		const [ux, uy] = [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
		const head = 3.2 * width * px;
		const wing = (sign: number): Point => [q[0] - head * ux + sign * 0.5 * head * uy, q[1] - head * uy - sign * 0.5 * head * ux];
		return `<path d="${path(line)}" fill="none" stroke="#000" stroke-width="${(width * px).toFixed(2)}"/><path d="${path([wing(1), q, wing(-1)])}Z" fill="#000"/>`;
	};
	const lit = d.seams.find((s) => s.joint === hand.joint);
	if (hand.letters)
		for (const s of d.seams) if (s !== lit && s.isSeen) parts.push(text(beside(s, s.points[Math.floor(s.points.length / 2)], 9), s.letter, 11));
	if (lit) {
		parts.push(`<path d="${path(lit.points)}" fill="none" stroke="#c77d0a" stroke-width="${(4.5 * px).toFixed(2)}"/>`);
		if (hand.run) parts.push(arrow(lit, hand.run.fromMm, hand.run.toMm, 5));
		for (const m of hand.marks ?? []) {
			const [x, y] = placeAt(lit, m);
			parts.push(
				`<circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="${(4 * px).toFixed(1)}" fill="#000" stroke="#fff" stroke-width="${px.toFixed(1)}"/>`
			);
		}
		const [x, y] = lit.points[0];
		parts.push(
			`<rect x="${(x - 4 * px).toFixed(1)}" y="${(y - 4 * px).toFixed(1)}" width="${(8 * px).toFixed(1)}" height="${(8 * px).toFixed(1)}" fill="#fff" stroke="#000" stroke-width="${(2 * px).toFixed(1)}"/>`,
			text(beside(lit, [x, y], 16), '0', 14, true),
			text(beside(lit, lit.points[Math.floor(lit.points.length / 2)], 18), lit.letter, 20, true)
		);
	}
	for (const a of hand.arrows ?? []) {
		const s = d.seams.find((x) => x.joint === a.joint);
		if (!s) continue;
		parts.push(arrow(s, a.fromMm, a.toMm, 2), text(beside(s, placeAt(s, (a.fromMm + a.toMm) / 2), 9), a.label, 9, true));
	}
	if (hand.places) parts.push(...drawPlaces(hand.places, px, text));
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${w.toFixed(0)}" height="${h.toFixed(0)}" viewBox="0 0 ${d.width} ${d.height}">${parts.join('')}</svg>`;
}

/** Dots with their numbers; the one that is next is larger and ringed. */
function drawPlaces(
	{ at, labels, lines, next }: PagePlaces,
	px: number,
	text: (at: Point, words: string, size: number, bold?: boolean) => string
): string[] {
	const n = (v: number) => v.toFixed(1);
	return [
		...lines.map(([i, j]) => `<path d="${path([at[i], at[j]])}" fill="none" stroke="#c77d0a" stroke-width="${n(2.5 * px)}"/>`),
		...at.map(
			([x, y], i) =>
				`<circle cx="${n(x)}" cy="${n(y)}" r="${n((i === next ? 6 : 3) * px)}" fill="${i === next ? '#c77d0a' : '#000'}" stroke="#fff" stroke-width="${n(px)}"/>`
		),
		...at.flatMap(([x, y], i) => (labels[i] ? [text([x, y - 10 * px], labels[i], i === next ? 15 : 11, i === next)] : []))
	];
}
