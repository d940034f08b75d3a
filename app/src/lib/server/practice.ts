/** The practice bench: what an exercise shows before it is done, and what comes of a guess and a plan. */
import { FaultError } from '$core/document/faults';
import { FACTOR_METHOD } from '$core/factors/factors';
import type { PlanDocument } from '$core/document/schema';
import { unitOf } from '$core/features';
import { EXERCISES, seamLength } from '$core/practice/exercises';
import { EXERCISE_IDS, type ExerciseId } from '$core/practice/ids';
import { outcomeOf, scoreOf, type Guess, type Welded } from '$core/practice/outcome';
import { planned, type Choices, type Doing } from '$core/practice/tools';
import { orderDoesNotApply } from '$core/schools/orderPattern';
import { DEFAULT_ORDER, ORDER_PATTERNS, ORDER_SCHOOLS } from '$core/schools/orders';
import { TACK_ORDER_KINDS } from '$core/schools/tackOrders';
import { tacksDoNotApply } from '$core/schools/tackPattern';
import { TACK_SCHOOLS, tackStart } from '$core/schools/tacks';
import { TACK_ORDERS, TACK_PATTERNS } from '$core/document/words';
import { getDb } from '$store/database';
import { MissingError } from '$store/jobs';
import { addAttempt, bestCost, type Attempt } from '$store/practice';
import { weldInPractice } from './compute';

/** @throws MissingError where there is no such exercise */
export function exerciseId(value: string | undefined): ExerciseId {
	const id = EXERCISE_IDS.find((x) => x === value);
	if (!id) throw new MissingError('This exercise');
	return id;
}

/** What a page shows of an exercise: the piece, its ways by name, and what it may be planned with. */
export function exerciseView(id: ExerciseId) {
	const { title, piece, about, trade, expects, why, tools, given, ways } = EXERCISES[id];
	const plan = given();
	const feature = plan.features.find((f) => f.id === about)!;
	return {
		id,
		title,
		piece,
		trade,
		expects,
		why,
		tools: [...tools],
		plan,
		ways: ways(plan).map((w) => w.name),
		about: { id: about, name: feature.name, unit: unitOf(feature) },
		seamMm: seamLength(plan),
		tacks: TACK_PATTERNS.filter((p) => !tacksDoNotApply(plan, tackStart(p))).map((value) => ({ value, name: TACK_SCHOOLS[value].name })),
		tackOrders: TACK_ORDERS.map((value) => ({ value, name: TACK_ORDER_KINDS[value].name })),
		orders: ORDER_PATTERNS.filter((pattern) => !orderDoesNotApply(plan, { ...DEFAULT_ORDER, pattern })).map((value) => ({
			value,
			name: ORDER_SCHOOLS[value].name
		}))
	};
}

/** Every way and the person’s own plan, welded in the exercise’s shop; the attempt is kept. @returns it, and the plans: the person’s own first @throws FaultError */
export async function attempt(id: ExerciseId, person: string, guess: Guess, choices: Choices): Promise<{ attempt: Attempt; plans: PlanDocument[] }> {
	const exercise = EXERCISES[id];
	const given = exercise.given();
	const ways = exercise.ways(given);
	if (guess.way !== 'alike' && guess.way >= ways.length)
		throw new FaultError([{ field: 'guess.way', value: String(guess.way), allowed: `0 to ${ways.length - 1}, or nothing for “no difference”` }]);
	const own = planned(given, exercise.tools, choices);
	const weld = async (name: string, doing: Doing, isAnother?: true): Promise<Welded> => ({
		name,
		...(isAnother && { isAnother }),
		...(await weldInPractice(id, doing))
	});
	const [mine, ...others] = await Promise.all([
		weld('Your plan', own),
		...ways.map(({ name, plan, planished, isAnother }) => weld(name, { plan, planished }, isAnother))
	]);
	const db = getDb();
	const outcome = outcomeOf(given.features, exercise.about, others, mine, guess, await bestCost(db, id, FACTOR_METHOD));
	const kept = { personId: person, exercise: id, guess, choices, outcome, method: FACTOR_METHOD, cost: mine.cost, score: scoreOf(outcome.marks) };
	return { attempt: await addAttempt(db, kept), plans: [own.plan, ...ways.map((w) => w.plan)] };
}
