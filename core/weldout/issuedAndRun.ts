/** The plan as issued and as it was run, run by run, so that whoever reads the record sees what went otherwise. */
import { settingsOf } from '../forecast/schedule';
import { arcEnergy } from '../heat/arcEnergy';
import { seamLetters } from '../layout/seamNames';
import type { PlanDocument, WeldSettings } from '../document/schema';
import { asRun } from './asRun';
import type { Standing } from './logbook';

export interface RunBeside {
	/** its place in the plan, from 1, and its seam's letter */
	number: number;
	letter: string;
	issued: string;
	/** empty where it does not lie */
	run: string;
	/** what of it is not as issued, in words */
	otherwise: string[];
}

export interface Beside {
	runs: RunBeside[];
	/** tacks as issued, and as they stand */
	tacks: { issued: number; now: number };
}

/** Nearer than this to where it was to begin and end is as issued: a tape's reading, mm. */
const AS_ISSUED_MM = 1;

const setWords = (s: WeldSettings) => `${arcEnergy(s).meanAmps.toFixed(0)} A, ${s.speedMmPerS} mm/s`;

/** @param length lengths in the person's unit */
export function issuedAndRun(plan: PlanDocument, at: Standing, length: (mm: number) => string): Beside {
	const { plan: run } = asRun(plan, at);
	const letters = seamLetters(plan.joints);
	const steps = new Map(at.steps.flatMap((s) => (s.step.kind === 'run' ? [[s.step.run, s]] : [])));
	const laidFirst = at.steps
		.flatMap(({ step, laid }) => (step.kind === 'run' && laid.length ? [{ run: step.run, at: laid[0].at }] : []))
		.sort((p, q) => p.at - q.at)
		.map((x) => x.run);
	const planned = plan.runs.filter((r) => laidFirst.includes(r.id)).map((r) => r.id);
	const stretch = (fromMm: number, toMm: number) => `${length(fromMm).replace(/ (mm|in)$/, '')} to ${length(toMm)}`;
	return {
		runs: plan.runs.map((r, i) => {
			const laid = steps.get(r.id)?.laid ?? [];
			const issuedSet = settingsOf(plan, r);
			const runSet = settingsOf(run, run.runs.find((x) => x.id === r.id) ?? r);
			const isWhole = laid.length === 1 && Math.abs(laid[0].fromMm - r.fromMm) < AS_ISSUED_MM && Math.abs(laid[0].toMm - r.toMm) < AS_ISSUED_MM;
			const otherwise: string[] = [];
			if (!laid.length) otherwise.push('not laid');
			else {
				if (!isWhole) otherwise.push(laid.length > 1 ? `laid in ${laid.length} stretches` : 'other ends');
				const [want, got] = [planned.indexOf(r.id) + 1, laidFirst.indexOf(r.id) + 1];
				if (want !== got) otherwise.push(`laid as number ${got}, for ${want}`);
				if (runSet.id !== issuedSet.id) otherwise.push('set otherwise');
			}
			return {
				number: i + 1,
				letter: letters.get(r.joint) ?? '',
				issued: `${stretch(r.fromMm, r.toMm)}; ${setWords(issuedSet)}`,
				run: laid.length ? `${laid.map((l) => stretch(l.fromMm, l.toMm)).join(', ')}; ${setWords(runSet)}` : '',
				otherwise
			};
		}),
		tacks: { issued: plan.tacks.length, now: run.tacks.length }
	};
}
