/**
 * A laid scan. As it is sent: how far each node of the plan's mesh stands from the drawing, 3 per node, mm. As it is kept: where each node is
 * drawn besides, so that it can be read whatever this program's mesh has become since.
 */
import { FaultError } from '../document/faults';
import type { AssemblyMesh } from '../mesh/assemblyMesh';

/** No sheet that is still the same piece stands further from its drawing, mm. */
const FURTHEST_MM = 1000;
const SIZE = 4;

/** As 32 bit floats, low byte first. */
export function bytesOfShape(shape: ArrayLike<number>): Uint8Array<ArrayBuffer> {
	const out = new Uint8Array(SIZE * shape.length);
	const view = new DataView(out.buffer);
	for (let i = 0; i < shape.length; i++) view.setFloat32(SIZE * i, shape[i], true);
	return out;
}

/** @throws FaultError where the bytes are no shape of this mesh */
export function shapeOfBytes(bytes: Uint8Array, mesh: Pick<AssemblyMesh, 'nodeCount'>): Float32Array {
	const want = 3 * SIZE * mesh.nodeCount;
	if (bytes.byteLength !== want)
		throw new FaultError([
			{ field: 'shape', value: `${bytes.byteLength} bytes`, allowed: `${want} bytes: three 32 bit floats for each of ${mesh.nodeCount} nodes` }
		]);
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const out = Float32Array.from({ length: 3 * mesh.nodeCount }, (_, i) => view.getFloat32(SIZE * i, true));
	const bad = out.findIndex((v) => !(Math.abs(v) <= FURTHEST_MM));
	if (bad >= 0)
		throw new FaultError([{ field: 'shape', value: `${out[bad]} at node ${Math.floor(bad / 3) + 1}`, allowed: `numbers within ${FURTHEST_MM} mm` }]);
	return out;
}

/** What is sent as it is kept: x, y, z and how far along each, node after node. @throws FaultError where it is no shape of this mesh */
export function placedOn(mesh: Pick<AssemblyMesh, 'nodeCount' | 'xyz'>, sent: Uint8Array): Uint8Array<ArrayBuffer> {
	const u = shapeOfBytes(sent, mesh);
	return bytesOfShape(
		Float32Array.from({ length: PLACED * mesh.nodeCount }, (_, i) => {
			const [k, d] = [3 * Math.floor(i / PLACED), i % PLACED];
			return d < 3 ? mesh.xyz[k + d] : u[k + d - 3];
		})
	);
}
const PLACED = 6;

/** Six numbers a node, as they are kept. */
export function placesOf(kept: Uint8Array): Float32Array {
	const view = new DataView(kept.buffer, kept.byteOffset, kept.byteLength);
	return Float32Array.from({ length: Math.floor(kept.byteLength / SIZE / PLACED) * PLACED }, (_, i) => view.getFloat32(SIZE * i, true));
}

/** A mesh's node is the one that was kept if it is drawn this near to it, mm. */
const SAME_MM = 0.01;

/** How far each node of a mesh stands from its drawing, 3 per node, by what was kept: of the node in the same place, or of the nearest where the mesh is another. */
export function ontoMesh(kept: Uint8Array, mesh: Pick<AssemblyMesh, 'nodeCount' | 'xyz'>): Float32Array {
	const places = placesOf(kept);
	const count = places.length / PLACED;
	const out = new Float32Array(3 * mesh.nodeCount);
	const off = (k: number, j: number) => Math.hypot(...[0, 1, 2].map((d) => mesh.xyz[3 * k + d] - places[PLACED * j + d]));
	for (let k = 0; k < mesh.nodeCount; k++) {
		let best = k;
		if (k >= count || off(k, k) > SAME_MM) {
			let least = Infinity;
			for (let j = 0; j < count; j++) {
				const far = off(k, j);
				if (far < least) [least, best] = [far, j];
			}
		}
		for (let d = 0; d < 3; d++) out[3 * k + d] = places[PLACED * best + 3 + d];
	}
	return out;
}
