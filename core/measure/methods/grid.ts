import type { Vec3 } from '../../geometry/vec';
import { minimumZone } from '../flatness';
import { f2, type MethodKind } from './method';

export const grid: MethodKind = {
	name: 'Flatness grid (heights over a plate or a level)',
	unit: 'mm',
	labels: ({ nx = 0, ny = 0 }) => Array.from({ length: nx * ny }, (_, i) => `Row ${Math.floor(i / nx) + 1}, place ${(i % nx) + 1}`),
	columns: ({ nx = 1 }) => nx,
	reading90: 0.1,
	spread: Math.SQRT2,
	evaluate(readings, { nx, ny, sizeMm }) {
		const [w, h] = sizeMm!;
		const points = readings.map((z, i): Vec3 => [(w * (i % nx!)) / (nx! - 1), (h * Math.floor(i / nx!)) / (ny! - 1), z]);
		const value = minimumZone(points);
		const span = Math.max(...readings) - Math.min(...readings);
		return {
			value,
			arithmetic: `Heights span ${f2(span)} mm; after the best tilt is taken out, two parallel planes ${f2(value)} mm apart hold all ${readings.length} points`
		};
	}
};
