/** What can be reached when, with which parts on: seams, roots, film, hold-downs, features; and what is put right by one press. */
import { describe, expect, it } from 'vitest';
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { CATALOGUE, FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import { orderPattern } from '../schools/orderPattern';
import { tackPattern } from '../schools/tackPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { stepsOf } from '../sequence/assembly';
import { brokenRule } from '../sequence/precedence';
import { Access, accessFindings, orderFindings } from './access';
import { enclosedLitres } from './enclosed';
import { readableSteps } from './measurable';
import { putRight } from './putRight';

const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};
const refusals = (plan: PlanDocument) => accessFindings(plan, assemblyMesh(plan)).filter((f) => f.kind === 'refused');

describe('assembly order', () => {
	const tank = () => {
		const plan = make('open-trough', { lengthMm: 300, widthMm: 200, depthMm: 120, baffles: 1, baffleHeightMm: 90, lid: true, rimFlangeMm: 0 });
		plan.joints.filter((j) => j.id.startsWith('baffle')).forEach((j) => (j.weldSide = 'front'));
		return plan;
	};
	it('all at once: the baffle inside a lidded tank cannot be reached, and it says so', () => {
		const plan = tank();
		delete plan.fitUp.order;
		const found = accessFindings(plan, assemblyMesh(plan));
		const refused = found.filter((f) => f.kind === 'refused');
		expect(refused.length).toBeGreaterThanOrEqual(3);
		expect(refused[0].words).toMatch(/cannot be reached.*bring on later/);
	});
	it('lid last: the baffle is welded before, the lid closes it off, the weld order must agree', () => {
		const plan = tank();
		plan.fitUp.order = [
			{ id: 'shell', name: 'Shell and baffle', parts: plan.parts.filter((p) => p.id !== 'lid').map((p) => p.id) },
			{ id: 'lid', name: 'Lid', parts: ['lid'] }
		];
		expect(checkPlan(plan)).toEqual([]);
		const isLid = (j: string) => j.startsWith('lid');
		plan.runs = [...plan.runs.filter((r) => !isLid(r.joint)), ...plan.runs.filter((r) => isLid(r.joint))];
		const mesh = assemblyMesh(plan);
		const found = accessFindings(plan, mesh);
		expect(found.filter((f) => f.kind === 'refused')).toEqual([]);
		expect(found.filter((f) => f.kind === 'closed' && f.joint?.startsWith('baffle')).length).toBe(3);
		plan.runs = [...plan.runs.filter((r) => isLid(r.joint)), ...plan.runs.filter((r) => !isLid(r.joint))];
		expect(accessFindings(plan, mesh).some((f) => f.kind === 'refused' && /^Run \d+ must come before run/.test(f.words))).toBe(true);
	});
	it('film inside is called out at the step that shuts it in; an open tray shuts in nothing', () => {
		const plan = tank();
		plan.parts.find((p) => p.id === 'baffle-1')!.film = 'both';
		plan.fitUp.order = [
			{ id: 'shell', name: 'Shell', parts: plan.parts.filter((p) => p.id !== 'lid').map((p) => p.id) },
			{ id: 'lid', name: 'Lid', parts: ['lid'] }
		];
		const film = accessFindings(plan, assemblyMesh(plan)).filter((f) => f.kind === 'film');
		expect(film).toHaveLength(2);
		expect(film[0].words).toMatch(/“Lid” shuts in the front of “Baffle 1”: peel its film before/);
		const tray = make('open-trough', { lengthMm: 300, widthMm: 200, depthMm: 60 });
		expect(accessFindings(tray, assemblyMesh(tray))).toEqual([]);
	});
	it('parts that no step names come on first; a part named twice is refused', () => {
		const plan = tank();
		plan.fitUp.order = [{ id: 'lid', name: 'Lid', parts: ['lid'] }];
		expect(stepsOf(plan)[0].parts).toContain('body');
		plan.fitUp.order.push({ id: 'again', name: 'Lid again', parts: ['lid'] });
		expect(checkPlan(plan)[0].allowed).toBe('must come on at one step only');
	});
});

