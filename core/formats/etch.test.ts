import DxfParser from 'dxf-parser';
import { describe, expect, it } from 'vitest';
import { onBlank } from '../families/blank';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { pathLength, pointAt } from '../geometry/polyline';
import { seamLetters } from '../layout/seamNames';
import { etchedDxf } from './blankDxf';
import { DXF_LAYERS } from './dxfOut';
import { etchMarks } from './etchMarks';
import { stripBody, stripSvg, stripWindows } from './seamStrip';

const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] }).plan!;

describe('marks on steel', () => {
	it('the etched blanks, read by a second reader: every tack twice (once a sheet), run numbers as text, each on its layer', () => {
		const read = new DxfParser().parseSync(etchedDxf(plan, () => [0, 0]))!;
		const on = (layer: string, type: string) => read.entities.filter((e) => e.layer === layer && e.type === type);
		expect(on(DXF_LAYERS.etchTacks, 'LINE')).toHaveLength(2 * plan.tacks.length);
		// two bounds and three lines of an arrow on each sheet
		expect(on(DXF_LAYERS.etchRuns, 'LINE')).toHaveLength(2 * 5 * plan.runs.length);
		const numbers = on(DXF_LAYERS.etchRuns, 'TEXT').map((e) => (e as unknown as { text: string }).text);
		expect(new Set(numbers)).toEqual(new Set(plan.runs.map((_, i) => String(i + 1))));
		expect(on(DXF_LAYERS.etchNames, 'TEXT')).toHaveLength(2 * plan.joints.length);
		expect(on(DXF_LAYERS.outline, 'LWPOLYLINE')).toHaveLength(plan.parts.length);
	});
	it('a tack’s tick begins on the seam’s line of the cut blank', () => {
		const part = plan.parts[0];
		const marks = etchMarks(plan, part.id, new Map());
		const joint = plan.joints.find((j) => j.a.part === part.id || j.b.part === part.id)!;
		const side = joint.a.part === part.id ? joint.a : joint.b;
		const tack = plan.tacks.find((t) => t.joint === joint.id)!;
		const at = pointAt(side.path, (tack.stationMm * pathLength(side.path)) / pathLength(joint.a.path));
		expect(marks.some((m) => m.layer === 'etchTacks' && Math.hypot(m.from[0] - at[0], m.from[1] - at[1]) < 1e-6)).toBe(true);
		expect(onBlank(part, plan, at).every(Number.isFinite)).toBe(true);
	});
	it('a strip is as long as its seam, true to the millimetre', () => {
		const [joint] = plan.joints;
		const svg = stripSvg(plan, joint, 'A & B <1>');
		const length = pathLength(joint.a.path);
		expect(svg).toContain(`width="${length.toFixed(2)}mm"`);
		expect(svg).toContain(`viewBox="0 0 ${length.toFixed(2)} `);
		expect(svg).toContain('A &amp; B &lt;1&gt;');
		const tacks = plan.tacks.filter((t) => t.joint === joint.id);
		expect(svg.match(/<circle/g)).toHaveLength(tacks.length);
		for (const t of tacks) expect(svg).toContain(`cx="${t.stationMm.toFixed(2)}"`);
	});
	it('windows cover a long seam without gap or overlap, and begin on tens', () => {
		const w = stripWindows(613.4, 250);
		expect(w[0][0]).toBe(0);
		expect(w[w.length - 1][1]).toBeCloseTo(613.4, 9);
		w.slice(1).forEach(([a], i) => {
			expect(a).toBe(w[i][1]);
			expect(a % 10).toBe(0);
		});
		expect(stripWindows(120, 250)).toEqual([[0, 120]]);
		expect(stripBody(plan, plan.joints[0], 'A', 100, 200)).toContain('from 100 mm');
	});
	it('seams are lettered A to Z, then AA', () => {
		const joints = Array.from({ length: 28 }, (_, i) => ({ ...plan.joints[0], id: `j${i}` }));
		const letters = [...seamLetters(joints).values()];
		expect([letters[0], letters[25], letters[26], letters[27]]).toEqual(['A', 'Z', 'AA', 'AB']);
	});
});
