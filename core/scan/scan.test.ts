/** Clouds with known answers: a motion, a displaced piece, a bench under it, noise; and files with something wrong in them. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { featureKind } from '../features';
import { ForecastCache } from '../forecast/cache';
import { forecast } from '../forecast/forecast';
import { add, cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import { normalsFrom } from '../linalg/random';
import { assemblyMesh, locate } from '../mesh/assemblyMesh';
import { align } from './align';
import { checkCloud, pointsOfText, withoutTwins } from './cloud';
import { fromDatum } from './datum';
import { scannedFeatures } from './features';
import { fieldOf } from './field';
import { after, bestMotion, moved, turnBy, turned, type Motion } from './motion';
import { cloudOf } from './simulate';
import { surfaceOf } from './surface';
import { tryAll } from './testing';

const trough = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 400, widthMm: 220, depthMm: 120, rimFlangeMm: 0 }).plan!;
trough.meshSizeMm = 55;
const mesh = assemblyMesh(trough);
const surface = surfaceOf(mesh, tryAll(mesh));
/** turned by 2 rad about a slanting axis and put half a metre off */
const away: Motion = { r: turnBy([1.1, -1.4, 0.9]), t: [512, -230, 1040] };
const distanceOf = (p: Motion, q: Motion) =>
	Math.max(
		...[
			[0, 0, 0],
			[400, 220, 120],
			[-200, 110, 0]
		].map((x) => Math.hypot(...[0, 1, 2].map((d) => moved(p, x as Vec3)[d] - moved(q, x as Vec3)[d])))
	);
const STILL: Motion = { r: [1, 0, 0, 0, 1, 0, 0, 0, 1], t: [0, 0, 0] };

describe('the best motion of points onto points', () => {
	const next = normalsFrom(5);
	const from = Array.from({ length: 40 }, () => [100 * next(), 60 * next(), 30 * next()] as Vec3);
	it('is the one they were moved by, exactly', () => {
		expect(
			distanceOf(
				after(away, STILL),
				bestMotion(
					from,
					from.map((p) => moved(away, p))
				)
			)
		).toBeLessThan(1e-9);
	});
	it('with noise of 0.1 mm on 40 points it is a tenth of that off, and never a mirror image', () => {
		const noisy = from.map((p) => add(moved(away, p), [0.1 * next(), 0.1 * next(), 0.1 * next()]));
		const found = bestMotion(from, noisy);
		const mean = from.reduce((s, p) => s + Math.hypot(...[0, 1, 2].map((d) => moved(found, p)[d] - moved(away, p)[d])), 0) / from.length;
		expect(mean).toBeLessThan(0.08);
		const mirrored = bestMotion(
			from,
			from.map(([x, y, z]) => [-x, y, z])
		);
		const [a, b, c] = [
			[1, 0, 0],
			[0, 1, 0],
			[0, 0, 1]
		].map((e) => turned(mirrored.r, e as Vec3));
		expect(a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])).toBeCloseTo(1, 9);
	});
});

describe('a cloud laid on a piece', () => {
	it('comes back from anywhere, with noise and a bench under it', () => {
		const cloud = cloudOf(mesh, { count: 4000, noiseMm: 0.05, bench: 200, motion: away });
		const found = align(cloud, surface, { side: 'middle' });
		expect(found.isSettled).toBe(true);
		// a box that is open on top can be turned end for end, and is said to
		const home = after(found.motion, away);
		const ends: Motion = { r: [-1, 0, 0, 0, -1, 0, 0, 0, 1], t: [0, 0, 0] };
		const centre = [0, 1, 2].map((d) => {
			const all = Array.from({ length: mesh.nodeCount }, (_, k) => mesh.xyz[3 * k + d]);
			return (Math.min(...all) + Math.max(...all)) / 2;
		});
		const turnedRound: Motion = { r: ends.r, t: [2 * centre[0], 2 * centre[1], 0] };
		expect(Math.min(distanceOf(home, STILL), distanceOf(home, turnedRound))).toBeLessThan(0.1);
		expect(found.others.length).toBeGreaterThan(0);
		// the other way round is there for the asking
		const other = align(cloud, surface, { side: 'middle', way: found.others[0].way });
		expect(distanceOf(other.motion, found.motion)).toBeGreaterThan(100);
	});
	deeply('seen from its front it is laid on its front', () => {
		const cloud = cloudOf(mesh, { count: 3000, face: 1, motion: away });
		const at = (side: 'front' | 'middle') => align(cloud, surface, { side }).rms;
		expect(at('front')).toBeLessThan(0.3 * at('middle'));
	});
});

