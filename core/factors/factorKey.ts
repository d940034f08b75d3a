/** What the shop's factors are kept under. */
import { findMaterial } from '../materials/grades';
import type { PlanDocument } from '../document/schema';
import { thicknessBand } from './factors';

export interface FactorKey {
	materialGroup: string;
	thicknessBand: string;
	technique: string;
}

/** Material group, thickness band and technique of a plan's first part and first settings. */
export function factorKeyOf(plan: PlanDocument): FactorKey {
	const part = plan.parts[0];
	const s = plan.settings[0];
	return {
		materialGroup: findMaterial(part.material, plan.materials).group,
		thicknessBand: thicknessBand(part.thicknessMm),
		technique: s ? `${s.process} ${s.current}` : 'TIG steady'
	};
}
