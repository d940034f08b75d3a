/** The stager against the plainest way to do the same: at every event the whole system of what is joined, solved anew. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { analyse, ForecastCache } from '../forecast/analysis';
import { dot, norm } from '../geometry/vec';
import { solveSmall } from '../linalg/dense';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { SeamMesh } from '../mesh/seamMesh';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import type { Clamp, PlanDocument } from '../document/schema';
import type { Condensed } from './condense';
import type { StageEvent } from './events';
import { ACTIONS, jointDirections, SPREADS, WeldBook } from './weldBook';

interface Marked {
	id: string;
	byAction: number[][];
	lambda: Float64Array[];
}

/** Every increment by elimination on the rows that are joined then; no factor is kept and nothing is gathered. */
function direct(plan: PlanDocument, seams: SeamMesh[], c: Condensed, events: StageEvent[]): Marked[] {
	const active: number[] = [];
	const lambda = ACTIONS.map(() => new Float64Array(c.rowCount));
	const amounts = ACTIONS.map(() => new Float64Array(c.loads.length));
	const book = new WeldBook(plan, seams, c);
	const out: Marked[] = [];
	const nl = c.loads.length;
	const solve = (g: Map<number, number>) => {
		const n = active.length;
		const a = new Float64Array(n * n);
		for (let i = 0; i < n; i++)
			for (let j = 0; j < n; j++) a[i * n + j] = c.flexibility[active[i] * c.rowCount + active[j]] + (i === j ? c.compliance[active[i]] : 0);
		return solveSmall(
			a,
			Float64Array.from(active, (r) => g.get(r) ?? 0)
		);
	};
	const drive = (action: number, g: Map<number, number>) => solve(g).forEach((v, i) => (lambda[action][active[i]] += v));
	const moved = (action: number, row: number) => {
		let s = 0;
		for (let l = 0; l < nl; l++) s += c.rowLoad[row * nl + l] * amounts[action][l];
		for (const r of active) s -= c.flexibility[row * c.rowCount + r] * lambda[action][r];
		return s;
	};
	for (const e of events) {
		if (e.type === 'on') {
			for (const r of e.rows) if (!active.includes(r)) active.push(r);
		} else if (e.type === 'off') {
			const going = e.rows.filter((r) => active.includes(r));
			for (const r of going) active.splice(active.indexOf(r), 1);
			for (let action = 0; action < ACTIONS.length; action++) {
				const g = new Map(active.map((r) => [r, going.reduce((s, q) => s + c.flexibility[r * c.rowCount + q] * lambda[action][q], 0)]));
				for (const q of going) lambda[action][q] = 0;
				if (active.length) drive(action, g);
			}
		} else if (e.type === 'weld') {
			const first = c.pairRow[e.seam][e.pair];
			const rows = seams[e.seam].a[e.pair] === seams[e.seam].b[e.pair] ? [] : [0, 1, 2, 3, 4, 5].map((d) => first + d);
			const sides = ACTIONS.map(() => new Map<number, number>());
			const add = (action: number, row: number, v: number) => sides[action].set(row, (sides[action].get(row) ?? 0) + v);
			if (rows.length && !active.includes(first)) {
				const move = ACTIONS.map((_, a) => rows.map((r) => moved(a, r)));
				active.push(...rows);
				const { shrink, about } = jointDirections(plan, seams[e.seam], e.pair);
				const length = norm(shrink);
				const closing = move.map((m) => (length > 1e-9 ? dot([m[0], m[1], m[2]], shrink) / length : 0));
				const total = closing.reduce((s, v, a) => (SPREADS.includes(a) ? s : s + v), 0);
				const beyond = total - seams[e.seam].joint.gapMm;
				const share = beyond > 0 && total > 0 ? beyond / total : 0;
				move.forEach((m, a) => {
					for (let d = 0; d < 3; d++) {
						add(a, rows[d], ((SPREADS.includes(a) ? Math.sign(share) : share) * closing[a] * shrink[d]) / Math.max(length, 1e-30));
						add(a, rows[3 + d], dot([m[3], m[4], m[5]], about) * about[d]);
					}
				});
			}
			const { loads, misfits } = book.increments(e);
			for (const l of loads) {
				amounts[l.action][l.load] += l.amount;
				for (const r of active) add(l.action, r, c.rowLoad[r * nl + l.load] * l.amount);
			}
			for (const m of misfits) add(m.action, m.row, -m.amount);
			sides.forEach((g, action) => g.size && drive(action, g));
		} else
			out.push({
				id: e.id,
				lambda: lambda.map((v) => v.slice()),
				byAction: ACTIONS.map((_, action) =>
					Array.from({ length: c.outCount }, (__, o) => {
						let s = 0;
						for (let l = 0; l < nl; l++) s += c.outLoad[o * nl + l] * amounts[action][l];
						for (let r = 0; r < c.rowCount; r++) s -= c.outRow[o * c.rowCount + r] * lambda[action][r];
						return s;
					})
				)
			});
	}
	return out;
}

