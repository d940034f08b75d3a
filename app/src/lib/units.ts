/** Numbers for people, in their own units. */
import { formatLength, MM_PER_INCH, type LengthUnit } from '$core/units/length';

export const length = (mm: number | undefined, unit: LengthUnit, digits = 2) =>
	mm === undefined || !Number.isFinite(mm) ? '–' : formatLength(mm, unit, digits);

/** A value of a feature: mm follows the person's units, degrees stay degrees. */
export function quantity(value: number | undefined, unit: 'mm' | '°', person: LengthUnit): string {
	if (value === undefined || !Number.isFinite(value)) return '–';
	if (unit === '°') return `${fixed(value, 2)}°`;
	return person === 'mm' ? `${fixed(value, 2)} mm` : `${fixed(value / MM_PER_INCH, 3)} in`;
}
/** Nothing has no sign. */
const fixed = (value: number, digits: number) => value.toFixed(digits).replace(/^-(0\.0*)$/, '$1');

export const duration = (s: number) => {
	const r = Math.round(s);
	if (r < 60) return `${r} s`;
	const m = Math.floor(r / 60);
	return m < 60 ? `${m} min ${String(r % 60).padStart(2, '0')} s` : `${Math.floor(m / 60)} h ${String(m % 60).padStart(2, '0')} min`;
};
