import { add, dot, sub, type Vec3 } from '../geometry/vec';
import { formTolerance } from '../measure/iso13920';
import { faceNormal } from './faces';
import { namedPlaces, NONE, type FeatureRecord } from './feature';

/** Height of the fourth corner over the plane of the other three. */
const height = (p: readonly Vec3[]) => Math.abs(dot(sub(p[3], p[0]), faceNormal(p)));

export const twist: FeatureRecord<'twist'> = {
	unit: 'mm',
	linearCaution: 'Linear method: a thin free piece may pop into twist beyond this.',
	isSigned: false,
	teaches: false,
	isOwnedByWaves: true,
	sags: false,
	taped: [],
	shownAs: 'ring',
	asks: ['Corner 1', 'Corner 2, next to it', 'Corner 3, opposite the first', 'Corner 4'],
	make: (places, named) => ({ kind: 'twist', points: places.map(named) }),
	relaid: (f) => f,
	methods: ['rock'],
	places: (f, plan) => namedPlaces(f.points, plan),
	check: (f, c) => c.named(f.points, 'points'),
	nominal: NONE,
	moved: (_, nominal, u) => height(nominal.map((p, i) => add(p, u[i]))),
	movedFar: (_, __, points) => height(points),
	reading: () => ({}),
	general: { classes: 'form', of: (c, size) => ({ upper: formTolerance(c, size) }), sizeMm: (_, __, side) => side }
};
