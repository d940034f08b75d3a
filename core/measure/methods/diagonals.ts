import { f2, three, type MethodKind } from './method';

export const diagonals: MethodKind = {
	name: 'Two diagonals',
	unit: 'mm',
	labels: ({ over }) => ['Diagonal 1', 'Diagonal 2'].map((d) => (over ? `${d}, ${over}` : d)),
	columns: three,
	reading90: 0.5,
	spread: Math.SQRT2,
	least: { value: 0, isAllowed: false },
	evaluate([p, q]) {
		const value = Math.abs(p - q);
		return { value, arithmetic: `|${f2(p)} - ${f2(q)}| = ${f2(value)} mm` };
	}
};
