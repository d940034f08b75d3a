import type { Vec3 } from '../../geometry/vec';
import { Refusal } from '../../refusal/refusal';
import { minimumZone } from '../flatness';
import { f2, three, type MethodKind } from './method';

/** Fewer lie in a plane, or nearly. */
const FEWEST = 4;

/** Any points of a plane, by their coordinates: as a measuring arm or a machine writes them. */
export const freePoints: MethodKind = {
	name: 'Coordinates of points anywhere on it (x, y, z)',
	unit: 'mm',
	isPoints: true,
	chosen: { least: 3 * FEWEST, most: 399, usual: () => 3 * FEWEST },
	labels: ({ places = 3 * FEWEST }) => Array.from({ length: places }, (_, i) => `${'xyz'[i % 3]} of point ${Math.floor(i / 3) + 1}`),
	columns: three,
	reading90: 0.1,
	spread: Math.SQRT2,
	evaluate(readings, { relief }) {
		if (readings.length % 3) throw new Refusal(`Each point takes three readings: ${readings.length} were given`);
		if (relief?.some((r) => Math.abs(r) > 0.02))
			throw new Refusal('This panel is shaped in the drawing: read it on its grid, from which its own shape can be taken off');
		const points = Array.from({ length: readings.length / 3 }, (_, i): Vec3 => [readings[3 * i], readings[3 * i + 1], readings[3 * i + 2]]);
		const value = minimumZone(points);
		return { value, arithmetic: `Two parallel planes ${f2(value)} mm apart hold all ${points.length} points` };
	}
};
