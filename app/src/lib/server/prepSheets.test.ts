/** Fit-up and hold sheets are made from the list of bench steps: what the list has is on them, with the list's own numbers and a picture. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '$core/document/schema';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { seamResponses } from '$core/response/forPlan';
import { benchPlan } from '$core/weldout/benchPlan';
import { runSheet } from './pdf';
import { fitUpContent, holdContent } from './prepSheets';

function tank(): PlanDocument {
	const p = newPlan('open-trough', {
		...FAMILY_DEFAULTS['open-trough'],
		body: 'five-plates',
		lengthMm: 320,
		widthMm: 220,
		depthMm: 140,
		rimFlangeMm: 20,
		baffles: 1,
		baffleHeightMm: 90,
		lid: true
	}).plan!;
	const [first] = p.joints;
	p.holdDowns.push(
		{
			id: 'bar-1',
			name: 'Copper bar',
			kind: 'bar',
			joint: first.id,
			fromMm: 20,
			toMm: 100,
			material: 'copper',
			widthMm: 40,
			thicknessMm: 10,
			contact: 'fair',
			life: { on: 'start', off: 'when-cold' }
		} as never,
		{
			id: 'weight-1',
			name: 'Weight on the floor',
			kind: 'weight',
			part: p.parts[0].id,
			at: [100, 100],
			massKg: 5,
			life: { on: 'start', off: 'when-cold' }
		} as never
	);
	p.tacks[0].flush = true;
	p.parts[0].film = 'both';
	p.root = { care: 'purge', volumeL: 9, flowLPerMin: 10, ventMm: 6 } as never;
	return p;
}

describe('sheets from the list', () => {
	const plan = tank();
	const bench = benchPlan(plan);
	const responses = seamResponses(plan);
	const text = (c: unknown) => JSON.stringify(c);
	it('every step that makes ready is on the fit-up sheet with its number, in order', () => {
		const sheet = text(fitUpContent(plan, bench, responses, 'mm'));
		const wanted = bench.steps.flatMap((s, i) =>
			['check', 'film', 'parts', 'preset', 'grind'].includes(s.kind) || (s.kind === 'look' && s.at !== 'pinholes') ? [{ s, n: i + 1 }] : []
		);
		expect(wanted.length).toBeGreaterThan(6);
		let last = -1;
		for (const { s, n } of wanted) {
			const at = sheet.indexOf(`"${n}"`, last + 1);
			expect(at, `${n} ${s.title}`).toBeGreaterThan(last);
			expect(sheet.includes(s.title), s.title).toBe(true);
			last = at;
		}
		expect(sheet.match(/<svg/g)!.length).toBeGreaterThan(2);
		expect(wanted.some(({ s }) => s.kind === 'parts' && s.parts.includes('lid'))).toBe(true);
	});
	it('every hold-down has its step on and off, and a picture of where it goes; purging is told with its sweep', () => {
		const sheet = text(holdContent(plan, bench, 'mm'));
		for (const h of plan.holdDowns)
			for (const on of [true, false]) {
				const n = bench.steps.findIndex((s) => s.kind === 'hold' && s.holdDown === h.id && s.on === on) + 1;
				expect(n, `${h.name} ${on}`).toBeGreaterThan(0);
				expect(sheet).toContain(`step ${n}`);
			}
		expect(sheet.match(/<svg/g)!.length).toBeGreaterThanOrEqual(2 + plan.holdDowns.length);
		// the weight's dot stands on the page
		expect(bench.holds['weight-1'].at).toHaveLength(1);
		expect(bench.holds['bar-1'].seam).toEqual({ joint: plan.joints[0].id, fromMm: 20, toMm: 100 });
		const sweep = bench.steps.findIndex((s) => s.id === 'wait:purge') + 1;
		expect(sheet).toContain(`Step ${sweep}: `);
		expect(sheet).toContain('Purge off');
	});
	it('every feature has a picture on which all its places stand, each reading’s number once', () => {
		for (const f of plan.features) {
			const spot = bench.features[f.id];
			const page = bench.pictures[spot.picture];
			expect(spot.at.length, f.name).toBeGreaterThan(1);
			for (const [x, y] of spot.at) {
				expect(x, f.name).toBeGreaterThan(0);
				expect(x, f.name).toBeLessThan(page.width);
				expect(y, f.name).toBeGreaterThan(0);
				expect(y, f.name).toBeLessThan(page.height);
			}
			if (f.kind === 'flatness') expect(spot.labels).toEqual(spot.at.map((_, i) => String(i + 1)));
			if (f.kind === 'straightness') expect(spot.labels.filter(Boolean)).toEqual(['1', '2', '3']);
		}
	});
});

describe('the run sheet', () => {
	it('sixty runs of a box with lid, baffle and port, with all its checks, on three pages', async () => {
		const plan = newPlan('open-trough', {
			...FAMILY_DEFAULTS['open-trough'],
			body: 'five-plates',
			lengthMm: 320,
			widthMm: 220,
			depthMm: 140,
			rimFlangeMm: 0,
			baffles: 1,
			baffleHeightMm: 90,
			lid: true,
			portMm: 40
		}).plan!;
		expect(plan.runs.length).toBeGreaterThanOrEqual(60);
		const head = { title: 'Run sheet', job: '7 Box', revision: '1', state: 'issued', printedBy: 'A planner' };
		const bytes = Buffer.from(await runSheet(head, plan, benchPlan(plan), 'mm')).toString('latin1');
		const pages = bytes.match(/\/Type\s*\/Page\b(?!s)/g)!.length;
		expect(pages).toBeGreaterThan(1);
		expect(pages).toBeLessThanOrEqual(3);
	});
});