/** mm, of both corner seams of a side together */
const SHRUNK_MM = 0.7;

describe('how the piece has moved', () => {
	// as the quick forecast moves it: a real piece bends far more than it stretches
	const u = forecast(trough, { cache: new ForecastCache() }).shapes().steps.at(-1)!;
	const cloud = cloudOf(mesh, { count: 30_000, u, noiseMm: 0.03, bench: 500 });
	const field = fieldOf(cloud, STILL, surface, mesh, { side: 'middle' });

	it('comes out as it was put in, along every sheet’s normal, and the bench is left out', () => {
		expect(field.isSettled).toBe(true);
		expect(field.left).toBe(500);
		expect(field.scatter).toBeGreaterThan(0.02);
		expect(field.scatter).toBeLessThan(0.05);
		let worst = 0;
		for (let e = 0; e < mesh.tri.length / 3; e++)
			for (let k = 0; k < 3; k++) {
				const n = mesh.tri[3 * e + k];
				if (field.seen[n] < 10) continue;
				const off = [0, 1, 2].reduce((s, d) => s + surface.normals[3 * e + d] * (field.u[3 * n + d] - u[3 * n + d]), 0);
				worst = Math.max(worst, Math.abs(off));
			}
		expect(worst).toBeLessThan(0.06);
	});
	it('every feature is worth what the piece itself is worth', () => {
		for (const got of scannedFeatures(trough, mesh, field)) {
			const f = trough.features.find((x) => x.id === got.id)!;
			const kind = featureKind(f);
			const places = kind.places(f, trough).map((p) => locate(mesh, p.part, p.at));
			const at = (of: ArrayLike<number>) =>
				places.map((p) => [0, 1, 2].map((d) => p.nodes.reduce((s, n, k) => s + p.weights[k] * of[3 * n + d], 0)) as Vec3);
			const nominal = at(mesh.xyz);
			const truth = kind.movedFar(
				f,
				nominal,
				nominal.map((p, i) => add(p, at(u)[i]))
			);
			// at a corner two sheets have come closer by what the weld has shrunk, and no scan tells whose edge it was
			const isForm = f.kind === 'flatness' || f.kind === 'straightness';
			expect(Math.abs(got.value! - truth), f.name).toBeLessThan(isForm ? 0.06 : kind.unit === '°' ? 0.1 : SHRUNK_MM);
		}
	});
	it('of a floor scanned alone, what lies on the walls has no value', () => {
		const floor: number[] = [];
		for (let i = 0; i < cloud.length; i += 3) if (Math.abs(cloud[i + 2]) < 8) floor.push(cloud[i], cloud[i + 1], cloud[i + 2]);
		const values = scannedFeatures(trough, mesh, fieldOf(Float32Array.from(floor), STILL, surface, mesh, { side: 'middle' }));
		const of = (kind: string) => values.find((v) => v.id === trough.features.find((f) => f.kind === kind)!.id)!.value;
		expect(of('flatness')).toBeDefined();
		expect(of('length')).toBeUndefined();
		expect(of('squareness')).toBeUndefined();
	});
});

