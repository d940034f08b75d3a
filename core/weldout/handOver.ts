/**
 * Whether a piece may be signed: every step behind it, every feature read cold in its final state, every problem closed. Page, record
 * and server ask the same question here, so that what is shown as ready is what is taken.
 */
import type { Feature, PlanDocument } from '../document/schema';
import type { ReadMoment } from '../document/words';
import { verdictOf, type Verdict } from '../features/verdict';
import { combine } from '../measure/combine';
import type { Decision } from '../measure/decision';
import type { BenchStep } from './benchSteps';
import { standing, whereItStands, type LogLine, type StepNow } from './logbook';

/** A reading that stands. `at` in ms since 1970, `metalC` as the instrument said, °C. */
export interface Read {
	feature: string;
	moment: ReadMoment;
	value: number;
	/** half-width of the band that holds 90 %, in its unit */
	uncertainty90: number;
	metalC?: number | null;
	at: number;
	/** how it was read, and with what: readings alike in both are averaged, others weighed */
	method?: string;
	instrument?: string | null;
	/** how the piece lay: another way, and it sags otherwise */
	posture?: string | null;
	/** an inspector's own readings go before everybody else's */
	byInspector?: boolean;
}

const isRighting = (l: LogLine) => l.kind === 'happened' && l.data?.what === 'corrected';
/** When the piece was first put right by hand, ms: what is read after that is not what the welds alone have made. */
export const rightedAt = (log: readonly LogLine[]): number | undefined => standing(log).find(isRighting)?.at;

/** What is read on metal warmer than this is not what it will be cold, °C; common practice, no source. */
export const WARM_C = 35;

/** Readings of the piece as it will leave. */
const FINAL: readonly ReadMoment[] = ['cold', 'unclamped', 'corrected'];
/** Steps after which the piece may stand otherwise than before. */
const CHANGES: readonly BenchStep['kind'][] = ['parts', 'preset', 'hold', 'tack', 'grind', 'run'];

export interface Judged {
	feature: string;
	/** what decides: the readings of the last moment, cold, in the final state, put together */
	value?: number;
	uncertainty90?: number;
	moment?: ReadMoment;
	/** by the value and its uncertainty */
	said?: Verdict;
	/** by the rule that the plan has chosen */
	inside?: boolean;
	/** how many they are */
	count?: number;
	/** the first of them that does not say how warm the metal was, ms since 1970 */
	untoldAt?: number;
	/** they exclude one another */
	disagree?: true;
	/** why no reading decides */
	missing?: string;
	/** when the piece was last changed before it could be read, ms since 1970 */
	changedAt?: number;
}

/**
 * When the piece was last changed before a feature could last be read, ms: what a lid shuts in is read before the lid comes on, and what is
 * done after that does not count against it. Nothing while no such step is behind the piece.
 */
export function lastChange(steps: readonly StepNow[], feature: string, lines: readonly LogLine[] = []): number | undefined {
	const read = steps.reduce((last, { step: s }, i) => (s.kind === 'measure' && s.features.includes(feature) ? i : last), -1);
	const times = (read < 0 ? steps : steps.slice(0, read)).flatMap(({ step, by }) => (by && CHANGES.includes(step.kind) ? [by.at] : []));
	// what was put right since counts against whatever can still be read: what a lid shuts in cannot
	const isShutIn = read >= 0 && steps.slice(read).some((s) => s.step.kind === 'parts');
	if (!isShutIn) times.push(...lines.flatMap((l) => (isRighting(l) ? [l.at] : [])));
	return times.length ? Math.max(...times) : undefined;
}