describe('the adjusting joint and separable parts', () => {
	it('patterns leave the adjusting joint until last, and a plan that does not is told', () => {
		const plan = make('open-trough');
		plan.fitUp.adjustingJoint = 'lf';
		plan.tacks = tackPattern(plan, DEFAULT_TACKS);
		for (const pattern of ['straight-through', 'back-step', 'skip-round'] as const) {
			plan.runs = orderPattern(plan, { pattern, runLengthMm: 50 });
			expect(plan.runs[plan.runs.length - 1].joint).toBe('lf');
			expect(orderFindings(plan)).toEqual([]);
		}
		plan.runs.reverse();
		expect(orderFindings(plan)[0]).toMatch(/is left until last, to take up the error of the rest/);
	});
	it('a part that must stay separable may not be tacked before its neighbours', () => {
		const plan = make('open-trough');
		plan.fitUp.separable = ['end-left'];
		expect(orderFindings(plan)[0]).toMatch(/“Left end” must stay separable/);
		const own = (j: string) => ['bl', 'lf', 'lb'].includes(j);
		plan.tacks = [...plan.tacks.filter((t) => !own(t.joint)), ...plan.tacks.filter((t) => own(t.joint))];
		expect(orderFindings(plan)).toEqual([]);
	});
});

describe('a family’s own plan can be carried out', () => {
	for (const kind of Object.keys(CATALOGUE) as (MadeFamily | 'free')[]) {
		if (kind === 'free') continue;
		it(kind, () => {
			const changes: Record<string, unknown>[] = [{}];
			for (const f of CATALOGUE[kind].fields) {
				if (f.kind === 'word') changes.push(...Object.keys(f.options).map((k) => ({ [f.name]: k })));
				if (f.kind === 'flag') changes.push({ [f.name]: true });
				if (f.kind === 'count') changes.push({ [f.name]: 2 });
			}
			if (kind === 'open-trough')
				changes.push(
					{ lid: true, baffles: 2, portMm: 60, stiffeners: 1 },
					{ lid: true, sumpMm: 80 },
					{ lid: true, baffles: 1, rimFlangeMm: 0, body: 'five-plates' }
				);
			for (const change of changes) expect(refusals(make(kind, change)), JSON.stringify(change)).toEqual([]);
		});
	}
});

describe('what is put on must come off', () => {
	const inside: AnyHoldDown = {
		id: 'bar-1',
		name: 'Inside bar',
		kind: 'bar',
		joint: 'lf',
		fromMm: 0,
		toMm: 100,
		material: 'copper',
		widthMm: 30,
		thicknessMm: 6,
		contact: 'fair',
		life: { on: 'start', off: 'when-cold' }
	};
	it('a bar inside a box that is welded shut is refused in words, and put right it comes off before the lid', () => {
		const plan = make('open-trough', { lengthMm: 300, widthMm: 200, depthMm: 120, lid: true, rimFlangeMm: 0 });
		plan.holdDowns.push({ ...inside });
		const [bar] = refusals(plan);
		expect(bar).toMatchObject({ holdDown: 'bar-1', step: 1 });
		expect(bar.words).toBe('“Inside bar” cannot be taken off once “Lid” is on. Take it off before “Lid” comes on.');
		const right = putRight(plan, assemblyMesh(plan));
		expect(right.notes).toEqual(['“Inside bar” comes off before “Lid” comes on.']);
		expect(right.plan.holdDowns[0].life.off).toBe('before-step:lid');
		expect(refusals(right.plan)).toEqual([]);
		// what stays in on purpose, and what sits outside, is nobody’s business
		plan.holdDowns[0].life.off = 'stays';
		expect(refusals(plan)).toEqual([]);
		plan.holdDowns[0] = { ...inside, id: 'c', kind: 'clamp', stationMm: 50, holds: 'normal', stiffnessNPerMm: 5000 } as AnyHoldDown;
		expect(refusals(plan)).toEqual([]);
	});
	it('a strongback over the seam that is welded while it is on lies in the torch’s way; beside it, or off in time, it does not', () => {
		const plan = make('butt-panel', { widthsMm: [150, 150], lengthMm: 300 });
		const [seam] = plan.joints;
		const part = plan.parts.find((p) => p.id === seam.a.part)!;
		const [[x, y0], [, y1]] = [seam.a.path[0], seam.a.path[seam.a.path.length - 1]];
		const away = part.outline.some((p) => p[0] < x - 1) ? -1 : 1;
		const beam = (off: number, life = 'when-cold'): AnyHoldDown => ({
			id: 's',
			name: 'Beam',
			kind: 'strongback',
			part: part.id,
			path: [
				[x + away * off, y0],
				[x + away * off, y1]
			],
			areaMm2: 200,
			iOutMm4: 1e4,
			iInMm4: 1e4,
			torsionMm4: 1e3,
			eModulusMPa: 2e5,
			offsetMm: 15,
			pitchMm: 60,
			life: { on: 'start', off: life }
		});
		const cautions = (h: AnyHoldDown) =>
			accessFindings({ ...plan, holdDowns: [h] }, assemblyMesh({ ...plan, holdDowns: [h] })).filter((f) => f.kind === 'caution');
		expect(cautions(beam(5))[0].words).toMatch(/“Beam” lies in the torch’s way on “/);
		expect(cautions(beam(60))).toEqual([]);
		expect(cautions(beam(5, 'after-tacks'))).toEqual([]);
	});
	it('the baffled tank as it once was: all at once, the lid among the first; one press makes it a plan that can be welded', () => {
		const plan = make('open-trough', { lengthMm: 300, widthMm: 200, depthMm: 120, baffles: 1, baffleHeightMm: 90, lid: true, rimFlangeMm: 0 });
		delete plan.fitUp.order;
		plan.joints.filter((j) => j.id.startsWith('baffle')).forEach((j) => (j.weldSide = 'front'));
		plan.runs.reverse();
		plan.holdDowns.push({ ...inside });
		expect(refusals(plan).length).toBeGreaterThanOrEqual(3);
		const right = putRight(plan, assemblyMesh(plan));
		expect(checkPlan(right.plan)).toEqual([]);
		expect(refusals(right.plan)).toEqual([]);
		expect(right.notes.join(' ')).toMatch(/“Lid” comes on later, at a step of its own: it covers 3 seams/);
		expect(stepsOf(right.plan).map((s) => s.name)).toEqual(['All parts', 'Lid']);
		expect(brokenRule(right.plan)).toBeUndefined();
		// nothing is lost
		expect(right.plan.runs.map((r) => r.id).sort()).toEqual(plan.runs.map((r) => r.id).sort());
		expect(right.plan.tacks.map((t) => t.id).sort()).toEqual(plan.tacks.map((t) => t.id).sort());
	});
});

