/**
 * Sizing a chill block by its heat balance: a lump of even temperature that takes a share of each run's heat and gives it
 * to the air between runs. Lumped capacity (any heat transfer text: valid while the block conducts far better than it loses).
 */
import { Refusal } from '../refusal/refusal';

export interface BlockUse {
	/** J that reach the block in each run, in order */
	heatJ: readonly number[];
	/** s between the ends of one run and the next */
	betweenS: readonly number[];
	ambientC: number;
}

export interface Lump {
	massKg: number;
	/** J/kg.K */
	specificHeat: number;
	/** mm2 to the air */
	areaMm2: number;
	/** W/mm2.K to the air */
	air: number;
}

/** Heat that warms the lump by one degree, J/K. */
export const capacityOf = (l: Lump) => l.massKg * l.specificHeat;

/** °C straight after each run. */
export function blockAfterRuns(l: Lump, use: BlockUse): number[] {
	const rate = (l.air * l.areaMm2) / capacityOf(l);
	let c = use.ambientC;
	return use.heatJ.map((heat, i) => {
		if (i > 0) c = use.ambientC + (c - use.ambientC) * Math.exp(-rate * use.betweenS[i - 1]);
		return (c += heat / capacityOf(l));
	});
}

/** Mass that takes a heat with a given rise, kg. @throws RangeError where the rise is not above nothing */
export function massFor(heatJ: number, riseK: number, specificHeat: number): number {
	if (!(riseK > 0)) throw new Refusal('The rise allowed must be above 0 K');
	return heatJ / (specificHeat * riseK);
}

/** s until a lump has come down from one temperature to another in air. @throws RangeError where it never does */
export function recoveryS(l: Lump, fromC: number, toC: number, ambientC: number): number {
	if (!(toC > ambientC)) throw new Refusal(`It cools towards ${ambientC} °C and never below: ask for more than that`);
	return fromC <= toC ? 0 : (capacityOf(l) / (l.air * l.areaMm2)) * Math.log((fromC - ambientC) / (toC - ambientC));
}
