/** General tolerances of a feature by a class of ISO 13920, entered with the size its standard asks for. */
import type { AnyFeature, PlanDocument, Tolerance } from '../document/schema';
import type { FormClass, LinearClass } from '../measure/iso13920';
import { featureKind } from '.';
import { readingContext } from './context';

/** The standard's tables end here, mm; larger pieces are agreed on, not looked up. */
const LARGEST_MM = 4000;
/** and begin above nothing */
const SMALLEST_MM = 2;
export const CLASSES = { form: ['E', 'F', 'G', 'H'], linear: ['A', 'B', 'C', 'D'] } as const;
/** Asked of a feature nobody has said more about (common in fabrication; no source). */
const USUAL = { form: 'F', linear: 'B' } as const;

export function generalTolerance(f: AnyFeature, plan: PlanDocument, asked?: string): Tolerance {
	const { general } = featureKind(f);
	const xs = plan.parts[0].outline.map((p) => p[0]);
	const side = Math.max(...xs) - Math.min(...xs);
	const size = Math.min(LARGEST_MM, Math.max(SMALLEST_MM, general.sizeMm(f, readingContext(f, plan).nominal, side)));
	const c = asked ?? USUAL[general.classes];
	const { note, ...limits } = general.classes === 'form' ? general.of(c as FormClass, size) : general.of(c as LinearClass, size);
	return { ...limits, source: `ISO 13920-${c}${note ? `, ${note}` : ''}` };
}
