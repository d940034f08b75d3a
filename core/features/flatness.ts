import { add, type Vec2 } from '../geometry/vec';
import { minimumZone, reliefOf, thinZone, withoutRelief } from '../measure/flatness';
import { formTolerance } from '../measure/iso13920';
import { Refusal } from '../refusal/refusal';
import { NONE, onePart, type FeatureRecord } from './feature';

/** Readings are taken about this far apart; a smaller field is no field, mm (common practice, no source). */
const PITCH_MM = 120;
const SMALLEST_MM = 20;

export const flatness: FeatureRecord<'flatness'> = {
	unit: 'mm',
	linearCaution: 'Linear method: sag and dishing past the buckling limit are not in this number.',
	isSigned: false,
	isOwnedByWaves: true,
	sags: true,
	taped: [],
	shownAs: 'places',
	asks: ['One corner of the field', 'The opposite corner'],
	make(places) {
		const [p, q] = places.map((x) => x.at);
		const [w, h] = [Math.abs(q[0] - p[0]), Math.abs(q[1] - p[1])];
		if (w < SMALLEST_MM || h < SMALLEST_MM)
			throw new Refusal(`A field of ${w.toFixed(0)} x ${h.toFixed(0)} mm is too small for a grid of readings: at least ${SMALLEST_MM} mm each way`);
		const along = (mm: number) => Math.min(6, Math.max(3, Math.round(mm / PITCH_MM) + 1));
		return {
			kind: 'flatness',
			part: onePart(places, 'Flatness'),
			at: [Math.min(p[0], q[0]), Math.min(p[1], q[1])],
			size: [w, h],
			nx: along(w),
			ny: along(h)
		};
	},
	relaid(f, to) {
		const [p, q] = [to(f.at), to([f.at[0] + f.size[0], f.at[1] + f.size[1]])];
		return { ...f, at: p, size: [q[0] - p[0], q[1] - p[1]] };
	},
	methods: ['grid', 'points', 'scan'],
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
	// against the shape that is drawn: a crease's own height is not out of flat
	moved: (f, nominal, u) => thinZone(withoutRelief(nominal, reliefOf(nominal, f.nx), f.nx).map((p, i) => add(p, u[i]))),
	movedFar: (f, nominal, points) => minimumZone(withoutRelief(points, reliefOf(nominal, f.nx), f.nx)),
	reading: (f, points) => ({ nx: f.nx, ny: f.ny, sizeMm: f.size, relief: reliefOf(points(), f.nx) }),
	general: { classes: 'form', of: (c, size) => ({ upper: formTolerance(c, size) }), sizeMm: (f) => Math.max(...f.size) }
};
