/** Points as a scanner writes them: text with a point a line; what of a cloud cannot be taken is refused by name. */
import { Refusal } from '../refusal/refusal';

/** Points that are taken at most. */
export const MOST_POINTS = 1_000_000;
const LEAST_POINTS = 200;

/** Units a file may be in, in mm. */
export const FILE_UNITS = { mm: 1, in: 25.4, cm: 10, m: 1000 } as const;
export type FileUnit = keyof typeof FILE_UNITS;

/** A line of numbers: commas, semicolons, tabs or spaces between; with semicolons or tabs a comma is a decimal one. */
const numbersOf = (line: string): number[] => {
	const isSplit = /[;\t]/.test(line);
	const plain = isSplit ? line.replace(/,/g, '.') : line.replace(/,/g, ' ');
	return plain
		.split(/[;\s]+/)
		.filter(Boolean)
		.map(Number);
};

/** XYZ or CSV: the first three numbers of each line; a head line or two is passed over. 3 per point. @throws Refusal naming the line */
export function pointsOfText(text: string): Float32Array {
	const out: number[] = [];
	let head = 0;
	let number = 0;
	for (const line of text.split('\n')) {
		number++;
		const trimmed = line.trim();
		if (!trimmed || trimmed.startsWith('#')) continue;
		const [x, y, z] = numbersOf(trimmed);
		if (![x, y, z].every(Number.isFinite)) {
			// names of columns, a count of points: before the first point only
			if (!out.length && head < 3) {
				head++;
				continue;
			}
			throw new Refusal(`Line ${number} holds no point: three numbers are wanted, “${trimmed.slice(0, 40)}” is there.`, {
				field: 'file',
				value: trimmed.slice(0, 40),
				allowed: 'three numbers a line'
			});
		}
		out.push(x, y, z);
		if (out.length > 3 * MOST_POINTS) break;
	}
	return Float32Array.from(out);
}

export interface Cloud {
	/** 3 per point */
	points: Float32Array;
	/** which way each faces, where the file is a mesh that says so; 3 per point */
	normals?: Float32Array;
}

/** Corners that triangles of a mesh file share are one point; those of a sheet's edge, which face two ways, are two. */
export function withoutTwins({ points, normals }: Cloud): Cloud {
	const seen = new Set<string>();
	const [out, facing]: number[][] = [[], []];
	for (let i = 0; i < points.length; i += 3) {
		const way = normals ? ` ${[0, 1, 2].map((d) => Math.round(2 * normals[i + d])).join(' ')}` : '';
		const key = `${points[i]} ${points[i + 1]} ${points[i + 2]}${way}`;
		if (seen.has(key)) continue;
		seen.add(key);
		out.push(points[i], points[i + 1], points[i + 2]);
		if (normals) facing.push(normals[i], normals[i + 1], normals[i + 2]);
	}
	return { points: Float32Array.from(out), normals: normals && Float32Array.from(facing) };
}

/** Size of what holds all points, mm. */
function spanOf(points: ArrayLike<number>): number {
	const lo = [Infinity, Infinity, Infinity];
	const hi = [-Infinity, -Infinity, -Infinity];
	for (let i = 0; i < points.length; i++) {
		lo[i % 3] = Math.min(lo[i % 3], points[i]);
		hi[i % 3] = Math.max(hi[i % 3], points[i]);
	}
	return Math.hypot(...hi.map((v, d) => v - lo[d]));
}

/** How much smaller or larger a cloud may be than the piece: part of it, or with the bench round it. */
const [LEAST_SPAN, MOST_SPAN] = [0.25, 4];

/** @throws Refusal where there are too few or too many points, numbers that are none, or where the file is in another unit than was said */
export function checkCloud(points: Float32Array, pieceXyz: ArrayLike<number>, unit: FileUnit): void {
	const count = points.length / 3;
	const refuse = (words: string, value: string, allowed: string) => new Refusal(words, { field: 'file', value, allowed });
	if (count < LEAST_POINTS)
		throw refuse(`The file holds ${count} points: too few to say how a sheet lies.`, String(count), `at least ${LEAST_POINTS}`);
	if (count > MOST_POINTS)
		throw refuse(`The file holds more than ${MOST_POINTS.toLocaleString('en')} points: thin it out first.`, String(count), `at most ${MOST_POINTS}`);
	if (!points.every(Number.isFinite)) throw refuse('The file holds coordinates that are no numbers.', 'NaN', 'numbers');
	const ratio = spanOf(points) / spanOf(pieceXyz);
	if (ratio > LEAST_SPAN && ratio < MOST_SPAN) return;
	const now = FILE_UNITS[unit];
	const inUnit = (u: FileUnit) => (ratio * FILE_UNITS[u]) / now;
	// the one that comes nearest; a bench round the piece is larger than it
	const [fits] = (Object.keys(FILE_UNITS) as FileUnit[])
		.filter((u) => inUnit(u) > LEAST_SPAN && inUnit(u) < MOST_SPAN)
		.sort((p, q) => Math.abs(Math.log(inUnit(p))) - Math.abs(Math.log(inUnit(q))));
	throw refuse(
		`As ${unit} the cloud is ${ratio < 1 ? `${(1 / ratio).toPrecision(3)} times smaller` : `${ratio.toPrecision(3)} times larger`} than the piece.${fits && fits !== unit ? ` In ${fits} it would fit.` : ' Is it of this piece?'}`,
		`${unit}, ${ratio.toPrecision(3)} of the piece`,
		'about the size of the piece'
	);
}
