/** What came of an exercise: every way and the learner’s own plan welded in the same virtual shop by the same hand, and what the guess was worth. */
import { featureKind } from '../features';
import type { AnyFeature } from '../document/schema';
import { METHOD_KINDS } from '../measure/methods';

/** Which way leaves least, or that nobody would read a difference; and what the first way comes to, in the feature’s unit. */
export interface Guess {
	way: number | 'alike';
	value: number;
}

export interface Welded {
	name: string;
	/** of another metal or shape than the piece that is planned */
	isAnother?: true;
	/** by feature of the piece, free of clamps */
	values: number[];
	/** arc, tacks, hold-downs and planishing, min */
	minutes: number;
	/** of a job: features by how far they lie off, squared, each 1 at its limit */
	cost: number;
}

export interface Outcome {
	/** what is looked at */
	about: number;
	ways: Welded[];
	own: Welded;
	/** the way that leaves least there, or none where a reading would not tell */
	least: number | 'alike';
	/** what a reading doubts there */
	doubt: number;
	/** the least cost so far, of any plan of this piece */
	best: number;
	marks: Marks;
}
export interface Marks {
	/** of 30, 20 and 50 */
	which: number;
	howFar: number;
	plan: number;
}
export const MOST: Marks = { which: 30, howFar: 20, plan: 50 };
export const scoreOf = (m: Marks): number => Math.round(m.which + m.howFar + m.plan);

/** As far out as this, a guess is a good one, and a fair one. */
const GOOD = 1.25;
const FAIR = 2;

/** @param bestBefore least cost that was found before, by anybody */
export function outcomeOf(
	features: readonly AnyFeature[],
	looked: string,
	ways: Welded[],
	own: Welded,
	guess: Guess,
	bestBefore = Infinity
): Outcome {
	const about = features.findIndex((f) => f.id === looked);
	const doubt = METHOD_KINDS[featureKind(features[about]).methods[0]].reading90;
	const size = ways.map((w) => Math.abs(w.values[about]));
	const sorted = [...size].sort((p, q) => p - q);
	const least = sorted[1] - sorted[0] > doubt ? size.indexOf(sorted[0]) : 'alike';
	const best = Math.min(bestBefore, own.cost, ...ways.filter((w) => !w.isAnother).map((w) => w.cost));
	return {
		about,
		ways,
		own,
		least,
		doubt,
		best,
		marks: {
			which: guess.way === least ? MOST.which : 0,
			howFar: howFar(guess.value, ways[0].values[about], doubt),
			// off by twice as much in every feature is four times the cost
			plan: MOST.plan * (own.cost > 0 ? Math.sqrt(best / own.cost) : 1)
		}
	};
}

function howFar(guessed: number, came: number, doubt: number): number {
	if (Math.abs(guessed - came) <= doubt) return MOST.howFar;
	if (guessed * came <= 0) return 0;
	const times = Math.exp(Math.abs(Math.log(guessed / came)));
	return times <= GOOD ? MOST.howFar : times <= FAIR ? MOST.howFar / 2 : 0;
}

/** What this run says of what the trade says. @param expects the way that the trade holds to leave least, if it holds to any */
export function lessonWords(
	outcome: Pick<Outcome, 'ways' | 'least' | 'about' | 'doubt'>,
	expects: number | undefined,
	show: (v: number) => string
): string {
	const said = outcome.ways.map((w) => `${w.name}: ${show(w.values[outcome.about])}`).join('; ');
	if (outcome.least === 'alike')
		return `${said}. No more apart than a reading doubts (${show(outcome.doubt)}): this virtual shop does not tell them apart${expects === undefined ? '' : ', where the trade does. A coupon of your own would say who is right'}.`;
	const name = outcome.ways[outcome.least].name;
	if (expects === undefined) return `${said}. Here “${name}” leaves less.`;
	return outcome.least === expects
		? `${said}. As the trade has it, “${name}” leaves least.`
		: `${said}. Otherwise than the trade has it, “${name}” leaves least here: the virtual shop is a forecast with hidden hands, not metal. Weld a coupon before you believe it.`;
}
