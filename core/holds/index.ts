/** Every kind of hold-down. A new kind is a document in `plan/schema.ts`, a file here and a line below; the compiler asks for the rest. */
import type { AnyHoldDown } from '../plan/schema';
import type { HoldDownKind } from '../plan/words';
import { bar } from './bar';
import { brace } from './brace';
import { clamp } from './clamp';
import type { HoldKind } from './hold';
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
	weight,
	brace,
	strongback
};

/** The record of a hold-down's own kind. */
export const holdKind = (h: AnyHoldDown): HoldKind<HoldDownKind> => HOLDS[h.kind] as unknown as HoldKind<HoldDownKind>;
