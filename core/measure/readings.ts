/** From what was read at the bench to the value of a feature, with the arithmetic in words and its uncertainty. */
import type { Vec3 } from '../geometry/vec';
import type { FeatureKind } from '../plan/words';
import { minimumZone } from './flatness';
import { straightedgeBow } from './straightness';
import { Refusal } from '../refusal/refusal';

export const METHODS = ['grid', 'straightedge', 'diagonals', 'tape', 'angle', 'rock'] as const;
export type Method = (typeof METHODS)[number];

export interface MethodWords {
	name: string;
	features: FeatureKind[];
	unit: 'mm' | '°';
	/** what each reading is, by its place; the list ends where the readings do */
	labels: (context: ReadingContext) => string[];
	/** 90 % half-width of one reading with an ordinary instrument, in its unit (common practice, no source) */
	reading90: number;
}

export interface ReadingContext {
	/** flatness grid */
	nx?: number;
	ny?: number;
	sizeMm?: [number, number];
	/** straightness: places between the ends */
	between?: number;
	/** nominal value of a length or an angle */
	nominal?: number;
}

export const METHOD_WORDS: Record<Method, MethodWords> = {
	grid: {
		name: 'Flatness grid (heights over a plate or a level)',
		features: ['flatness'],
		unit: 'mm',
		labels: (c) =>
			Array.from({ length: (c.nx ?? 0) * (c.ny ?? 0) }, (_, i) => `Row ${Math.floor(i / (c.nx ?? 1)) + 1}, place ${(i % (c.nx ?? 1)) + 1}`),
		reading90: 0.1
	},
	straightedge: {
		name: 'Straightedge and gap',
		features: ['straightness'],
		unit: 'mm',
		labels: (c) => Array.from({ length: c.between ?? 3 }, (_, i) => `Gap ${i + 1} of ${c.between ?? 3}`),
		reading90: 0.1
	},
	diagonals: { name: 'Two diagonals', features: ['squareness'], unit: 'mm', labels: () => ['Diagonal 1', 'Diagonal 2'], reading90: 0.5 },
	tape: { name: 'Tape length', features: ['length'], unit: 'mm', labels: () => ['Length'], reading90: 0.5 },
	angle: { name: 'Angle between faces', features: ['angle'], unit: '°', labels: () => ['Angle'], reading90: 0.2 },
	rock: {
		name: 'Rock test: feeler under the high corner',
		features: ['twist'],
		unit: 'mm',
		labels: () => ['Feeler under the corner that lifts'],
		reading90: 0.1
	}
};

export const methodFor = (kind: FeatureKind): Method => METHODS.find((m) => METHOD_WORDS[m].features.includes(kind))!;

export interface Evaluated {
	/** feature's own value: form error, or departure from nominal */
	value: number;
	unit: 'mm' | '°';
	/** 90 % half-width (GUM: readings independent, instrument only) */
	uncertainty90: number;
	arithmetic: string;
}

const f2 = (v: number) => v.toFixed(2);

/** @throws RangeError naming what is missing or not a number */
export function evaluateReadings(method: Method, readings: readonly number[], context: ReadingContext): Evaluated {
	const words = METHOD_WORDS[method];
	const labels = words.labels(context);
	if (readings.length !== labels.length) throw new Refusal(`${words.name} needs ${labels.length} readings, ${readings.length} given`);
	readings.forEach((r, i) => {
		if (!Number.isFinite(r)) throw new Refusal(`${labels[i]}: not a number`);
	});
	const { unit, reading90: u } = words;
	const nominal = () => {
		if (context.nominal === undefined) throw new Refusal('The drawing value of this feature is not known');
		return context.nominal;
	};
	switch (method) {
		case 'grid': {
			const [nx, ny] = [context.nx!, context.ny!];
			const [w, h] = context.sizeMm!;
			const points = readings.map((z, i): Vec3 => [(w * (i % nx)) / (nx - 1), (h * Math.floor(i / nx)) / (ny - 1), z]);
			const value = minimumZone(points);
			const span = Math.max(...readings) - Math.min(...readings);
			return {
				value,
				unit,
				uncertainty90: u * Math.SQRT2,
				arithmetic: `Heights span ${f2(span)} mm; after the best tilt is taken out, two parallel planes ${f2(value)} mm apart hold all ${readings.length} points`
			};
		}
		case 'straightedge': {
			const value = straightedgeBow(readings);
			return { value, unit, uncertainty90: u, arithmetic: `Largest of ${readings.map((r) => f2(Math.abs(r))).join(', ')} = ${f2(value)} mm` };
		}
		case 'diagonals': {
			const value = Math.abs(readings[0] - readings[1]);
			return { value, unit, uncertainty90: u * Math.SQRT2, arithmetic: `|${f2(readings[0])} - ${f2(readings[1])}| = ${f2(value)} mm` };
		}
		case 'tape':
			return {
				value: readings[0] - nominal(),
				unit,
				uncertainty90: u,
				arithmetic: `${f2(readings[0])} - ${f2(nominal())} (drawing) = ${f2(readings[0] - nominal())} mm`
			};
		case 'angle':
			return {
				value: readings[0] - nominal(),
				unit,
				uncertainty90: u,
				arithmetic: `${f2(readings[0])}° - ${f2(nominal())}° (drawing) = ${f2(readings[0] - nominal())}°`
			};
		case 'rock': {
			const value = Math.abs(readings[0]);
			return { value, unit, uncertainty90: u, arithmetic: `Feeler ${f2(value)} mm under the fourth corner, the other three touching` };
		}
	}
}
