import { pathLength, pointAt } from '../geometry/polyline';
import { add } from '../geometry/vec';
import { formTolerance } from '../measure/iso13920';
import { bowFromEnds } from '../measure/straightness';
import { NONE, onePart, type FeatureRecord } from './feature';

/** Gaps read under a straightedge between its ends. */
const STRAIGHTEDGE_PLACES = 3;

export const straightness: FeatureRecord<'straightness'> = {
	unit: 'mm',
	linearCaution: 'Linear method: a free thin edge may wave more than this.',
	isSigned: false,
	isOwnedByWaves: true,
	sags: true,
	taped: [],
	shownAs: 'line',
	asks: ['One end of the line', 'The other end'],
	make: (places) => ({ kind: 'straightness', part: onePart(places, 'Straightness'), path: places.map((p) => p.at), n: 9 }),
	relaid: (f, to) => ({ ...f, path: f.path.map(to) }),
	methods: ['straightedge', 'straightedge-crown', 'dial-line', 'scan'],
	places(f) {
		const length = pathLength(f.path);
		return Array.from({ length: f.n }, (_, i) => ({ part: f.part, at: pointAt(f.path, (length * i) / (f.n - 1)) }));
	},
	check(f, c) {
		if (!(pathLength(f.path) >= 2)) c.add('path', f.path, 'must be at least 2 mm long');
		f.path.forEach((p) => c.onPart(f.part, p, 'path'));
	},
	nominal: NONE,
	moved: (_, nominal, u) => bowFromEnds(nominal.map((p, i) => add(p, u[i]))),
	movedFar: (_, __, points) => bowFromEnds(points),
	reading: (f) => ({ between: STRAIGHTEDGE_PLACES, lengthMm: pathLength(f.path) }),
	general: { classes: 'form', of: (c, size) => ({ upper: formTolerance(c, size) }), sizeMm: (f) => pathLength(f.path) }
};
