import { describe, expect, it } from 'vitest';
import { limitMark } from './limitMark';

/** x of every point of the last path of a mark. */
const last = (svg: string) =>
	[...svg.matchAll(/d="([^"]+)"/g)]
		.pop()![1]
		.match(/^M([\d.]+)/)!
		.slice(1)
		.map(Number)[0];

describe('forecast and reading in the limits', () => {
	it('what is inside is drawn between the limits, what is far outside at the edge with an arrow that points out', () => {
		const limits = { upper: 2, lower: -2 };
		const inside = limitMark(limits, { predicted: 0, low: -1, high: 1 }, { value: 1, uncertainty90: 0.2 });
		const [from, to] = inside
			.match(/M([\d.]+) 1v14M([\d.]+) 1v14/)!
			.slice(1)
			.map(Number);
		expect(last(inside)).toBeGreaterThan((from + to) / 2);
		expect(last(inside)).toBeLessThan(to);
		const out = limitMark(limits, undefined, { value: -40, uncertainty90: 0.2 });
		expect(out).toContain('L');
		expect(last(out)).toBeLessThan(from);
		expect(out).not.toMatch(/NaN|-\d+\.\d+ \d+Z/);
	});
	it('a form error begins at nothing; nothing read and nothing forecast leaves the limits alone', () => {
		const bare = limitMark({ upper: 3 });
		expect(bare.match(/<path/g)!.length).toBe(1);
		// halfway to its limit stands in the middle of them
		const [from, to] = bare
			.match(/M([\d.]+) 1v14M([\d.]+) 1v14/)!
			.slice(1)
			.map(Number);
		expect(last(limitMark({ upper: 3 }, undefined, { value: 1.5, uncertainty90: 0.1 }))).toBeCloseTo((from + to) / 2, 0);
	});
});
