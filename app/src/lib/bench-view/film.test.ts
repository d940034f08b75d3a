/** Which steps a strip shows. Recording itself is the browser's: the flow of the stages has it. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evenly } from './film';

describe('steps of a strip', () => {
	it('all where there are few; else so many, each once, in order, the first and the last among them', () => {
		expect(evenly(0, 6)).toEqual([]);
		expect(evenly(4, 6)).toEqual([0, 1, 2, 3]);
		fc.assert(
			fc.property(fc.integer({ min: 7, max: 400 }), (count) => {
				const list = evenly(count, 6);
				expect(list).toHaveLength(6);
				expect([list[0], list[5]]).toEqual([0, count - 1]);
				for (let i = 1; i < 6; i++) expect(list[i]).toBeGreaterThan(list[i - 1]);
			})
		);
	});
});
