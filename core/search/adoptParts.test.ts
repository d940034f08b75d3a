/** Parts of another plan, taken over by themselves: only what was chosen changes, and what it needs comes along. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { usualBar } from '../holds/usual';
import { planFaults } from '../reading/readPlan';
import { orderPattern } from '../schools/orderPattern';
import type { PlanDocument } from '../document/schema';
import { ADOPTABLE, ADOPTABLE_WORDS, differingParts, withParts } from './adoptParts';

const plan = newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!;
const other = (): PlanDocument => {
	const p = structuredClone(plan);
	const [joint] = p.joints;
	p.settings.push({ ...p.settings[0], id: 'soft', name: 'Soft', ampsA: 30 });
	joint.settings = 'soft';
	joint.presetDeg = 1.5;
	p.runs = orderPattern(p, { pattern: 'skip-round', runLengthMm: 80 });
	p.runs[0].settings = 'soft';
	p.tacks = p.tacks.slice(1);
	p.holdDowns = [{ ...usualBar(joint, 'bar'), life: { on: `before-run:${p.runs[1].id}`, off: 'when-cold' } }];
	p.root = { care: p.root?.care === 'bar' ? 'none' : 'bar' };
	return p;
};

describe('parts of another plan', () => {
	it('those that differ are named, and none where none does', () => {
		expect(differingParts(plan, structuredClone(plan))).toEqual([]);
		expect(differingParts(plan, other())).toEqual([...ADOPTABLE]);
		for (const key of ADOPTABLE) expect(ADOPTABLE_WORDS[key].length).toBeGreaterThan(3);
	});
	it('any of them can be taken: the rest stays as it was, the plan stays sound, and all of them together are the other plan', () => {
		const then = other();
		fc.assert(
			fc.property(fc.subarray([...ADOPTABLE]), (keys) => {
				const { plan: out } = withParts(plan, then, keys);
				expect(planFaults(out)).toEqual([]);
				const left = differingParts(plan, out).filter((k) => !keys.includes(k));
				// settings that the runs taken over are welded with come along
				expect(left.filter((k) => !(k === 'settings' && keys.includes('runs')))).toEqual([]);
				for (const k of keys) if (k !== 'holdDowns') expect(differingParts(then, out), k).not.toContain(k);
			}),
			{ numRuns: 64 }
		);
		expect(differingParts(withParts(plan, then, ADOPTABLE).plan, then)).toEqual([]);
	});
	it('a bar that waited for a run that is not there is on from the start, and that is said', () => {
		const then = other();
		const { plan: out, notes } = withParts(plan, then, ['holdDowns']);
		const isThere = plan.runs.some((r) => r.id === then.runs[1].id);
		expect(out.holdDowns[0].life.on).toBe(isThere ? `before-run:${then.runs[1].id}` : 'start');
		expect(notes.length).toBe(isThere ? 0 : 1);
	});
	it('what would not go together is refused in words, and nothing is changed', () => {
		const then = other();
		then.tacks = [{ ...plan.tacks[0], stationMm: 1e5 }];
		const before = JSON.stringify(plan);
		expect(() => withParts(plan, then, ['tacks'])).toThrow(/cannot be taken over by itself/);
		expect(JSON.stringify(plan)).toBe(before);
	});
});
