/** Gathers what a family makes: parts, joints, named points and features, with the defaults they share. */
import { angleTolerance, formTolerance, linearTolerance } from '../measure/iso13920';
import type { Vec2, Vec3 } from '../geometry/vec';
import type { AnyFeature, Joint, NamedPoint, Part } from '../document/schema';
import type { JointType, TapeOver } from '../document/words';
import type { Generated } from './family';

/** The largest size ISO 13920 is asked for, mm. */
const ISO_MOST = 4000;

export const rect = (x0: number, y0: number, x1: number, y1: number): Vec2[] => [
	[x0, y0],
	[x1, y0],
	[x1, y1],
	[x0, y1]
];

/** A ring of `n` points on a circle, anticlockwise from `from` rad. */
export const circle = (centre: Vec2, radius: number, n = 48, from = 0): Vec2[] =>
	Array.from({ length: n }, (_, i) => {
		const a = from + (2 * Math.PI * i) / n;
		return [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)];
	});

/** The ring as a closed path, back to its first point. */
export const closed = (ring: readonly Vec2[]): Vec2[] => [...ring, ring[0]];

export class Builder {
	readonly parts: Part[] = [];
	readonly joints: Joint[] = [];
	readonly points: NamedPoint[] = [];
	readonly features: AnyFeature[] = [];

	constructor(
		private readonly material: string,
		private readonly thicknessMm: number
	) {}

	part(id: string, name: string, outline: Vec2[], frame: { origin: Vec3; x: Vec3; y: Vec3 }, more: Partial<Part> = {}): Part {
		const part: Part = { id, name, material: this.material, thicknessMm: this.thicknessMm, outline, holes: [], bends: [], frame, ...more };
		this.parts.push(part);
		return part;
	}

	joint(
		id: string,
		name: string,
		type: JointType,
		a: [part: string, path: Vec2[]],
		b: [part: string, path: Vec2[]],
		more: Partial<Joint> = {}
	): Joint {
		const joint: Joint = {
			id,
			name,
			type,
			a: { part: a[0], path: a[1] },
			b: { part: b[0], path: b[1] },
			gapMm: 0,
			gapMeasured: false,
			presetDeg: 0,
			penetration: 'full',
			filler: false,
			weldSide: 'front',
			settings: 'main',
			...more
		};
		this.joints.push(joint);
		return joint;
	}

	/** A seam the stock came with. */
	stock(id: string, name: string, part: string, a: Vec2[], b: Vec2[]) {
		return this.joint(id, name, 'butt', [part, a], [part, b], { stock: true });
	}

	point(id: string, name: string, part: string, at: Vec2): string {
		this.points.push({ id, name, part, at });
		return id;
	}

	length(id: string, name: string, points: [string, string], nominal: number, over?: TapeOver) {
		const upper = linearTolerance('B', Math.min(ISO_MOST, nominal));
		this.features.push({ id, name, kind: 'length', points, ...(over && { over }), tolerance: { upper, lower: -upper, source: 'ISO 13920-B' } });
	}
	square(id: string, name: string, points: [string, string, string, string], nominal: number) {
		const upper = linearTolerance('B', Math.min(ISO_MOST, nominal));
		this.features.push({ id, name, kind: 'squareness', points, tolerance: { upper, source: 'ISO 13920-B, as a length' } });
	}
	twist(id: string, name: string, points: [string, string, string, string], size: number) {
		this.features.push({ id, name, kind: 'twist', points, tolerance: form(size) });
	}
	straight(id: string, name: string, part: string, path: Vec2[], size: number) {
		this.features.push({ id, name, kind: 'straightness', part, path, n: 9, tolerance: form(size) });
	}
	flat(id: string, name: string, part: string, at: Vec2, size: Vec2, nx = 5, ny = 4) {
		this.features.push({ id, name, kind: 'flatness', part, at, size, nx, ny, tolerance: form(Math.max(...size)) });
	}
	angle(id: string, name: string, faceA: string[], faceB: string[], shortSide: number) {
		const upper = angleTolerance('B', shortSide);
		this.features.push({ id, name, kind: 'angle', faceA, faceB, tolerance: { upper, lower: -upper, source: 'ISO 13920-B' } });
	}

	/** @param datum origin, axis and plane: named points */
	done(datum: [string, string, string], trueJoint = this.joints.find((j) => !j.stock)!.id): Generated {
		const { parts, joints, points, features } = this;
		return { parts, joints, points, features, datum: { origin: datum[0], axis: datum[1], plane: datum[2] }, trueJoint };
	}
}

const form = (size: number) => ({ upper: formTolerance('F', Math.min(ISO_MOST, size)), source: 'ISO 13920-F' });

/** Three points of a face about a middle, well apart: what an angle is measured between. */
export const facePoints = (middle: Vec2, reach: number): [Vec2, Vec2, Vec2] => [
	[middle[0] - reach, middle[1] - reach / 2],
	[middle[0] + reach, middle[1] - reach / 2],
	[middle[0], middle[1] + reach]
];
