/**
 * Lengths as a shop writes them: `1/16`, `3/8 in`, `1 1/2"`, `0.060"`, `60 thou`, `16 ga`, `1.5`, `1,5 mm`, `2 cm`.
 * Everything inside the core is millimetres; this is one of the edges where that is decided.
 */
import { gaugeToMm, type GaugeTable } from './gauge';

export const MM_PER_INCH = 25.4;

export type LengthUnit = 'mm' | 'in';
export type LengthReading = { ok: true; mm: number } | { ok: false; message: string };

export interface LengthContext {
	/** What a bare number means. A bare fraction always means inches: nobody writes 1/16 of a millimetre. */
	unit: LengthUnit;
	/** The table a gauge number is read in; without one a gauge is refused, since the metals differ. */
	gaugeTable?: GaugeTable;
}

const NUMBER = String.raw`\d+(?:[.,]\d+)?|[.,]\d+`;
const PATTERN = new RegExp(
	String.raw`^([+-])?\s*(?:(\d+)\s*[\s-]\s*(\d+)\s*/\s*(\d+)|(\d+)\s*/\s*(\d+)|(${NUMBER}))\s*(mm|cm|m|in|inch|inches|"|″|''|thou|mil|ga|gauge|swg)?\.?$`,
	'i'
);

const fault = (message: string): LengthReading => ({ ok: false, message });

/** Reads one length. @returns millimetres, or a message that says what is allowed. */
// eslint-disable-next-line complexity -- a branch for each way a length is written
export function parseLength(text: string, context: LengthContext): LengthReading {
	const trimmed = text.trim();
	if (trimmed === '') return fault('Type a length, for example 600, 23 5/8 in, 60 thou or 16 ga');
	const m = PATTERN.exec(trimmed);
	if (!m) return fault(`“${trimmed}” is not a length. Allowed: 1.5, 1.5 mm, 1/16, 3/8 in, 0.060", 60 thou, 16 ga`);
	const [, sign, whole, numerator, denominator, fracTop, fracBottom, decimal, unitText] = m;
	const isFraction = decimal === undefined;
	let value: number;
	if (isFraction) {
		const bottom = Number(denominator ?? fracBottom);
		if (bottom === 0) return fault(`“${trimmed}” divides by zero`);
		value = Number(whole ?? 0) + Number(numerator ?? fracTop) / bottom;
	} else value = Number(decimal.replace(',', '.'));
	if (sign === '-') value = -value;
	const unit = unitText?.toLowerCase();
	switch (unit) {
		case undefined:
			return { ok: true, mm: isFraction || context.unit === 'in' ? value * MM_PER_INCH : value };
		case 'mm':
			return { ok: true, mm: value };
		case 'cm':
			return { ok: true, mm: value * 10 };
		case 'm':
			return { ok: true, mm: value * 1000 };
		case 'thou':
		case 'mil':
			return { ok: true, mm: value * 0.0254 };
		case 'ga':
		case 'gauge':
		case 'swg': {
			if (unit === 'swg') return fault('Sheet gauge here is by material (ga), not wire gauge (swg)');
			if (isFraction || sign === '-') return fault('A gauge is a whole number from 10 to 24');
			if (!context.gaugeTable) return fault('Choose the material first: a gauge is a different thickness in each metal');
			const mm = gaugeToMm(value, context.gaugeTable);
			return mm === undefined ? fault(`Gauge ${value} is not in the table for this material (10 to 24, even numbers)`) : { ok: true, mm };
		}
		default:
			return { ok: true, mm: value * MM_PER_INCH };
	}
}

const trimZeros = (s: string) => (s.includes('.') ? s.replace(/\.?0+$/, '') : s);

/** A length for a screen or a sheet. Inches get three decimals, millimetres `digits` (default 2), end zeros dropped. */
export function formatLength(mm: number, unit: LengthUnit, digits = 2): string {
	return unit === 'mm' ? `${trimZeros(mm.toFixed(digits))} mm` : `${trimZeros((mm / MM_PER_INCH).toFixed(digits + 1))} in`;
}
