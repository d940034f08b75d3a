/** A made-up shop's readings, for timing alone: four metals, four thicknesses, with and without a bar, ten readings a piece. */
import type { Evidence } from '../core/learn/shop';

const GROUPS = ['austenitic', 'duplex', 'carbon-steel', 'aluminium'] as const;
const KINDS = ['length', 'angle', 'flatness'] as const;

export const madeShop = (pieces: number): Evidence[] =>
	Array.from({ length: 10 * pieces }, (_, i): Evidence => {
		const p = Math.floor(i / 10);
		return {
			reading: `${i}`,
			piece: `${p}`,
			context: { group: GROUPS[p % 4], thicknessMm: [1, 1.5, 2, 3][(p >> 2) % 4], technique: 'TIG steady', isOnBar: p % 3 === 0 },
			kind: KINDS[i % 3],
			label: '',
			unit: 'mm',
			measured: 1 + 0.2 * Math.sin(13 * p + 7 * i),
			sigma: 0.05,
			predicted: 1,
			slopes: [0.2, 0.5, 0.3],
			spread: 0.1,
			at: p
		};
	});
