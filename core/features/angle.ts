import { add, cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { angleTolerance } from '../measure/iso13920';
import { namedPlaces, towards, type FeatureRecord } from './feature';
import { faceNormal } from './faces';

/** Sine below which two faces of the drawing lie in one plane. */
const FLAT = 1e-3;

const middle = (q: readonly Vec3[]) => scale(add(add(q[0], q[1]), q[2]), 1 / 3);

/**
 * Angle between two faces, degrees, -180 to 180: positive where they fold towards each other, as the drawing tells which way that is.
 * Faces that fold in the drawing are looked at from inside the fold, in whichever order their places were named, and keep the drawing's
 * sense; flat ones (a butt) turn about the line between them, positive towards their fronts.
 */
const angleBetween = (p: readonly Vec3[], drawn: readonly Vec3[] = p) => {
	const [da, db] = [faceNormal(drawn.slice(0, 3)), faceNormal(drawn.slice(3, 6))];
	const apart = sub(middle(drawn.slice(3, 6)), middle(drawn.slice(0, 3)));
	const isFolded = norm(cross(da, db)) > FLAT;
	// inside is where the other face lies
	const [sa, sb] = isFolded ? [dot(da, apart) < 0 ? -1 : 1, dot(db, apart) > 0 ? -1 : 1] : [1, 1];
	const axis = isFolded ? scale(cross(da, db), sa * sb) : cross(apart, da);
	const [a, b] = [scale(faceNormal(p.slice(0, 3)), sa), scale(faceNormal(p.slice(3, 6)), sb)];
	const turn = cross(a, b);
	return ((Math.atan2(norm(turn), dot(a, b)) * 180) / Math.PI) * (dot(turn, axis) < 0 ? -1 : 1);
};
/** The angle a square or protractor shows inside the fold: 180 less the angle between the two fronts there. */
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
