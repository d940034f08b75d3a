/** Numbers for people, in their own units. */
import { formatLength, MM_PER_INCH, type LengthUnit } from '$core/units/length';

export const length = (mm: number | undefined, unit: LengthUnit, digits = 2) =>
	mm === undefined || !Number.isFinite(mm) ? '–' : formatLength(mm, unit, digits);

/** A value of a feature: mm follows the person's units, degrees stay degrees. */
export function quantity(value: number | undefined, unit: 'mm' | '°', person: LengthUnit): string {
	if (value === undefined || !Number.isFinite(value)) return '–';
	if (unit === '°') return `${value.toFixed(2)}°`;
	return person === 'mm' ? `${value.toFixed(2)} mm` : `${(value / MM_PER_INCH).toFixed(3)} in`;
}

export const duration = (s: number) => {
	const r = Math.round(s);
	if (r < 60) return `${r} s`;
	const m = Math.floor(r / 60);
	return m < 60 ? `${m} min ${String(r % 60).padStart(2, '0')} s` : `${Math.floor(m / 60)} h ${String(m % 60).padStart(2, '0')} min`;
};