/** @param rule how a reading near a limit is taken */
export function judge(
	feature: Pick<Feature, 'id' | 'tolerance'>,
	readings: readonly Read[],
	changedAt: number | undefined,
	rule: Decision = 'as-read'
): Judged {
	const own = readings.filter((r) => r.feature === feature.id).sort((a, b) => a.at - b.at);
	const final = own.filter((r) => FINAL.includes(r.moment));
	const cold = final.filter((r) => r.metalC === undefined || r.metalC === null || r.metalC <= WARM_C);
	const after = cold.filter((r) => changedAt === undefined || r.at >= changedAt);
	const last = after.filter((r) => r.moment !== 'cold').pop() ?? after[after.length - 1];
	if (last) {
		const { moment } = last;
		const inMoment = after.filter((r) => r.moment === moment && r.posture === last.posture);
		const inspected = inMoment.filter((r) => r.byInspector);
		const alike = inspected.length ? inspected : inMoment;
		const { value, uncertainty90, disagree } = combine(alike.map((r) => ({ ...r, by: r.method && `${r.method} ${r.instrument ?? ''}` })));
		const { upper, lower = -Infinity } = feature.tolerance;
		const said = verdictOf(feature.tolerance, value - uncertainty90, value + uncertainty90);
		const inside = rule === 'guard-band' ? said === 'inside' : value <= upper && value >= lower;
		const untold = alike.find((r) => r.metalC === undefined || r.metalC === null);
		return {
			feature: feature.id,
			value,
			uncertainty90,
			moment,
			said,
			inside,
			count: alike.length,
			...(untold && { untoldAt: untold.at }),
			...(disagree && { disagree })
		};
	}
	return {
		feature: feature.id,
		missing: !own.length
			? 'not measured'
			: !final.length
				? 'not measured since it was welded'
				: !cold.length
					? `measured warm only: read it again below ${WARM_C} °C`
					: 'measured before the piece was last changed: read it again'
	};
}

/**
 * Features whose deciding readings were taken after the last arc and before the heat clock had the piece cold, with nobody saying how warm it
 * was, by id. The clock is a forecast: it asks for a second look and stands in nobody's way.
 * @param lastArcAt, @param coolAt ms since 1970
 */
export const readBeforeCold = (judged: readonly Judged[], lastArcAt: number, coolAt: number): string[] =>
	judged.filter((j) => j.untoldAt !== undefined && j.untoldAt >= lastArcAt && j.untoldAt < coolAt).map((j) => j.feature);

export interface HandOver {
	judged: Judged[];
	/** what stands in the way of accepting it, in words; empty: it may be signed */
	missing: string[];
	/** features outside their limits, or not proved inside where the plan asks for proof, by name: accepting them is a concession and needs a reason */
	outside: string[];
	/** features whose readings leave them in doubt, by name */
	unsure: string[];
	/** problems still open */
	open: LogLine[];
}

export function handOver(plan: PlanDocument, steps: readonly BenchStep[], log: readonly LogLine[], readings: readonly Read[]): HandOver {
	const { lines, steps: now } = whereItStands(steps, log);
	const left = now.filter((s) => s.state === 'open').map((s) => s.step);
	const closed = new Set(lines.filter((e) => e.kind === 'problem-closed').map((e) => e.about));
	const open = lines.filter((e) => e.kind === 'step-problem' && !closed.has(e.clientId));
	const judged = plan.features.map((f): Judged => {
		const changedAt = lastChange(now, f.id, lines);
		return { ...judge(f, readings, changedAt, plan.decision), ...(changedAt === undefined ? {} : { changedAt }) };
	});
	const tested = lines.filter((l) => l.kind === 'happened' && l.data?.what === 'leak-tested').pop();
	const name = (id: string) => plan.features.find((f) => f.id === id)!.name;
	const missing = [
		...(left.length ? [`${left.length === 1 ? 'One step is' : `${left.length} steps are`} not behind it: ${listed(left.map((s) => s.title))}`] : []),
		...judged.flatMap((j) => (j.missing ? [`${name(j.feature)}: ${j.missing}`] : [])),
		...(open.length ? [`${open.length === 1 ? 'One problem is' : `${open.length} problems are`} still open: say what became of it`] : []),
		...(lines.some((l) => l.kind === 'problem-closed' && l.data?.decided === 'scrap') ? ['It is to be scrapped: reject it'] : []),
		...(tested?.data?.leak === 'leaks' ? ['It leaked when it was last tested: repair it and test it again'] : [])
	];
	const named = (which: (j: Judged) => boolean) => judged.filter(which).map((j) => name(j.feature));
	return { judged, missing, outside: named((j) => j.inside === false), unsure: named((j) => j.said === 'in doubt'), open };
}

const SHOWN = 3;
const listed = (titles: readonly string[]) => titles.slice(0, SHOWN).join(', ') + (titles.length > SHOWN ? ` and ${titles.length - SHOWN} more` : '');
