import { distance, dot, sub, unit } from '../geometry/vec';
import { linearTolerance } from '../measure/iso13920';
import { namedPlaces, towards, type FeatureRecord } from './feature';

export const length: FeatureRecord<'length'> = {
	unit: 'mm',
	isSigned: true,
	isOwnedByWaves: false,
	sags: false,
	taped: [[0, 1]],
	shownAs: 'tapes',
	asks: ['One end', 'The other end'],
	make: (places, named) => ({ kind: 'length', points: places.map(named) }),
	relaid: (f) => f,
	methods: ['tape', 'tape-repeated', 'calliper', 'pi-tape', 'scan'],
	places: (f, plan) => namedPlaces(f.points, plan),
	check: (f, c) => c.named(f.points, 'points'),
	nominal: ([p, q]) => distance(p, q),
	moved: (f, [p, q], u) => dot(sub(u[1], u[0]), unit(sub(q, p))) + towards(f, distance(p, q)),
	movedFar: (f, [p, q], points) => distance(points[0], points[1]) - (f.original ?? distance(p, q)),
	reading(_, points) {
		const [p, q] = points();
		return { nominal: distance(p, q) };
	},
	general: {
		classes: 'linear',
		of(c, size) {
			const v = linearTolerance(c, size);
			return { upper: v, lower: -v };
		},
		sizeMm: (_, drawn, side) => drawn ?? side
	}
};
