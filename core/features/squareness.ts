import { distance, dot, sub, unit } from '../geometry/vec';
import { linearTolerance } from '../measure/iso13920';
import { namedPlaces, NONE, type FeatureRecord } from './feature';

export const squareness: FeatureRecord<'squareness'> = {
	unit: 'mm',
	isSigned: false,
	isOwnedByWaves: false,
	sags: false,
	taped: [
		[0, 2],
		[1, 3]
	],
	shownAs: 'tapes',
	asks: ['Corner 1', 'Corner 2, next to it', 'Corner 3, opposite the first', 'Corner 4'],
	make: (places, named) => ({ kind: 'squareness', points: places.map(named) }),
	relaid: (f) => f,
	methods: ['diagonals', 'corner-square', 'scan'],
	places: (f, plan) => namedPlaces(f.points, plan),
	check: (f, c) => c.named(f.points, 'points'),
	nominal: NONE,
	moved(_, p, u) {
		const stretch = (i: number, j: number) => dot(sub(u[j], u[i]), unit(sub(p[j], p[i])));
		return Math.abs(distance(p[0], p[2]) - distance(p[1], p[3]) + stretch(0, 2) - stretch(1, 3));
	},
	movedFar: (_, __, p) => Math.abs(distance(p[0], p[2]) - distance(p[1], p[3])),
	reading(_, points) {
		const p = points();
		return { nominal: distance(p[0], p[2]), sizeMm: [distance(p[0], p[1]), distance(p[1], p[2])] };
	},
	general: { classes: 'linear', of: (c, size) => ({ upper: linearTolerance(c, size), note: 'as a length' }), sizeMm: (_, __, side) => side }
};
