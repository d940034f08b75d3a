/** What a scan of the whole piece says of a feature: worked out from its points (core/scan), one figure a feature. */
import { f2, type MethodKind } from './method';

/** A hand-held scanner's own error between places some decimetres apart, mm and degrees (common practice, no source). */
const READING_90 = { mm: 0.1, '°': 0.05 } as const;

const of = (unit: 'mm' | '°', name: string): MethodKind => ({
	name,
	unit,
	isFromScan: true,
	labels: () => ['By the scan'],
	columns: () => 1,
	reading90: READING_90[unit],
	spread: 1,
	evaluate([read], { nominal }) {
		const value = read - (nominal ?? 0);
		return {
			value,
			arithmetic:
				nominal === undefined ? `${f2(read)} ${unit} by the points` : `${f2(read)} by the points - ${f2(nominal)} (drawing) = ${f2(value)} ${unit}`
		};
	}
});

export const scan = of('mm', 'Scan of the whole piece');
export const scanAngle = of('°', 'Scan of the whole piece, angle');
