/** The points of a scanner's file, whatever of the four kinds it is. */
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { Refusal } from '$core/refusal/refusal';
import { pointsOfText, withoutTwins, type Cloud } from '$core/scan/cloud';
import type { BufferGeometry } from 'three';

/** Bytes of a file at most: a million points as text with colours take some 60 MB. */
export const SCAN_LIMIT = 200e6;

const text = (bytes: ArrayBuffer) => new TextDecoder().decode(bytes);

const READERS: Record<string, (bytes: ArrayBuffer) => Cloud> = {
	csv: (b) => ({ points: pointsOfText(text(b)) }),
	xyz: (b) => ({ points: pointsOfText(text(b)) }),
	txt: (b) => ({ points: pointsOfText(text(b)) }),
	ply: (b) => cloudOf(new PLYLoader().parse(b)),
	stl: (b) => withoutTwins(cloudOf(new STLLoader().parse(b)))
};
export const SCAN_KINDS = Object.keys(READERS);

/** Points of a geometry, and which way they face where it has triangles: by how they are wound, which every writer means. */
function cloudOf(g: BufferGeometry): Cloud {
	const points = Float32Array.from(g.getAttribute('position')?.array ?? []);
	// a list of triangles one by one comes with its normals
	if (g.index) g.computeVertexNormals();
	const normals = g.getAttribute('normal')?.array;
	return { points, normals: normals && Float32Array.from(normals) };
}

/** @throws Refusal that says what is wrong with the file */
export function readCloud(name: string, bytes: ArrayBuffer): Cloud {
	const refuse = (words: string, value: string, allowed: string) => new Refusal(words, { field: 'file', value, allowed });
	const kind = name.toLowerCase().split('.').pop() ?? '';
	const reader = READERS[kind];
	if (!reader) throw refuse(`“${name}” is no kind of scan that can be read.`, kind, SCAN_KINDS.map((k) => `.${k}`).join(', '));
	if (!bytes.byteLength) throw refuse(`“${name}” is empty.`, '0 bytes', 'points');
	if (bytes.byteLength > SCAN_LIMIT)
		throw refuse(`“${name}” is larger than ${SCAN_LIMIT / 1e6} MB: thin it out first.`, `${bytes.byteLength} bytes`, `${SCAN_LIMIT}`);
	let cloud: Cloud;
	try {
		cloud = reader(bytes);
	} catch (e) {
		if (e instanceof Refusal) throw e;
		throw refuse(`“${name}” cannot be read as ${kind.toUpperCase()}: it breaks off, or is another kind of file.`, name, `a sound .${kind} file`);
	}
	if (!cloud.points.length) throw refuse(`“${name}” holds no points.`, name, `a sound .${kind} file`);
	return cloud;
}
