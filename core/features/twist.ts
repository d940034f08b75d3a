import { add, cross, distance, dot, norm, sub, type Vec3 } from '../geometry/vec';
import { formTolerance } from '../measure/iso13920';
import { faceNormal } from './faces';
import { namedPlaces, NONE, type FeatureRecord } from './feature';

/** Height of the fourth corner over the plane of the other three. */
const height = (p: readonly Vec3[]) => Math.abs(dot(sub(p[3], p[0]), faceNormal(p)));

/** Shares of the first three corners in the foot of the fourth on their plane (barycentric). */
function sharesIn([a, b, c, d]: readonly Vec3[]): [number, number, number] {
	const n = cross(sub(b, a), sub(c, a));
	const part = (p: Vec3, q: Vec3) => dot(cross(sub(p, d), sub(q, d)), n) / norm(n) ** 2;
	return [part(b, c), part(c, a), part(a, b)];
}

export const twist: FeatureRecord<'twist'> = {
	unit: 'mm',
	linearCaution: 'Linear method: a thin free piece may pop into twist beyond this.',
	isSigned: false,
	isOwnedByWaves: true,
	sags: false,
	taped: [],
	shownAs: 'ring',
	asks: ['Corner 1', 'Corner 2, next to it', 'Corner 3, opposite the first', 'Corner 4'],
	make: (places, named) => ({ kind: 'twist', points: places.map(named) }),
	relaid: (f) => f,
	methods: ['rock', 'corners', 'winding-sticks', 'dial-ring', 'scan'],
	places: (f, plan) => namedPlaces(f.points, plan),
	check: (f, c) => c.named(f.points, 'points'),
	nominal: NONE,
	moved: (_, nominal, u) => height(nominal.map((p, i) => add(p, u[i]))),
	movedFar: (_, __, points) => height(points),
	reading(_, points) {
		const p = points();
		return { sizeMm: [distance(p[0], p[1]), distance(p[1], p[2])], fourth: sharesIn(p) };
	},
	general: { classes: 'form', of: (c, size) => ({ upper: formTolerance(c, size) }), sizeMm: (_, __, side) => side }
};
