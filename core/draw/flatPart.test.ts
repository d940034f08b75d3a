import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '../families';
import { newPlan } from '../families/newPlan';
import { seamLetters } from '../layout/seamNames';
import { flatPartSvg, seamsOfPart } from './flatPart';

describe('a part drawn for its label', () => {
	it.each(MADE_FAMILIES)('%s: every letter of its seams once a side, all of it on the picture', (kind) => {
		const plan = newPlan(kind, FAMILY_DEFAULTS[kind]).plan!;
		const letters = seamLetters(plan.joints);
		for (const part of plan.parts) {
			const svg = flatPartSvg(part, plan, 118, 106);
			const [, width, height] = /width="(\d+)" height="(\d+)"/.exec(svg)!.map(Number);
			expect(width <= 118 && height <= 106 && Math.max(width / 118, height / 106) > 0.98).toBe(true);
			const sides = plan.joints.filter((j) => !j.stock).flatMap((j) => [j.a, j.b].filter((s) => s.part === part.id).map(() => letters.get(j.id)));
			expect([...svg.matchAll(/middle">([A-Z]+)<\/text>/g)].map((m) => m[1])).toEqual(sides);
			expect(seamsOfPart(part, plan)).toHaveLength(new Set(sides).size);
			const [x0, y0, w, h] = /viewBox="([-\d. ]+)"/.exec(svg)![1].split(' ').map(Number);
			for (const [, x, y] of svg.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)) {
				expect(Number(x)).toBeGreaterThanOrEqual(x0);
				expect(Number(x)).toBeLessThanOrEqual(x0 + w);
				expect(Number(y)).toBeGreaterThanOrEqual(y0);
				expect(Number(y)).toBeLessThanOrEqual(y0 + h);
			}
		}
	});
});
