import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { planOf } from '../reading/readPlan';
import { FaultError } from './faults';
import { PLAN_VERSION } from './schema';
import { UPGRADES, upgraded, type UpgradeStep } from './upgrade';

const steps: Record<number, UpgradeStep> = {
	1: ({ gap, ...plan }) => ({ ...plan, rootGap: gap }),
	2: (plan) => ({ ...plan, rootGap: { mm: plan.rootGap } })
};

describe('plans of older versions', () => {
	it('go through every step between theirs and this one, in order; what was read stays as it was', () => {
		const old = { version: 1, gap: 0.3, name: 'x' };
		expect(upgraded(old, '', steps, 3)).toEqual({ version: 3, rootGap: { mm: 0.3 }, name: 'x' });
		expect(upgraded({ version: 2, rootGap: 1 }, '', steps, 3)).toEqual({ version: 3, rootGap: { mm: 1 } });
		expect(old).toEqual({ version: 1, gap: 0.3, name: 'x' });
	});
	it('a newer one is refused by name; what is no plan goes on to the validators', () => {
		expect(() => upgraded({ version: 4 }, 'plan', steps, 3)).toThrow(FaultError);
		try {
			upgraded({ version: 4 }, 'plan', steps, 3);
		} catch (e) {
			expect((e as FaultError).faults[0]).toMatchObject({ field: 'plan.version', allowed: expect.stringMatching(/newer Sarta/) });
		}
		for (const raw of [null, undefined, 7, 'x', [], {}, { version: 'one' }, { version: 1.5 }]) expect(upgraded(raw, '', steps, 3)).toBe(raw);
	});
	it('a gap in the steps is a fault, not a plan half brought on', () => {
		expect(() => upgraded({ version: 0 }, '', steps, 3)).toThrow(FaultError);
	});
	it('there is a step from every version before this one, and the way in takes them', () => {
		for (let v = 1; v < PLAN_VERSION; v++) expect(UPGRADES[v], `from ${v}`).toBeTypeOf('function');
		const plan = JSON.parse(JSON.stringify(newPlan('butt-panel', FAMILY_DEFAULTS['butt-panel']).plan!));
		expect(planOf(plan).version).toBe(PLAN_VERSION);
		expect(() => planOf({ ...plan, version: PLAN_VERSION + 1 })).toThrow(FaultError);
	});
});
