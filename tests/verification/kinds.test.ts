/**
 * One walk through the kinds of all sorts, each as a planner puts it on a piece: taken by the published schema, read and written
 * unchanged, kept when the piece gets another size elsewhere, forecast, drawn, printed and told at the bench.
 */
import Ajv from 'ajv';
import { describe, expect, it } from 'vitest';
import { HOLD_CHOICES, holdPage, newHolds } from '$lib/hold/kinds';
import { holdContent } from '$lib/server/prepSheets';
import type { AnyHoldDown, PlanDocument } from '$core/document/schema';
import { FEATURE_KINDS, HOLD_DOWN_KINDS, JOINT_TYPES, TACK_PATTERNS } from '$core/document/words';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { regenerate } from '$core/compose/resize';
import { featureKind } from '$core/features';
import { readingContext } from '$core/features/context';
import { readJobFile, writeJobFile } from '$core/formats/jobFile';
import { holdKind, holdWords } from '$core/holds';
import { JOINTS } from '$core/joints';
import { METALS } from '$core/materials/metals';
import { METHOD_KINDS, METHODS, waysOf, type Method } from '$core/measure/methods';
import { evaluateReadings } from '$core/measure/readings';
import { useTackRule } from '$core/schools/tackRule';
import { TACK_SCHOOLS, tackStart } from '$core/schools/tacks';
import { benchPlan } from '$core/weldout/benchPlan';
import { jobFileSchema } from '../../cli/jobFileSchema';

/** What a piece that is as drawn reads, where a way reads more than the drawing's own value. */
const AS_DRAWN: Partial<Record<Method, (nominal: number) => number[]>> = {
	// at 100 mm from the corner a square shows what the drawing's angle is off 90
	square: (nominal) => [100, 100 * Math.tan(((nominal - 90) * Math.PI) / 180)],
	'corner-square': () => [100, 0],
	'winding-sticks': () => [500, 0],
	'laser-spot': (nominal) => [2000, 5, 5, nominal],
	points: () => [0, 0, 0, 100, 0, 0, 100, 80, 0, 0, 80, 0]
};
const ajv = new Ajv({ strict: false, validateFormats: false });
const schema = jobFileSchema();
const panel = (lengthMm = 200) => newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [150, 150], lengthMm }).plan!;

/** The published schema takes it, and through the file it comes back as it was. */
function comesBack(plan: PlanDocument): PlanDocument {
	const text = writeJobFile({ name: 'Kinds', quantity: 1 }, plan);
	ajv.validate(schema, JSON.parse(text));
	expect(ajv.errors ?? []).toEqual([]);
	const { file, faults } = readJobFile(text);
	expect(faults).toEqual([]);
	expect(JSON.parse(JSON.stringify(file!.plan))).toEqual(JSON.parse(JSON.stringify(plan)));
	return file!.plan;
}

describe.each(HOLD_DOWN_KINDS)('hold-down: %s', (kind) => {
	const plan = panel();
	let n = 0;
	const made = newHolds(kind, { plan, joint: plan.joints[0], part: plan.parts[0], unique: (w) => `${w}-${++n}` });
	plan.holdDowns = made;

	it('is taken, kept and comes back', () => {
		expect(made.length).toBeGreaterThan(0);
		comesBack(plan);
		// new limits of another feature are no new shape: nothing is taken off
		const again = regenerate(plan, 'butt-panel', { ...plan.family!.parameters, fit: 'trimmed' });
		expect(again.plan!.holdDowns).toEqual(made);
	});
	it('has fields that hold what it is, and a drawing', () => {
		const page = holdPage(kind);
		for (const h of made)
			for (const f of page.fields) {
				if (f.when && !f.when(h as never)) continue;
				const kept = f.name.split('.').reduce<unknown>((box, key) => (box as Record<string, unknown>)?.[key], h);
				const value = f.is === 'choice' && f.read ? f.read(h as never) : kept;
				if (f.is === 'choice') expect(f.items.map((i) => i.value)).toContain(value);
				else if (f.is === 'parts' || f.is === 'place') expect(Array.isArray(value)).toBe(true);
				else if (f.is === 'part') expect(plan.parts.map((p) => p.id)).toContain(value);
				else if (value !== undefined) expect(typeof value).toBe('number');
			}
		expect(made.flatMap((h) => page.draw(h as never, plan)).length).toBeGreaterThan(0);
		expect(HOLD_CHOICES.find((c) => c.value === kind)?.name).toBe(holdKind(made[0]).name);
	});
	it('is on the sheet and a step at the bench, on and off, with where it goes', () => {
		const words = holdWords(plan, (mm) => `${mm.toFixed(0)} mm`);
		const sheet = JSON.stringify(holdContent(plan, benchPlan(plan), 'mm'));
		const steps = benchPlan(plan).steps.flatMap((s) => (s.kind === 'hold' ? [s] : []));
		for (const h of made) {
			expect(sheet).toContain(h.name);
			expect(holdKind(h).where(h, words).length).toBeGreaterThan(10);
			expect(steps.filter((s) => s.holdDown === h.id).map((s) => s.on)).toEqual([true, false]);
		}
	});
});