function piece(change: (p: PlanDocument) => void): PlanDocument {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 160, widthMm: 110, depthMm: 50, rimFlangeMm: 0 }).plan!;
	plan.meshSizeMm = 30;
	plan.tacks = tackPattern(plan, { ...DEFAULT_TACKS, pattern: 'corners-and-middles' });
	plan.runs = orderPattern(plan, { pattern: 'skip-round', runLengthMm: 60 });
	change(plan);
	return plan;
}
const clamp = (joint: string, on: string, off: string): Clamp => ({
	id: `c-${on}-${off}`,
	name: 'Clamp',
	kind: 'clamp',
	joint,
	stationMm: 40,
	holds: 'all',
	stiffnessNPerMm: 2e4,
	life: { on, off }
});

describe('staging, one sweep a run, against the whole system solved at every event', () => {
	const cases: [string, (p: PlanDocument) => void][] = [
		['few tacks, a gap that closes', (p) => p.joints.forEach((j) => (j.gapMm = 0.1))],
		[
			'presets and a joint with given values',
			(p) => {
				p.joints[0].presetDeg = 1.5;
				p.joints[1].response = { tendonForceN: 3000, transverseShrinkageMm: 0.2, angularChangeRad: 0.01 };
			}
		],
		[
			'clamps that come and go, also between runs',
			(p) => {
				p.holdDowns = [
					clamp(p.joints[0].id, 'start', 'when-cold'),
					clamp(p.joints[1].id, 'after-tacks', `after-run:${p.runs[3].id}`),
					clamp(p.joints[2].id, `before-run:${p.runs[2].id}`, 'when-cold')
				];
			}
		],
		['a second pass over the first', (p) => (p.runs = [...p.runs, { ...p.runs[0], id: 'again', pass: 2 }])],
		['no tacks at all', (p) => (p.tacks = [])]
	];
	it.each(cases)(
		'%s',
		(_, change) => {
			const plan = piece(change);
			for (const kernel of [undefined, kernelFactory(WebAssembly)]) {
				const a = analyse(plan, new ForecastCache(kernel));
				const expected = direct(plan, a.mesh.seams, a.condensed, a.events);
				expect(a.staged.marks.map((m) => m.id)).toEqual(expected.map((m) => m.id));
				a.staged.marks.forEach((m, i) => {
					const size = Math.max(1e-3, ...expected[i].byAction.flat().map(Math.abs));
					const force = Math.max(1, ...expected[i].lambda.flatMap((v) => [...v].map(Math.abs)));
					ACTIONS.forEach((__, action) => {
						m.byAction[action].forEach((v, o) => expect(Math.abs(v - expected[i].byAction[action][o]) / size).toBeLessThan(1e-5));
						m.lambda[action].forEach((v, r) => expect(Math.abs(v - expected[i].lambda[action][r]) / force).toBeLessThan(1e-5));
					});
				});
				// what each owner added sums up to the end
				const last = a.staged.marks[a.staged.marks.length - 1];
				ACTIONS.forEach((__, action) =>
					last.byAction[action].forEach((v, o) => {
						const sum = [...a.staged.added.values()].reduce((s, by) => s + by[action][o], 0);
						expect(Math.abs(v - sum)).toBeLessThan(1e-9 * Math.max(1, Math.abs(v)) + 1e-12);
					})
				);
			}
		},
		60_000
	);
});
