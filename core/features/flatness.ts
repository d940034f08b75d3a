import { add, type Vec2 } from '../geometry/vec';
import { minimumZone, thinZone } from '../measure/flatness';
import { formTolerance } from '../measure/iso13920';
import { NONE, type FeatureRecord } from './feature';

export const flatness: FeatureRecord<'flatness'> = {
	unit: 'mm',
	linearCaution: 'Linear method: sag and dishing past the buckling limit are not in this number.',
	isSigned: false,
	teaches: false,
	sags: true,
	methods: ['grid'],
	places: (f) =>
		Array.from({ length: f.nx * f.ny }, (_, i) => ({
			part: f.part,
			at: [f.at[0] + (f.size[0] * (i % f.nx)) / (f.nx - 1), f.at[1] + (f.size[1] * Math.floor(i / f.nx)) / (f.ny - 1)] as Vec2
		})),
	check(f, c) {
		if (!(f.size[0] > 0) || !(f.size[1] > 0)) c.add('size', f.size, 'must be positive');
		c.onPart(f.part, f.at, 'at');
		c.onPart(f.part, [f.at[0] + f.size[0], f.at[1] + f.size[1]], 'size');
	},
	nominal: NONE,
	moved: (_, nominal, u) => thinZone(nominal.map((p, i) => add(p, u[i]))),
	movedFar: (_, __, points) => minimumZone(points),
	reading: (f) => ({ nx: f.nx, ny: f.ny, sizeMm: f.size }),
	general: { classes: 'form', of: (c, size) => ({ upper: formTolerance(c, size) }), sizeMm: (f) => Math.max(...f.size) }
};