describe.each(FEATURE_KINDS)('feature: %s', (kind) => {
	const found = MADE_FAMILIES.map((f) => newPlan(f, FAMILY_DEFAULTS[f]).plan!).flatMap((plan) => {
		const feature = plan.features.find((f) => f.kind === kind);
		return feature ? [{ plan, feature }] : [];
	})[0];

	it('is on some family’s piece, and comes back', () => void comesBack(found.plan));
	it('can be read by each of its ways, and a reading of the drawing’s own value says nothing is wrong', () => {
		const { plan, feature } = found;
		const context = readingContext(feature, plan);
		for (const method of waysOf(featureKind(feature).methods, context)) {
			const labels = METHOD_KINDS[method].labels(context);
			expect(labels.length).toBeGreaterThan(0);
			expect(new Set(labels).size).toBe(labels.length);
			const read = evaluateReadings(
				method,
				AS_DRAWN[method]?.(context.nominal ?? 0) ??
					// two diagonals alike, whatever they are
					labels.map(() => context.nominal ?? (METHOD_KINDS[method].least?.isAllowed === false ? 500 : 0)),
				context
			);
			expect(read.value).toBeCloseTo(0, 9);
			expect(read.unit).toBe(featureKind(feature).unit);
		}
	});
	it('has a general tolerance that lets nothing through and something in', () => {
		const { general } = featureKind(found.feature);
		const { upper, lower } = general.classes === 'form' ? general.of('F', 300) : general.of('B', 300);
		expect(upper).toBeGreaterThan(0);
		if (lower !== undefined) expect(lower).toBe(-upper);
	});
});

it('every way of reading is some feature’s', () =>
	expect(METHODS.filter((m) => !FEATURE_KINDS.some((k) => featureKind({ kind: k }).methods.includes(m)))).toEqual([]));

it.each(JOINT_TYPES)('joint: %s is taken by schema and importer, and is named', (type) => {
	const plan = panel();
	Object.assign(plan.joints[0], { type, penetration: JOINTS[type].usualPenetration });
	comesBack(plan);
	expect(JOINTS[type].name.length).toBeGreaterThan(2);
});

it.each(METALS.map((m) => m.id))('metal: a piece of %s comes back, with a filler and a gas to start from', (id) => {
	const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], material: id }).plan!;
	comesBack(plan);
	expect(plan.settings[0].fillerGrade?.length).toBeGreaterThan(2);
	expect(plan.settings[0].gas.length).toBeGreaterThan(2);
});

it.each(TACK_PATTERNS)('tack school: %s is kept with its seams and comes back', (pattern) => {
	const plan = newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'], bothSides: true }).plan!;
	useTackRule(plan, tackStart(pattern));
	expect(comesBack(plan).joints.every((j) => j.tackRule?.pattern === pattern)).toBe(true);
	expect(TACK_SCHOOLS[pattern].advice.length).toBeGreaterThan(30);
});

it.each(MADE_FAMILIES)('family: %s comes back, and makes the same piece again from its own sizes', (kind) => {
	const plan = newPlan(kind, FAMILY_DEFAULTS[kind]).plan!;
	const back = comesBack(plan);
	const again = regenerate(back, kind, back.family!.parameters);
	expect(JSON.parse(JSON.stringify(again.plan!.parts))).toEqual(JSON.parse(JSON.stringify(plan.parts)));
	expect(again.plan!.holdDowns.map((h: AnyHoldDown) => h.id)).toEqual(plan.holdDowns.map((h) => h.id));
});
