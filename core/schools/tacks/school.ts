/** What a school of tacks has to say for itself. One file a school, listed in `index.ts`: one that leaves an answer out does not compile. */
import type { TackRule } from '../../document/schema';
import type { SeamInSpace } from '../../layout/space';

/** A length of the rule that this school uses, as the page asks for it. */
export interface TackField {
	field: 'locateMm' | 'closeMm';
	label: string;
	minMm: number;
	maxMm: number;
}

/** Where tacks may lie on a seam: stations, mm. */
export interface TackSpan {
	seam: SeamInSpace;
	from: number;
	to: number;
	/** the second of two seams along one line on two sides of a sheet */
	isSecondSide: boolean;
}

export interface TackPlace {
	station: number;
	/** 1 locates, 2 closes up */
	stage: 1 | 2;
	/** how far it may be moved to keep clear of holes and run ends, mm */
	reach: number;
}

export interface TackSchool {
	name: string;
	advice: string;
	/** figures it starts from: common practice, no source */
	start: Omit<TackRule, 'pattern'>;
	fields: readonly TackField[];
	/** why it does not apply to these seams (of all of the piece) with these figures, or undefined */
	whyNot(seams: readonly SeamInSpace[], rule: TackRule, all: readonly SeamInSpace[]): string | undefined;
	places(span: TackSpan, rule: TackRule): TackPlace[];
}

export const SHARED = { order: 'from-true-corner', flush: false, endClearMm: 6, otherClearMm: 4 } as const;

/** Even spacing of at most `pitch` between two stations, both ends included. */
export function evenly(from: number, to: number, pitch: number): number[] {
	const n = Math.max(1, Math.ceil((to - from) / pitch - 1e-9));
	return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
}

/** Tacks that may be moved by half their pitch. */
export const placed = (stations: readonly number[], stage: 1 | 2, pitch: number): TackPlace[] =>
	stations.map((station) => ({ station, stage, reach: pitch / 2 }));
