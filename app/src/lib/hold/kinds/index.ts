/** Every kind of hold-down as the page has it. */
import type { AnyHoldDown } from '$core/document/schema';
import { HOLD_DOWN_KINDS, type HoldDownKind } from '$core/document/words';
import { HOLDS } from '$core/holds';
import { usualBar } from '$core/holds/usual';
import { bar } from './bar';
import { bolts } from './bolts';
import { brace } from './brace';
import { clamp } from './clamp';
import { holdingTable } from './holdingTable';
import { jig } from './jig';
import type { HoldPage, Wanted } from './kind';
import { strongback } from './strongback';
import { support } from './support';
import { tableTack } from './tableTack';
import { weight } from './weight';

const PAGES: { readonly [K in HoldDownKind]: HoldPage<K> } = {
	bar,
	clamp,
	jig,
	support,
	'table-tack': tableTack,
	bolts,
	weight,
	brace,
	strongback,
	'holding-table': holdingTable
};
export const holdPage = (kind: HoldDownKind): HoldPage<HoldDownKind> => PAGES[kind] as unknown as HoldPage<HoldDownKind>;

/** What a planner can put on; a chill block is a bar beside the seam. */
export type HoldChoice = HoldDownKind | 'block';
export const HOLD_CHOICES: readonly { value: HoldChoice; name: string; on: 'seam' | 'part' }[] = [
	...HOLD_DOWN_KINDS.flatMap((value) => [
		{ value, name: HOLDS[value].name, on: HOLDS[value].on },
		...(value === 'bar' ? [{ value: 'block' as const, name: 'Chill block', on: 'seam' as const }] : [])
	])
];

export function newHolds(choice: HoldChoice, wanted: Wanted): AnyHoldDown[] {
	if (choice === 'block') return wanted.joint ? [usualBar(wanted.joint, wanted.unique('block'), { offsetMm: 25 })] : [];
	return holdPage(choice).make(wanted);
}
