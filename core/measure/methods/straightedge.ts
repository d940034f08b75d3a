import { straightedgeBow } from '../straightness';
import { f2, three, type MethodKind } from './method';

export const straightedge: MethodKind = {
	name: 'Straightedge and gap',
	unit: 'mm',
	labels: ({ between = 3 }) => Array.from({ length: between }, (_, i) => `Gap ${i + 1} of ${between}`),
	columns: three,
	reading90: 0.1,
	spread: 1,
	evaluate(readings) {
		const value = straightedgeBow(readings);
		return { value, arithmetic: `Largest of ${readings.map((r) => f2(Math.abs(r))).join(', ')} = ${f2(value)} mm` };
	}
};
