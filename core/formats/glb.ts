/**
 * GLB (binary glTF 2.0) of a shape: one mesh a part, positions in metres as the format asks, y up.
 * Khronos glTF 2.0 specification, sections 3 and 4.4.
 */
import { Refusal } from '../refusal/refusal';

export interface GlbPart {
	name: string;
	/** corners of its triangles, indices into xyz */
	tri: number[];
}

const pad4 = (n: number) => (4 - (n % 4)) % 4;

/** @param xyz mm, 3 per node. @throws RangeError for a part with no triangles */
export function writeGlb(xyz: ArrayLike<number>, parts: readonly GlbPart[], title: string): Uint8Array {
	const chunks: Uint8Array[] = [];
	let length = 0;
	const views: object[] = [];
	const accessors: object[] = [];
	const put = (bytes: Uint8Array, target: number) => {
		views.push({ buffer: 0, byteOffset: length, byteLength: bytes.length, target });
		chunks.push(bytes, new Uint8Array(pad4(bytes.length)));
		length += bytes.length + pad4(bytes.length);
		return views.length - 1;
	};
	const meshes = parts.map((part) => {
		if (!part.tri.length) throw new Refusal(`Part “${part.name}” has no triangles`);
		const own = [...new Set(part.tri)];
		const index = new Map(own.map((k, i) => [k, i]));
		// z up in the shop, y up in the file
		const at = new Float32Array(own.flatMap((k) => [xyz[3 * k] / 1000, xyz[3 * k + 2] / 1000, -xyz[3 * k + 1] / 1000]));
		const low = [0, 1, 2].map((d) => own.reduce((m, _, i) => Math.min(m, at[3 * i + d]), Infinity));
		const high = [0, 1, 2].map((d) => own.reduce((m, _, i) => Math.max(m, at[3 * i + d]), -Infinity));
		const position = accessors.push({
			bufferView: put(new Uint8Array(at.buffer), 34962),
			componentType: 5126,
			count: own.length,
			type: 'VEC3',
			min: low,
			max: high
		});
		const corners = new Uint32Array(part.tri.map((k) => index.get(k)!));
		const indices = accessors.push({
			bufferView: put(new Uint8Array(corners.buffer), 34963),
			componentType: 5125,
			count: corners.length,
			type: 'SCALAR'
		});
		return { name: part.name, primitives: [{ attributes: { POSITION: position - 1 }, indices: indices - 1, material: 0 }] };
	});
	const json = JSON.stringify({
		asset: { version: '2.0', generator: 'Sarta' },
		scene: 0,
		scenes: [{ name: title, nodes: meshes.map((_, i) => i) }],
		nodes: meshes.map((m, i) => ({ name: m.name, mesh: i })),
		meshes,
		materials: [
			{
				name: 'sheet',
				doubleSided: true,
				pbrMetallicRoughness: { baseColorFactor: [0.72, 0.75, 0.78, 1], metallicFactor: 0.7, roughnessFactor: 0.45 }
			}
		],
		accessors,
		bufferViews: views,
		buffers: [{ byteLength: length }]
	});
	const text = utf8(json);
	const head = text.length + pad4(text.length);
	const out = new Uint8Array(12 + 8 + head + 8 + length);
	const view = new DataView(out.buffer);
	const ints = [0x46546c67, 2, out.length, head, 0x4e4f534a];
	ints.forEach((v, i) => view.setUint32(4 * i, v, true));
	out.set(text, 20);
	out.fill(0x20, 20 + text.length, 20 + head);
	view.setUint32(20 + head, length, true);
	view.setUint32(24 + head, 0x004e4942, true);
	let o = 28 + head;
	for (const c of chunks) {
		out.set(c, o);
		o += c.length;
	}
	return out;
}

/** The core has no TextEncoder. */
function utf8(s: string): Uint8Array {
	const out: number[] = [];
	for (const ch of s) {
		const c = ch.codePointAt(0)!;
		if (c < 0x80) out.push(c);
		else if (c < 0x800) out.push(0xc0 | (c >> 6), 0x80 | (c & 63));
		else if (c < 0x10000) out.push(0xe0 | (c >> 12), 0x80 | ((c >> 6) & 63), 0x80 | (c & 63));
		else out.push(0xf0 | (c >> 18), 0x80 | ((c >> 12) & 63), 0x80 | ((c >> 6) & 63), 0x80 | (c & 63));
	}
	return Uint8Array.from(out);
}
