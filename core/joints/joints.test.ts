/** Every kind of joint answers for itself, and what it says is what the rest does with it. */
import { describe, expect, it } from 'vitest';
import { JOINT_TYPES } from '../document/words';
import type { Joint } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { symbolOf } from '../formats/weldSymbol';
import { add, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { springsOf } from '../response/weldResponse';
import { nodeAt } from '../shell/model';
import { JOINTS } from '.';

it('no two are called alike', () => expect(new Set(JOINT_TYPES.map((t) => JOINTS[t].name)).size).toBe(JOINT_TYPES.length));

describe.each(JOINT_TYPES)('%s', (type) => {
	const kind = JOINTS[type];
	const joint = { type, penetration: 'full', weldSide: 'front', weldSizeMm: 3 } as Joint;

	it('has a fillet’s symbol and leg, unless two edges meet (ISO 2553)', () => {
		const s = symbolOf(joint, 100, 2, 'TIG', false);
		const meets = type === 'butt' || type === 'corner-edge';
		expect([s.symbol === 'fillet', s.size, kind.isEdgeToEdge]).toEqual(meets ? [false, '', true] : [true, 'z3', false]);
	});
	it('says its two sides apart', () => expect(kind.sides.front).not.toBe(kind.sides.back));
	it('lets the section bow in flat work; a fold or a standing sheet holds it straight', () => {
		const [a] = springsOf({ joint, sheets: [], bendingNmm2: undefined });
		expect(a.curvature).toBe(type === 'butt' || type === 'lap' ? 0 : Infinity);
	});
});

it('a socket’s weld lies outside it, between it and the wall', () => {
	const plan = newPlan('manifold', FAMILY_DEFAULTS.manifold).plan!;
	const mesh = assemblyMesh(plan);
	const seam = mesh.seams.find((s) => s.joint.type === 'port')!;
	const at = (k: number): Vec3 => nodeAt(mesh.xyz, seam.a[k]);
	const n = seam.a.length;
	const centre = Array.from({ length: n }, (_, k) => at(k)).reduce<Vec3>((s, p) => add(s, scale(p, 1 / n)), [0, 0, 0]);
	const outwards = seam.frames.map((f, k) => {
		const r = sub(at(k), centre);
		return dot(f.weldSide, scale(r, 1 / norm(r)));
	});
	expect(outwards.reduce((s, x) => s + x, 0) / n).toBeGreaterThan(0.3);
});
