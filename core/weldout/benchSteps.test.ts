/** Everything planned reaches the bench: a list of what a plan holds against the list of steps, and the order of the work. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { benchPlan } from './benchPlan';
import type { BenchStep } from './benchSteps';
import { stepLines } from './stepWords';
import { everything, make } from './testing';

const mm = (v: number) => `${v.toFixed(1)} mm`;

/** What a plan holds that somebody must do, each as a line; and the same read off the steps. */
function planned(plan: PlanDocument): string[] {
	const steps = plan.fitUp.order ?? [];
	return [
		...plan.fitUp.checks.map((c) => `check ${c.text}`),
		...(steps.length > 1 ? steps.flatMap((s) => s.parts.map((p) => `part ${p}`)) : []),
		...plan.joints.filter((j) => j.presetDeg).map((j) => `preset ${j.id} ${Math.abs(j.presetDeg)} ${j.presetDeg > 0 ? 'open' : 'closed'}`),
		...plan.holdDowns.flatMap((h) => [`on ${h.id}`, ...(h.life.off === 'stays' ? [] : [`off ${h.id}`])]),
		...plan.tacks.map((t) => `tack ${t.joint} ${t.stationMm} ${t.lengthMm} ${t.fusionOnly}`),
		...plan.tacks.filter((t) => t.flush).map((t) => `grind ${t.joint} ${t.stationMm}`),
		...plan.runs.map((r) => `run ${r.joint} ${r.fromMm} ${r.toMm}`),
		...plan.runs.filter((r) => r.cooling && r.cooling !== 'still').map((r) => `cool ${r.id} ${r.cooling}`),
		...plan.runs.filter((r) => r.waitBeforeS).map((r) => `wait ${r.id}`),
		...plan.features.map((f) => `measure ${f.id}`),
		...(plan.holdPoints ?? []).map((h) => `sign ${h.id} ${h.signs} ${h.wanted ?? ''}`),
		...(plan.root?.care === 'purge'
			? ['purge on', 'purge off', `flow ${plan.root.flowLPerMin}`, `vent ${plan.root.ventMm}`, `dams ${plan.root.dams}`, 'sweep']
			: []),
		...(plan.parts.some((p) => p.film && p.film !== 'none')
			? plan.joints.filter((j) => !j.stock && [j.a, j.b].some((s) => plan.parts.find((p) => p.id === s.part)!.film)).map((j) => `film ${j.id}`)
			: [])
	];
}
function told(steps: readonly BenchStep[]): Set<string> {
	const out = new Set<string>();
	for (const s of steps) {
		if (s.kind === 'check') out.add(`check ${s.title}`);
		if (s.kind === 'sign') out.add(`sign ${s.point} ${s.signs} ${s.wanted ?? ''}`);
		if (s.kind === 'parts') s.parts.forEach((p) => out.add(`part ${p}`));
		if (s.kind === 'preset') out.add(`preset ${s.joint} ${s.setting.deg} ${s.setting.isOpened ? 'open' : 'closed'}`);
		if (s.kind === 'hold') out.add(`${s.on ? 'on' : 'off'} ${s.holdDown}`);
		if (s.kind === 'tack') s.stations.forEach((x) => out.add(`tack ${s.joint} ${x} ${s.lengthMm} ${s.fusionOnly}`));
		if (s.kind === 'grind') s.stations.forEach((x) => out.add(`grind ${s.joint} ${x}`));
		if (s.kind === 'run') out.add(`run ${s.joint} ${s.fromMm} ${s.toMm}`);
		if (s.kind === 'wait') {
			out.add(`wait ${s.before}`);
			if (/fan on the piece/.test(s.title)) out.add(`cool ${s.before} fan`);
			if (s.id === 'wait:purge') out.add('sweep');
		}
		if (s.kind === 'measure') s.features.forEach((f) => out.add(`measure ${f}`));
		if (s.kind === 'purge') {
			out.add(`purge ${s.on ? 'on' : 'off'}`);
			out.add(`flow ${s.setting.flowLPerMin}`);
			out.add(`vent ${s.setting.ventMm}`);
			out.add(`dams ${s.setting.dams}`);
		}
		if (s.kind === 'film') s.back.forEach((b) => out.add(`film ${b.joint}`));
	}
	return out;
}

describe('everything planned has a step', () => {
	it('on a tank with something of everything, and on every family as it is made', () => {
		const plans = [everything(), ...(Object.keys(FAMILY_DEFAULTS) as (MadeFamily | 'free')[]).flatMap((k) => (k === 'free' ? [] : [make(k)]))];
		for (const plan of plans) {
			const steps = told(benchPlan(plan).steps);
			expect(planned(plan).filter((line) => !steps.has(line))).toEqual([]);
		}
	});
	it('each step once; every step has words where its title does not say it all', () => {
		const plan = everything();
		const steps = benchPlan(plan).steps;
		expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length);
		for (const s of steps) {
			const lines = stepLines(s, plan, mm);
			expect(lines.join(' ')).not.toMatch(/undefined|NaN|Infinity/);
			if (s.kind !== 'check') expect(lines.join('').length, s.id).toBeGreaterThan(5);
		}
	});
});

