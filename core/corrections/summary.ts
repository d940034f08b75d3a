/** A piece in a few figures, for the shop's logbook: kept with its signature, so that thousands of pieces are summed at once. */
import type { PlanDocument } from '../document/schema';
import type { JointType } from '../document/words';
import type { Decided, WayKind } from '../weldout/afterwards';
import type { HandOver, Read } from '../weldout/handOver';
import { standing, type LogLine } from '../weldout/logbook';
import { whatItGave } from './given';

export interface PieceSummary {
	/** features outside their limits, or in doubt, by name */
	outside: string[];
	unsure: string[];
	problems: { note: string; decided?: Decided }[];
	/** `gave`: how much nearer to the drawing, in the feature's unit, where it was read before and after; `due`: how much it was foretold to be; `doubt`: standard, of what it gave */
	corrections: { way: WayKind; feature?: string; gave?: number; due?: number; doubt?: number }[];
	/** s from when a wait was begun to when it was over */
	waitS: number;
	/** typed with what was put right, repaired and polished */
	reworkMin: number;
	welders: { id: string; name: string }[];
	joints: JointType[];
}

/** Nothing was outside, went wrong or had to be put right. */
export const isFirstTimeRight = (s: PieceSummary, accepted: boolean) => accepted && !s.outside.length && !s.problems.length && !s.corrections.length;

type Line = LogLine & { personId: string; person: string };

export function summaryOf(plan: PlanDocument, log: readonly Line[], readings: readonly Read[], { judged }: Pick<HandOver, 'judged'>): PieceSummary {
	const lines = standing(log);
	const name = (id: string) => plan.features.find((f) => f.id === id)?.name ?? id;
	const welders = new Map<string, string>();
	for (const l of lines) if ((l.kind === 'step-done' || l.kind === 'laid') && /^(run|tack):/.test(l.step ?? '')) welders.set(l.personId, l.person);
	return {
		outside: judged.filter((j) => j.inside === false).map((j) => name(j.feature)),
		unsure: judged.filter((j) => j.said === 'in doubt').map((j) => name(j.feature)),
		problems: lines
			.filter((l) => l.kind === 'step-problem')
			.map((l) => {
				const closed = lines.find((c) => c.kind === 'problem-closed' && c.about === l.clientId);
				return { note: l.note ?? '', ...(closed?.data?.decided ? { decided: closed.data.decided } : {}) };
			}),
		corrections: whatItGave(lines, readings).map(({ way, feature, before, after, foretold, doubt }) => ({
			way,
			...(feature ? { feature: name(feature) } : {}),
			...(before === undefined || after === undefined ? {} : { gave: Math.abs(before) - Math.abs(after) }),
			...(before === undefined || foretold === undefined ? {} : { due: Math.abs(before) - Math.abs(foretold) }),
			...(doubt === undefined ? {} : { doubt })
		})),
		waitS: waited(lines),
		reworkMin: reworkMinutes(lines),
		welders: [...welders].map(([id, n]) => ({ id, name: n })),
		joints: [...new Set(plan.joints.filter((j) => !j.stock).map((j) => j.type))]
	};
}

type Spent = Pick<LogLine, 'kind' | 'data'>;

/** Minutes that were typed with what was put right, repaired and polished; of lines that stand. */
export const reworkMinutes = (lines: readonly Spent[]): number => lines.reduce((sum, l) => sum + (isRework(l) ? (l.data?.minutes ?? 0) : 0), 0);

const isRework = (l: Spent) => l.kind === 'problem-closed' || (l.kind === 'happened' && (l.data?.what === 'corrected' || l.data?.what === 'surface'));

function waited(lines: readonly LogLine[]): number {
	return lines.reduce((sum, l) => {
		const over = l.kind === 'wait-started' && lines.find((d) => d.kind === 'step-done' && d.step === l.step && d.at >= l.at);
		return over ? sum + (over.at - l.at) / 1000 : sum;
	}, 0);
}
