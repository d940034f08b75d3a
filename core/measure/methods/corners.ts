import { Refusal } from '../../refusal/refusal';
import { f2, type MethodKind } from './method';

/** Four corners over a plate: what the fourth stands off the plane of the other three, as the piece would rock. */
export const corners: MethodKind = {
	name: 'Heights of the four corners over a plate',
	unit: 'mm',
	labels: () => [1, 2, 3, 4].map((i) => `Corner ${i}`),
	columns: () => 4,
	reading90: 0.1,
	spread: 2,
	evaluate([h1, h2, h3, h4], { fourth }) {
		if (!fourth) throw new Refusal('Where the four corners lie in the drawing is not known');
		const [a, b, c] = fourth;
		const plane = a * h1 + b * h2 + c * h3;
		const value = Math.abs(h4 - plane);
		return {
			value,
			arithmetic: `The plane of corners 1, 2 and 3 is at ${f2(plane)} mm under corner 4, which reads ${f2(h4)}: ${f2(value)} mm`,
			spread: Math.hypot(1, a, b, c)
		};
	}
};
