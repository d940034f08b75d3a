/** Every kind of hold-down. A new kind is a document in `document/schema.ts`, a file here and a line below; the compiler asks for the rest. */
import type { AnyHoldDown, Bar, Joint, Part, PlanDocument } from '../document/schema';
import type { HoldDownKind } from '../document/words';
import { bar } from './bar';
import { bolts } from './bolts';
import { brace } from './brace';
import { clamp } from './clamp';
import { curveOf } from './curve';
import type { HoldKind, HoldWords } from './hold';
import { holdingTable } from './holding-table';
import { jig } from './jig';
import { strongback } from './strongback';
import { support } from './support';
import { tableTack } from './table-tack';
import { weight } from './weight';

export const HOLDS: { readonly [K in HoldDownKind]: HoldKind<K> } = {
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

/** @param length lengths in the person's unit */
export function holdWords(
	plan: { joints: readonly Joint[]; parts: readonly Pick<Part, 'id' | 'name' | 'roll' | 'thicknessMm'>[] },
	length: (mm: number) => string
): HoldWords {
	const joint = (id: string) => plan.joints.find((j) => j.id === id);
	const part = (id: string) => plan.parts.find((p) => p.id === id)?.name ?? id;
	const curve = (id: string) => {
		const seam = joint(id);
		return seam && curveOf(seam, plan.parts);
	};
	return { seam: (id) => joint(id)?.name ?? id, part, sideOf: (id, side) => part(joint(id)?.[side].part ?? id), length, curve };
}

/** The record of a hold-down's own kind. */
export const holdKind = (h: AnyHoldDown): HoldKind<HoldDownKind> => HOLDS[h.kind] as unknown as HoldKind<HoldDownKind>;

/** Everything that takes heat from the seams, as bars, in the plan's order. */
export const blocksOf = (plan: Pick<PlanDocument, 'holdDowns' | 'joints'>): Bar[] => plan.holdDowns.flatMap((h) => holdKind(h).blocks(h, plan));
