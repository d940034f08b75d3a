/** Whatever is put into whatever field of a plan, the one way in names it or takes it; it never throws and never takes half. */
import { describe, expect, it } from 'vitest';
import { exampleJobs } from '../../cli/exampleJobs';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '../families';
import { newPlan } from '../families/newPlan';
import { readJobFile, writeJobFile } from '../formats/jobFile';
import type { Fault } from '../document/faults';
import type { PlanDocument } from '../document/schema';

type Json = string | number | boolean | Json[] | { [key: string]: Json };
type Path = (string | number)[];

const plans = (): PlanDocument[] => [...MADE_FAMILIES.map((kind) => newPlan(kind, FAMILY_DEFAULTS[kind]).plan!), ...exampleJobs().map((e) => e.plan)];
/** Through the job file, as text: the way in for what comes from outside. A number that is none becomes null there. */
function readPlan(raw: unknown): { plan?: PlanDocument; faults: Fault[] } {
	const { file, faults } = readJobFile(writeJobFile({ name: 'Boundary', quantity: 1 }, raw as PlanDocument));
	return { plan: file?.plan, faults: faults.map((f) => ({ ...f, field: f.field.replace(/^plan\./, '') })) };
}
const asJson = (p: PlanDocument) => JSON.parse(JSON.stringify(p)) as Json;
/** `runs.3.fromMm` and `runs.4.fromMm` are one kind of field. */
const kindOf = (path: Path) => path.map((k) => (typeof k === 'number' ? '*' : k)).join('.');

/** One leaf and one object of each kind, with the plan they stand in. */
function places() {
	const leaves = new Map<string, { doc: Json; path: Path; value: string | number | boolean }>();
	const objects = new Map<string, { doc: Json; path: Path }>();
	const walk = (doc: Json, value: Json, path: Path) => {
		if (typeof value !== 'object') {
			if (!leaves.has(kindOf(path))) leaves.set(kindOf(path), { doc, path, value });
		} else if (Array.isArray(value)) value.forEach((v, i) => walk(doc, v, [...path, i]));
		else {
			if (!objects.has(kindOf(path))) objects.set(kindOf(path), { doc, path });
			for (const [k, v] of Object.entries(value)) walk(doc, v, [...path, k]);
		}
	};
	for (const p of plans()) walk(asJson(p), asJson(p), []);
	return { leaves: [...leaves.values()], objects: [...objects.values()] };
}

function put(doc: Json, path: Path, value: unknown): unknown {
	const copy = JSON.parse(JSON.stringify(doc)) as never;
	let at: Record<string | number, unknown> = copy;
	for (const k of path.slice(0, -1)) at = at[k] as typeof at;
	at[path[path.length - 1]] = value;
	return copy;
}
const where = (path: Path) => path.reduce<string>((s, k) => (typeof k === 'number' ? `${s}[${k}]` : s ? `${s}.${k}` : k), '');
/** The fields that may be named for a fault at a path: itself, or what it stands in. */
const names = (path: Path) => path.map((_, i) => where(path.slice(0, i + 1)));

const { leaves, objects } = places();

describe('the boundary of a plan', () => {
	it('has been looked into everywhere: the plans together use most of what the schema knows', () => {
		expect(leaves.length).toBeGreaterThan(150);
		expect(objects.length).toBeGreaterThan(20);
	});
	it('every plan of the families and examples is taken as it is, and comes out the same', () => {
		for (const p of plans()) {
			const read = readPlan(asJson(p));
			expect(read.faults).toEqual([]);
			expect(asJson(read.plan!)).toEqual(asJson(p));
		}
	});
	it.each(leaves.map((l) => [kindOf(l.path), l] as const))('%s: another type is refused by name, with what was given and what is allowed', (_, l) => {
		const wrong: unknown[] = typeof l.value === 'string' ? [7, true, {}, []] : typeof l.value === 'number' ? ['7', true, {}, NaN] : ['yes', 1, {}];
		for (const value of wrong) {
			const { plan, faults } = readPlan(put(l.doc, l.path, value));
			expect(plan, `${where(l.path)} = ${JSON.stringify(value)}`).toBeUndefined();
			for (const f of faults) expect([f.field, f.value, f.allowed].every((t) => typeof t === 'string' && t.length > 0)).toBe(true);
			expect(names(l.path).some((n) => faults.some((f) => f.field === n || f.field.startsWith(`${n}.`) || f.field.startsWith(`${n}[`)))).toBe(true);
		}
	});
	it.each(leaves.filter((l) => typeof l.value === 'number').map((l) => [kindOf(l.path), l] as const))(
		'%s: a number beyond all sense is refused',
		(_, l) => {
			for (const value of [1e12, -1e12, Infinity]) expect(readPlan(put(l.doc, l.path, value)).plan, `${value}`).toBeUndefined();
		}
	);
	it.each(leaves.filter((l) => typeof l.value === 'string').map((l) => [kindOf(l.path), l] as const))(
		'%s: a text of a million letters is refused, and shown shortened',
		(_, l) => {
			const { plan, faults } = readPlan(put(l.doc, l.path, 'x'.repeat(1e6)));
			expect(plan).toBeUndefined();
			for (const f of faults) expect(f.value.length).toBeLessThanOrEqual(60);
		}
	);
	it.each(objects.map((o) => [kindOf(o.path) || 'the plan', o] as const))(
		'%s: an unknown field, and one that reaches the prototype, are refused',
		(_, o) => {
			for (const key of ['surprise', 'constructor', '__proto__']) {
				const raw = JSON.parse(JSON.stringify(o.doc)) as Record<string, unknown>;
				let at: Record<string | number, unknown> = raw;
				for (const k of o.path) at = at[k] as typeof at;
				Object.defineProperty(at, key, { value: 1, enumerable: true, configurable: true, writable: true });
				const { plan, faults } = readPlan(raw);
				expect(plan).toBeUndefined();
				expect(faults.map((f) => f.field).some((f) => f.endsWith(key))).toBe(true);
				expect(faults[0].allowed).toMatch(/not known here/);
			}
		}
	);
	it.each(leaves.filter((l) => l.path.length > 1).map((l) => [kindOf(l.path), l] as const))(
		'%s: nothing in its place is refused, or it may be left out',
		(_, l) => {
			expect(readPlan(put(l.doc, l.path, null)).plan).toBeUndefined();
			const without = readPlan(put(l.doc, l.path, undefined));
			if (!without.plan) expect(without.faults.length).toBeGreaterThan(0);
		}
	);
});
