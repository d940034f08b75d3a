/** A laid scan as it is kept: how far each node of the plan's mesh stands from the drawing, 3 per node, mm. */
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
