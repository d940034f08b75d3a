/** Every sheet by its name: made in a thread, for a traveller of sixty runs takes the better part of a second. */
import type { PlanDocument } from '$core/document/schema';
import { seamResponses } from '$core/response/forPlan';
import type { LengthUnit } from '$core/units/length';
import type { BenchPlan } from '$core/weldout/benchPlan';
import { bendRuleWords, cuttingListOf } from './cutting';
import { labelsSheet } from './labels';
import { marksSheet, runSheet, type SheetHead } from './pdf';
import { recordSheet, type RecordData } from './recordSheet';
import { cuttingListSheet, fitUpSheet, holdSheet } from './prepSheets';
import { procedureSheet, type ProcedureData } from './procedureSheet';
import { stripsSheet, traveller } from './traveller';

interface OfPlan {
	head: SheetHead;
	plan: PlanDocument;
	unit: LengthUnit;
}
export type SheetTask =
	| (OfPlan & { sheet: 'run-sheet' | 'fit-up-sheet' | 'hold-sheet' | 'marks-sheet'; bench: BenchPlan })
	| (OfPlan & { sheet: 'traveller'; bench: BenchPlan; notes: string | null; quantity: number; serials: string[]; address: string })
	| (OfPlan & { sheet: 'cutting-list'; quantity: number })
	| (OfPlan & { sheet: 'strips' })
	| (OfPlan & { sheet: 'labels'; serials: string[] })
	| { sheet: 'procedure'; found: ProcedureData; printedBy: string }
	| { sheet: 'record'; head: SheetHead; data: RecordData };

export function makeSheet(t: SheetTask): Promise<Uint8Array<ArrayBuffer>> {
	switch (t.sheet) {
		case 'run-sheet':
			return runSheet(t.head, t.plan, t.bench, t.unit);
		case 'fit-up-sheet':
			return fitUpSheet(t.head, t.plan, t.bench, seamResponses(t.plan), t.unit);
		case 'hold-sheet':
			return holdSheet(t.head, t.plan, t.bench, t.unit);
		case 'marks-sheet':
			return marksSheet(t.head, t.plan, t.bench, t.unit);
		case 'traveller':
			return traveller(t.head, { ...t, responses: seamResponses(t.plan) }, t.unit);
		case 'cutting-list':
			return cuttingListSheet(t.head, cuttingListOf(t.plan, t.quantity), t.quantity, bendRuleWords(t.plan), t.unit);
		case 'strips':
			return stripsSheet(t.head, t.plan);
		case 'labels':
			return labelsSheet(t.head, t.plan, t.serials, t.unit);
		case 'procedure':
			return procedureSheet(t.found, t.printedBy);
		case 'record':
			return recordSheet(t.head, t.data);
	}
}
