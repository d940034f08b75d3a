/** The points of a scanner's file, whatever of the four kinds it is. */
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { Refusal } from '$core/refusal/refusal';
import { pointsOfText, withoutTwins } from '$core/scan/cloud';

/** Bytes of a file at most: a million points as text with colours take some 60 MB. */
export const SCAN_LIMIT = 200e6;

const text = (bytes: ArrayBuffer) => new TextDecoder().decode(bytes);

const READERS: Record<string, (bytes: ArrayBuffer) => Float32Array> = {
	csv: (b) => pointsOfText(text(b)),
	xyz: (b) => pointsOfText(text(b)),
	txt: (b) => pointsOfText(text(b)),
	ply: (b) => positionsOf(new PLYLoader().parse(b)),
	stl: (b) => withoutTwins(positionsOf(new STLLoader().parse(b)))
};
export const SCAN_KINDS = Object.keys(READERS);

const positionsOf = (g: { getAttribute(name: string): { array: ArrayLike<number> } | undefined }) =>
	Float32Array.from(g.getAttribute('position')?.array ?? []);

/** @throws Refusal that says what is wrong with the file */
export function readCloud(name: string, bytes: ArrayBuffer): Float32Array {
	const refuse = (words: string, value: string, allowed: string) => new Refusal(words, { field: 'file', value, allowed });
	const kind = name.toLowerCase().split('.').pop() ?? '';
	const reader = READERS[kind];
	if (!reader) throw refuse(`“${name}” is no kind of scan that can be read.`, kind, SCAN_KINDS.map((k) => `.${k}`).join(', '));
	if (!bytes.byteLength) throw refuse(`“${name}” is empty.`, '0 bytes', 'points');
	if (bytes.byteLength > SCAN_LIMIT)
		throw refuse(`“${name}” is larger than ${SCAN_LIMIT / 1e6} MB: thin it out first.`, `${bytes.byteLength} bytes`, `${SCAN_LIMIT}`);
	let points: Float32Array;
	try {
		points = reader(bytes);
	} catch (e) {
		if (e instanceof Refusal) throw e;
		throw refuse(`“${name}” cannot be read as ${kind.toUpperCase()}: it breaks off, or is another kind of file.`, name, `a sound .${kind} file`);
	}
	if (!points.length) throw refuse(`“${name}” holds no points.`, name, `a sound .${kind} file`);
	return points;
}
