/** Predicted against measured for one piece, and what its readings do to the shop's factors. */
import { Z90, type ShopFactors } from '../factors/factors';
import type { Band } from '../forecast/forecast';
import type { Moment } from '../document/words';
import type { Context } from './context';
import type { PieceReading } from './readings';
import type { Sensitivity } from './sensitivity';
import { learnShop, valueAt, type Evidence } from './shop';
import { whatWentWrong, type WhatWrong } from './whatWrong';

export interface ComparisonRow {
	reading: string;
	feature: string;
	name: string;
	unit: 'mm' | '°';
	moment: Moment;
	measured: number;
	uncertainty90: number;
	/** by what all other pieces of the shop say; nothing where no depth speaks of this feature at this moment */
	before?: Band;
	/** with this piece's readings in the factors */
	after?: Band;
	depth?: Sensitivity['depth'];
	isFresh: boolean;
	isOutlier: boolean;
	/** what it alone does to each factor: times, in the order of FACTOR_NAMES */
	moves?: number[];
}

export interface PieceLesson {
	rows: ComparisonRow[];
	/** of the shop without this piece, and with it */
	before: ShopFactors;
	after: ShopFactors;
	/** what is kept when the lesson is adopted: the readings that are new */
	evidence: Evidence[];
	settled: { iterations: number; converged: boolean };
	/** this piece's readings predicted from all other pieces: root mean square, by unit */
	leaveOut: { unit: string; error: number; count: number }[];
	/** likely causes of what came out otherwise than foretold by all other pieces */
	wrong: WhatWrong;
}

/** A reading as the learner takes it. */
export function evidenceOf(piece: string, context: Context, s: Sensitivity, r: PieceReading): Evidence {
	return {
		reading: r.id,
		piece,
		context,
		kind: s.kind,
		label: `${s.name}, ${r.moment}`,
		unit: s.unit,
		measured: r.value,
		sigma: r.uncertainty90 / Z90,
		predicted: s.predicted,
		...(s.other === undefined ? {} : { other: s.other }),
		slopes: s.slopes,
		spread: s.spread,
		at: r.at
	};
}

/**
 * @param sensitivities of the plan as it was run @param kept evidence of the shop's lessons in force, this piece's among it
 * @param readings those of them that are not in `kept` are new
 */
export function lessonFrom(
	piece: string,
	context: Context,
	sensitivities: readonly Sensitivity[],
	readings: readonly PieceReading[],
	kept: readonly Evidence[],
	names: (feature: string) => { name: string; unit: 'mm' | '°' }
): PieceLesson {
	const known = new Set(kept.map((e) => e.reading));
	const saidOf = (r: PieceReading) => sensitivities.find((s) => s.feature === r.feature && s.moment === r.moment);
	const evidence = readings.flatMap((r) => {
		const said = known.has(r.id) ? undefined : saidOf(r);
		return said ? [evidenceOf(piece, context, said, r)] : [];
	});
	const without = learnShop(
		kept.filter((e) => e.piece !== piece),
		[context]
	);
	const shop = learnShop([...kept, ...evidence], [context]);
	const rows = new Map(shop.rows.map((r) => [r.reading, r]));
	const after = shop.asked[0];
	const squares = new Map<string, { sum: number; count: number }>();
	for (const r of shop.rows.filter((x) => x.piece === piece)) {
		const s = squares.get(r.unit) ?? { sum: 0, count: 0 };
		squares.set(r.unit, { sum: s.sum + (r.measured - r.alone) ** 2, count: s.count + 1 });
	}
	return {
		rows: readings.map((r) => {
			const row = rows.get(r.id);
			const band = (value: number, sigma: number): Band => ({ predicted: value, low: value - Z90 * sigma, high: value + Z90 * sigma });
			return {
				reading: r.id,
				feature: r.feature,
				...names(r.feature),
				moment: r.moment,
				measured: r.value,
				uncertainty90: r.uncertainty90,
				before: row && band(row.alone, Math.sqrt(row.aloneSigma ** 2 - row.sigma ** 2)),
				after: row && band(row.after, row.afterSigma),
				depth: saidOf(r)?.depth,
				isFresh: !known.has(r.id) && row !== undefined,
				isOutlier: row?.isOutlier ?? false,
				moves: row?.moves.map(Math.exp)
			};
		}),
		before: without.asked[0],
		after,
		evidence,
		settled: { iterations: shop.iterations, converged: shop.converged },
		wrong: whatWentWrong(
			sensitivities,
			readings,
			(s) => {
				const read = readings.filter((r) => r.feature === s.feature && r.moment === s.moment).at(-1);
				return valueAt({ ...s, measured: read?.value ?? s.predicted }, without.asked[0].mean);
			},
			(kind) => without.form[kind]?.times ?? 1
		),
		leaveOut: [...squares].map(([unit, s]) => ({ unit, error: Math.sqrt(s.sum / s.count), count: s.count }))
	};
}
