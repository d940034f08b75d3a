import type { Vec3 } from '../../geometry/vec';
import { minimumZone } from '../flatness';
import { f2, type MethodKind } from './method';

/** A panel that stands over its plane by more than this was shaped on purpose, mm. */
const SHAPED_MM = 0.02;

export const grid: MethodKind = {
	name: 'Flatness grid (heights over a plate or a level)',
	unit: 'mm',
	labels: ({ nx = 0, ny = 0 }) => Array.from({ length: nx * ny }, (_, i) => `${i + 1}: row ${Math.floor(i / nx) + 1}, place ${(i % nx) + 1}`),
	columns: ({ nx = 1 }) => nx,
	reading90: 0.1,
	spread: Math.SQRT2,
	evaluate(readings, { nx, ny, sizeMm, relief }) {
		const [w, h] = sizeMm!;
		const isShaped = relief?.some((r) => Math.abs(r) > SHAPED_MM) ?? false;
		// heights are read towards the front
		const points = readings.map((z, i): Vec3 => [
			(w * (i % nx!)) / (nx! - 1),
			(h * Math.floor(i / nx!)) / (ny! - 1),
			z - (isShaped ? relief![i] : 0)
		]);
		const value = minimumZone(points);
		const span = Math.max(...readings) - Math.min(...readings);
		const own = isShaped ? `the panel’s own shape (up to ${f2(Math.max(...relief!) - Math.min(...relief!))} mm) is taken off; ` : '';
		return {
			value,
			arithmetic: `Heights span ${f2(span)} mm; ${own}after the best tilt is taken out, two parallel planes ${f2(value)} mm apart hold all ${readings.length} points`
		};
	}
};
