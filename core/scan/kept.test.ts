import { describe, expect, it } from 'vitest';
import { FaultError } from '../document/faults';
import { bytesOfShape, ontoMesh, placedOn, placesOf, shapeOfBytes } from './kept';

describe('a scan as it is kept', () => {
	const shape = Float32Array.from([0, -0.125, 1.5, 3e-3, 999, -7.25]);
	it('is four bytes a number, low byte first, and comes back as it was', () => {
		const bytes = bytesOfShape(shape);
		// 1.5 is 3FC00000 (IEEE 754)
		expect([...bytes.subarray(8, 12)]).toEqual([0, 0, 0xc0, 0x3f]);
		expect(shapeOfBytes(bytes, { nodeCount: 2 })).toEqual(shape);
		// out of the middle of a larger buffer, as a database hands it over
		const larger = new Uint8Array(bytes.length + 3);
		larger.set(bytes, 3);
		expect(shapeOfBytes(larger.subarray(3), { nodeCount: 2 })).toEqual(shape);
	});
	it('of another mesh, with a hole in it or a mile away: refused by name', () => {
		const faultOf = (bytes: Uint8Array, nodeCount = 2) => {
			try {
				shapeOfBytes(bytes, { nodeCount });
			} catch (e) {
				return (e as FaultError).faults[0];
			}
			return undefined;
		};
		expect(faultOf(bytesOfShape(shape), 3)).toMatchObject({ field: 'shape', value: '24 bytes', allowed: expect.stringMatching(/36 bytes.*3 nodes/) });
		expect(faultOf(bytesOfShape([0, 0, 0, 0, NaN, 0]))).toMatchObject({ value: 'NaN at node 2' });
		expect(faultOf(bytesOfShape([0, 0, 1001, 0, 0, 0]))).toMatchObject({ value: '1001 at node 1' });
	});
	it('is kept with where its nodes are drawn, and is laid on another mesh by the nearest of them', () => {
		const xyz = Float64Array.from([0, 0, 0, 10, 0, 0]);
		const kept = placedOn({ nodeCount: 2, xyz }, bytesOfShape(shape));
		expect([...placesOf(kept)]).toEqual([0, 0, 0, ...shape.subarray(0, 3), 10, 0, 0, ...shape.subarray(3)]);
		expect(ontoMesh(kept, { nodeCount: 2, xyz })).toEqual(shape);
		// the same piece meshed finer, and the other way round
		const finer = Float64Array.from([10, 0, 0, 7, 0, 0, 3, 0, 0, 0, 0, 0]);
		const [first, second] = [[...shape.subarray(0, 3)], [...shape.subarray(3)]];
		expect([...ontoMesh(kept, { nodeCount: 4, xyz: finer })]).toEqual([...second, ...second, ...first, ...first]);
		expect(() => placedOn({ nodeCount: 3, xyz }, bytesOfShape(shape))).toThrow();
	});
});
