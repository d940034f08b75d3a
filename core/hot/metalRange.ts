/** What nobody has measured of hot metal, as other metals that are as plausible: each cause with its ends. */
import type { ArcModel } from './metal';
import { VISCOSITY } from './metal';

export const METAL_RANGE: readonly { label: string; ends: readonly Partial<ArcModel>[] }[] = [
	{ label: 'how soft the hot metal is', ends: [{ viscosity: VISCOSITY.low }, { viscosity: VISCOSITY.high }] },
	// none at all, and what it has up to 2 % and no further
	{ label: 'how the metal hardens', ends: [{ hardening: 0 }, { hardensTo: 0.02 }] },
	{ label: 'whether hot metal forgets its strain', ends: [{ forgets: false }] }
];
