import { straightedgeBow } from '../straightness';
import { f2, three, type MethodKind } from './method';

const USUAL = 3;

export const straightedge: MethodKind = {
	name: 'Straightedge and gap',
	unit: 'mm',
	chosen: { least: 1, most: 25, usual: ({ between = USUAL }) => between },
	labels: ({ between = USUAL, places = between }) => Array.from({ length: places }, (_, i) => `Gap ${i + 1} of ${places}`),
	columns: three,
	reading90: 0.1,
	spread: 1,
	evaluate(readings) {
		const value = straightedgeBow(readings);
		return { value, arithmetic: `Largest of ${readings.map((r) => f2(Math.abs(r))).join(', ')} = ${f2(value)} mm` };
	}
};