describe('the order of the work', () => {
	const plan = everything();
	const steps = benchPlan(plan).steps;
	const at = (id: string | RegExp) => steps.findIndex((s) => (typeof id === 'string' ? s.id === id : id.test(s.id)));
	it('checks, film and earth come first; then what is set over, then the tacks', () => {
		expect(at('film')).toBeLessThan(at('earth'));
		expect(at('earth')).toBeLessThan(at('preset:lf'));
		expect(at('preset:lf')).toBeLessThan(at(/^tack:/));
	});
	it('whether edges touch is asked when they stand and are held, before the first tack', () => {
		const touch = at('check:touch');
		expect(touch).toBeGreaterThan(at('earth'));
		expect(touch).toBeGreaterThan(at(/^parts:/));
		expect(touch).toBeGreaterThan(at('preset:lf'));
		expect(touch).toBeLessThan(at(/^tack:/));
		// a check of one's own comes first, as ever
		const own = make('butt-panel');
		own.fitUp.checks.push({ id: 'own', text: 'Bench wiped' });
		const list = benchPlan(own).steps.map((s) => s.id);
		expect(list.indexOf('check:own')).toBeLessThan(list.indexOf('earth'));
	});
	it('the bar lies under before anything presses on it, and what is set over is set before it is clamped (common practice, no source)', () => {
		const own = make('butt-panel');
		const [joint] = own.joints;
		joint.presetDeg = 1;
		const life = { on: 'start', off: 'when-cold' };
		own.holdDowns.push(
			{ id: 'c1', name: 'Clamp', kind: 'clamp', joint: joint.id, stationMm: 40, holds: 'normal', stiffnessNPerMm: 5000, life },
			{
				id: 'b1',
				name: 'Bar',
				kind: 'bar',
				joint: joint.id,
				fromMm: 0,
				toMm: 100,
				material: 'copper',
				widthMm: 30,
				thicknessMm: 8,
				contact: 'fair',
				life
			}
		);
		const order = benchPlan(own).steps.map((s) => s.id);
		const place = ['on:b1', `preset:${joint.id}`, 'on:c1'].map((id) => order.indexOf(id));
		expect(place).toEqual([...place].sort((a, b) => a - b));
		expect(order.filter((id) => id.startsWith('preset:'))).toHaveLength(1);
		expect(place[2]).toBeLessThan(order.findIndex((id) => id.startsWith('tack:')));
	});
	it('what locates, a look, what closes up; then the tacks are ground and the piece is read', () => {
		const look = at('look:fit-up');
		const before = steps.slice(0, look).filter((s) => s.kind === 'tack');
		const after = steps.slice(look, at('parts:lid')).filter((s) => s.kind === 'tack');
		expect(before.every((s) => s.kind === 'tack' && s.stage === 1)).toBe(true);
		expect(after.every((s) => s.kind === 'tack' && s.stage === 2)).toBe(true);
		expect(before.length * after.length).toBeGreaterThan(0);
		expect(at(/^grind:/)).toBeLessThan(at('measure:as-tacked'));
		expect(at('measure:as-tacked')).toBeLessThan(at(/^run:/));
	});
	it('before the lid comes on the inside is welded, read cold, looked over, and what is inside is out', () => {
		const lid = at('parts:lid');
		const isLid = (s: BenchStep) => 'joint' in s && s.joint.startsWith('lid');
		expect(steps.slice(0, lid).some(isLid)).toBe(false);
		expect(
			steps
				.slice(lid)
				.filter((s) => s.kind === 'run' || s.kind === 'tack')
				.every(isLid)
		).toBe(true);
		expect(at('off:bar')).toBeLessThan(lid);
		expect(at('on:clamp')).toBeGreaterThan(lid);
		const inside = steps[at('measure:cold:shell')];
		expect(inside).toMatchObject({ kind: 'measure', moment: 'cold' });
		expect(inside.kind === 'measure' && inside.features).toContain('mouth-width');
		const look = steps[at('look:lid')];
		expect(stepLines(look, plan, mm).join(' ')).toMatch(/“Lid” closes off “Baffle 1 to floor”, .*: weld and look them over for pinholes before/);
		expect(at('look:lid')).toBeLessThan(lid);
	});
	it('a mouth under a lid is not asked for then; the lid itself is', () => {
		const last = steps[at('measure:unclamped')];
		expect(last.kind === 'measure' && last.features).not.toContain('mouth-width');
		expect(last.kind === 'measure' && last.features).toContain('lid-flat');
		const tacked = steps[at('measure:as-tacked:lid')];
		expect(tacked.kind === 'measure' && tacked.features).toEqual(['lid-flat']);
	});
	it('purge: on and swept before the first run that goes through, off after the last; ln(209500/100) changes of 7 L at 8 L/min are 7 min (worked by hand: 6.7)', () => {
		const through = (s: BenchStep) => s.kind === 'run' && plan.joints.find((j) => j.id === s.joint)!.penetration === 'full';
		const [first, last] = [steps.findIndex(through), steps.map(through).lastIndexOf(true)];
		expect(at('purge:on')).toBeLessThan(at('wait:purge'));
		expect(at('wait:purge')).toBeLessThan(first);
		expect(at('purge:off')).toBeGreaterThan(last);
		expect(steps[at('wait:purge')]).toMatchObject({ seconds: 420 });
	});
	it('nothing through, no purge; a volume not given is swept by a meter', () => {
		const sealed = { ...plan, joints: plan.joints.map((j) => ({ ...j, penetration: 'partial' as const })) };
		expect(benchPlan(sealed).steps.some((s) => s.kind === 'purge')).toBe(false);
		const open = benchPlan({ ...plan, root: { care: 'purge' } }).steps;
		expect(open.some((s) => s.id === 'wait:purge')).toBe(false);
		expect(
			stepLines(
				open.find((s) => s.id === 'purge:on')!,
				plan,
				mm
			).join(' ')
		).toMatch(/sweep until a meter reads/);
	});
});
