/** What a person is told, and what is a fault of the program. */
import { describe, expect, it } from 'vitest';
import { findMaterial } from '../materials/grades';
import { SingularError } from '../linalg/numeric';
import { FaultError } from '../document/faults';
import { isRefusal, Refusal } from './refusal';

describe('refusals', () => {
	it('are what the core refuses by words, documents refused whole, and models that hang together by nothing', () => {
		let thrown: unknown;
		try {
			findMaterial('unobtainium');
		} catch (e) {
			thrown = e;
		}
		expect(thrown).toBeInstanceOf(Refusal);
		expect((thrown as Error).message).toMatch(/“unobtainium” is not known/);
		expect(isRefusal(thrown)).toBe(true);
		expect(isRefusal(new FaultError([{ field: 'x', value: 'y', allowed: 'z' }]))).toBe(true);
		expect(isRefusal(new SingularError(7))).toBe(true);
	});
	it('are not the range errors of the language itself: those are faults of the program', () => {
		for (const mistake of [() => new Array(-1), () => (1).toFixed(101), () => 'x'.repeat(-1)]) {
			let thrown: unknown;
			try {
				mistake();
			} catch (e) {
				thrown = e;
			}
			expect(thrown).toBeInstanceOf(RangeError);
			expect(isRefusal(thrown)).toBe(false);
		}
	});
	it('carry the field, the value and what is allowed where one field is to blame', () => {
		const r = new Refusal('Too long.', { field: 'lengthMm', value: '9000', allowed: 'at most 4000 mm' });
		expect(r.about).toEqual({ field: 'lengthMm', value: '9000', allowed: 'at most 4000 mm' });
	});
});
