/**
 * A length read on warm metal is longer by what the warmth alone does to it. What a form or an angle will be when cold cannot be told from
 * its warmth: the piece is still moving.
 */
import type { AnyFeature, PlanDocument } from '../document/schema';
import { featureKind } from '.';
import { readingContext } from './context';
import { findMaterial } from '../materials/grades';
import { hotMetal } from '../materials/hot';

/** The mean expansion is taken from the room to here, °C; on metal this much hotter than that nothing is said. */
const MEAN_TO_C = 100;
const HOTTEST_C = 250;
/** The metal is not as warm all along as where it was read (own estimate, 90 %). */
const EVEN = 0.5;

/** mm that a length grows by for each K, from the room to 100 °C; nothing for what is no length. */
export function growthOf(feature: AnyFeature, plan: PlanDocument): number | undefined {
	if (feature.kind !== 'length') return undefined;
	const [place] = featureKind(feature).places(feature, plan);
	const metal = hotMetal(findMaterial(plan.parts.find((p) => p.id === place.part)!.material, plan.materials));
	const mean = (metal.elongation(MEAN_TO_C) - metal.elongation(20)) / (MEAN_TO_C - 20);
	return mean * (readingContext(feature, plan).nominal ?? 0);
}

export interface ColdValue {
	/** mm, of the feature, when its metal is as cold as the workshop */
	value: number;
	/** mm that the warmth has put on, and how uncertain that makes it */
	longerMm: number;
	spread90: number;
}

/** @param growth mm per K @returns nothing where that cannot be said */
export function coldValue(value: number, growth: number | undefined, metalC: number, ambientC: number): ColdValue | undefined {
	if (growth === undefined || metalC > HOTTEST_C) return undefined;
	const longerMm = growth * (metalC - ambientC);
	return { value: value - longerMm, longerMm, spread90: EVEN * Math.abs(longerMm) };
}