describe('seen from three datum points', () => {
	const bent = (k: number): Vec3 => {
		const [x, y, z] = [0, 1, 2].map((d) => mesh.xyz[3 * k + d]);
		return [0.001 * x, 2e-6 * x * x, 1e-5 * x * y + 0.002 * z];
	};
	const plain = Float64Array.from({ length: 3 * mesh.nodeCount }, (_, i) => bent(Math.floor(i / 3))[i % 3]);
	const at = (u: ArrayLike<number>, id: string): Vec3 => {
		const p = trough.points.find((q) => q.id === id)!;
		const l = locate(mesh, p.part, p.at);
		return [0, 1, 2].map((d) => l.nodes.reduce((s, n, k) => s + l.weights[k] * u[3 * n + d], 0)) as Vec3;
	};
	it('the first lies in its place, the second on its axis, the third in its plane, and turning the piece changes nothing', () => {
		const seen = fromDatum(trough, mesh, plain)!;
		const { origin, axis, plane } = trough.datum!;
		const drawn = [origin, axis, plane].map((id) => at(mesh.xyz, id));
		for (const d of [0, 1, 2]) expect(at(seen, origin)[d]).toBeCloseTo(0, 3);
		const along = unit(sub(drawn[1], drawn[0]));
		const off = sub(at(seen, axis), scale(along, dot(at(seen, axis), along)));
		expect(norm(off)).toBeLessThan(1e-3);
		const out = unit(cross(along, sub(drawn[2], drawn[0])));
		expect(Math.abs(dot(at(seen, plane), out))).toBeLessThan(1e-3);
		const elsewhere = Float64Array.from(plain, (_, i) => {
			const k = Math.floor(i / 3);
			const p = [0, 1, 2].map((d) => mesh.xyz[3 * k + d] + plain[3 * k + d]) as Vec3;
			return moved(away, p)[i % 3] - mesh.xyz[i];
		});
		const again = fromDatum(trough, mesh, elsewhere)!;
		expect(Math.max(...again.map((v, i) => Math.abs(v - seen[i])))).toBeLessThan(2e-3);
	});
	it('without a datum there is nothing to see it from', () => expect(fromDatum({ ...trough, datum: undefined }, mesh, plain)).toBeUndefined());
});

describe('what a file may hold', () => {
	it('points by commas, tabs, spaces, with a head line and decimal commas', () => {
		expect([...pointsOfText('x,y,z\n1,2,3\n4.5,5,6\n')]).toEqual([1, 2, 3, 4.5, 5, 6]);
		expect([...pointsOfText('1,5; 2; 3\n')]).toEqual([1.5, 2, 3]);
		expect([...pointsOfText('# made by hand\n1 2 3 255 255 0\n\n4\t5\t6\n')]).toEqual([1, 2, 3, 4, 5, 6]);
	});
	it('a line that is none is named', () => {
		expect(() => pointsOfText('1,2,3\n4,oops,6\n')).toThrow(/Line 2 holds no point/);
	});
	it('corners that triangles share are one', () => {
		expect(withoutTwins({ points: Float32Array.from([1, 2, 3, 1, 2, 3, 4, 5, 6]) }).points.length).toBe(6);
		// a sheet's edge faces two ways and is two
		const corner = { points: Float32Array.from([1, 2, 3, 1, 2, 3, 1, 2, 3]), normals: Float32Array.from([0, 0, 1, 0, 0, 1, 1, 0, 0]) };
		expect([...withoutTwins(corner).normals!]).toEqual([0, 0, 1, 1, 0, 0]);
	});
	it('too few, too small for the piece: the unit that would fit is named', () => {
		const cloud = cloudOf(mesh, { count: 500 });
		expect(() => checkCloud(cloud, mesh.xyz, 'mm')).not.toThrow();
		expect(() => checkCloud(cloud.slice(0, 90), mesh.xyz, 'mm')).toThrow(/30 points: too few/);
		expect(() =>
			checkCloud(
				cloud.map((v) => v / 25.4),
				mesh.xyz,
				'mm'
			)
		).toThrow(/In in it would fit/);
		expect(() =>
			checkCloud(
				cloud.map((v) => v / 1000),
				mesh.xyz,
				'mm'
			)
		).toThrow(/In m it would fit/);
		const holed = cloud.slice();
		holed[7] = NaN;
		expect(() => checkCloud(holed, mesh.xyz, 'mm')).toThrow(/no numbers/);
	});
});
