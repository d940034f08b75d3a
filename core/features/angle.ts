import { add, cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { angleTolerance } from '../measure/iso13920';
import { namedPlaces, towards, type FeatureRecord } from './feature';
import { faceNormal } from './faces';

/** Sine below which two faces of the drawing lie in one plane. */
const FLAT = 1e-3;

/**
 * Angle between two faces, degrees, -180 to 180: positive where they fold towards their fronts, as the drawing tells which way that is.
 * Faces that fold in the drawing keep the drawing's sense; flat ones (a butt) turn about the line between them.
 */
const angleBetween = (p: readonly Vec3[], drawn: readonly Vec3[] = p) => {
	const [a, b] = [faceNormal(p.slice(0, 3)), faceNormal(p.slice(3, 6))];
	const turn = cross(a, b);
	const [da, db] = [faceNormal(drawn.slice(0, 3)), faceNormal(drawn.slice(3, 6))];
	const folded = cross(da, db);
	const middle = (q: readonly Vec3[]) => scale(add(add(q[0], q[1]), q[2]), 1 / 3);
	const axis = norm(folded) > FLAT ? folded : cross(sub(middle(drawn.slice(3, 6)), middle(drawn.slice(0, 3))), da);
	return ((Math.atan2(norm(turn), dot(a, b)) * 180) / Math.PI) * (dot(turn, axis) < 0 ? -1 : 1);
};
/** The angle a square or protractor shows inside the fold: 180 less the angle between the two fronts. */
const inside = (points: readonly Vec3[]) => 180 - angleBetween(points);

export const angle: FeatureRecord<'angle'> = {
	unit: '°',
	isSigned: true,
	isOwnedByWaves: false,
	sags: false,
	taped: [],
	shownAs: 'faces',
	asks: ['First face, place 1', 'First face, place 2', 'First face, place 3', 'Second face, place 1', 'Second face, place 2', 'Second face, place 3'],
	make(places, named) {
		const ids = places.map(named);
		return { kind: 'angle', faceA: ids.slice(0, 3), faceB: ids.slice(3) };
	},
	relaid: (f) => f,
	methods: ['angle', 'square', 'laser-spot', 'scan-angle'],
	places: (f, plan) => namedPlaces([...f.faceA, ...f.faceB], plan),
	check(f, c) {
		c.named(f.faceA, 'faceA');
		c.named(f.faceB, 'faceB');
	},
	nominal: inside,
	moved(f, nominal, u) {
		const points = nominal.map((p, i) => add(p, u[i]));
		return angleBetween(nominal) - angleBetween(points, nominal) - towards(f, angleBetween(nominal));
	},
	movedFar: (f, nominal, points) => (f.original ?? angleBetween(nominal)) - angleBetween(points, nominal),
	reading: (_, points) => ({ nominal: inside(points()) }),
	general: {
		classes: 'linear',
		of(c, size) {
			const v = angleTolerance(c, size);
			return { upper: v, lower: -v };
		},
		sizeMm: (_, __, side) => side
	}
};