describe('space that is closed all round', () => {
	const litres = (plan: PlanDocument) => {
		const mesh = assemblyMesh(plan);
		return enclosedLitres(mesh, new Set(mesh.parts.keys()));
	};
	it('a lidded box of 600 x 300 x 180 mm holds 32.4 L (worked by hand), a drum its π r² h, each to a tenth', () => {
		expect(litres(make('open-trough', { lid: true })) / 32.4).toBeGreaterThan(0.9);
		expect(litres(make('open-trough', { lid: true })) / 32.4).toBeLessThan(1.1);
		const drum = (Math.PI * 150 ** 2 * 400) / 1e6;
		expect(Math.abs(litres(make('cylinder', { top: 'flat' })) / drum - 1)).toBeLessThan(0.1);
	});
	it('an open mouth, a port or a hole lets the air out', () => {
		expect(litres(make('open-trough'))).toBe(0);
		expect(litres(make('open-trough', { lid: true, portMm: 60 }))).toBe(0);
		const vented = make('open-trough', { lid: true });
		const lid = vented.parts.find((p) => p.id === 'lid')!;
		lid.holes.push(Array.from({ length: 12 }, (_, i) => [200 + 5 * Math.cos((Math.PI * i) / 6), 150 + 5 * Math.sin((Math.PI * i) / 6)]));
		expect(litres(vented)).toBe(0);
		const found = accessFindings(make('open-trough', { lid: true }), assemblyMesh(make('open-trough', { lid: true })));
		expect(found.find((f) => f.kind === 'vent')?.words).toMatch(/With “Lid” on, the piece is closed all round \(about 3\d L\): leave a hole/);
	});
});

describe('until when a feature can be read', () => {
	it('the mouth until the lid is on, the lid’s flatness from then, the floor always (its underside)', () => {
		for (const rimFlangeMm of [0, 20]) {
			const plan = make('open-trough', { lid: true, rimFlangeMm });
			const access = new Access(plan, assemblyMesh(plan));
			const at = (id: string) =>
				readableSteps(
					plan.features.find((f) => f.id === id)!,
					access
				);
			expect(at('mouth-width')).toEqual({ from: 0, to: 0 });
			expect(at('mouth-square')).toEqual({ from: 0, to: 0 });
			expect(at('lid-flat')).toEqual({ from: 1, to: 1 });
			expect(at('floor-flat')).toEqual({ from: 0, to: 1 });
		}
	});
	it('every feature of every family can be read at the end, but for what a lid covers', () => {
		for (const kind of Object.keys(CATALOGUE) as (MadeFamily | 'free')[]) {
			if (kind === 'free') continue;
			const plan = make(kind);
			const access = new Access(plan, assemblyMesh(plan));
			const last = stepsOf(plan).length - 1;
			for (const f of plan.features) expect(readableSteps(f, access).to, `${kind} ${f.id}`).toBe(last);
		}
	});
});
