/**
 * A sheet metal under a moving arc: the curves of `materials/hot.ts` with what a march through melting needs beside them, tabled
 * every few kelvin so that a look-up costs nothing. W, mm, J, N, MPa, °C.
 */
import type { Material } from '../materials/grades';
import { hotMetal, metalOf, type HotMetal } from '../materials/hot';

/** How the metal is taken to behave beyond its tables: the plausible models differ by more than the mesh does. */
export interface ArcModel {
	/** MPa at 20 °C per unit of plastic strain, falling to nothing at `solidC` */
	hardening: number;
	/** plastic strain up to which it hardens */
	hardensTo: number;
	/** metal hotter than `solidC` forgets strain and hardening */
	forgets: boolean;
	/** MPa.s, of metal with no strength left */
	viscosity: number;
}

/** K between places of a table, and °C where it ends; an arc's middle is hotter, and takes heat at the last rate. */
const STEP = 5;
const TOP = 3500;
/** MPa: molten metal carries nothing to speak of, but the matrix stays sound. */
const LEAST_E = 500;
const LEAST_PROOF = 2;

class Table {
	private readonly v: Float64Array;
	constructor(f: (c: number) => number) {
		this.v = Float64Array.from({ length: TOP / STEP + 2 }, (_, i) => f(i * STEP));
	}
	at(c: number): number {
		const x = c <= 0 ? 0 : c >= TOP ? TOP / STEP : c / STEP;
		const i = x | 0;
		return this.v[i] + (x - i) * (this.v[i + 1] - this.v[i]);
	}
	/** per K, of the place that `c` lies in */
	slope(c: number): number {
		const i = (c <= 0 ? 0 : c >= TOP ? TOP : c) / STEP;
		return (this.v[(i | 0) + 1] - this.v[i | 0]) / STEP;
	}
}

export class ArcMetal {
	readonly conductivity: Table;
	readonly heat: Table;
	readonly growth: Table;
	readonly e: Table;
	readonly proof: Table;
	readonly hardening: Table;
	readonly e20: number;
	readonly proof20: number;
	/** °C: the two ends of the melting range, between which Newton must not hop */
	readonly melts: readonly [number, number];
	/** °C from which on no strain is kept; beyond the table where nothing is forgotten */
	readonly forgetsC: number;
	/** °C below which a pair that was liquid is one again */
	readonly joinsC: number;

	/** @param melts °C, solidus and liquidus */
	constructor(
		metal: HotMetal,
		melts: readonly [number, number],
		readonly poisson: number,
		readonly model: ArcModel
	) {
		const [solidus] = melts;
		this.melts = melts;
		this.forgetsC = model.forgets ? metal.solidC : Infinity;
		this.joinsC = Math.min(solidus, metal.solidC);
		const grownTo = Math.min(metal.solidC, solidus);
		this.conductivity = new Table((c) => metal.conductivity(Math.min(c, melts[1])));
		this.heat = new Table((c) => metal.heatContent(c));
		this.growth = new Table((c) => metal.elongation(Math.min(c, grownTo)));
		this.e = new Table((c) => Math.max(metal.eModulus(c), LEAST_E));
		this.proof = new Table((c) => Math.max(metal.proof(c), LEAST_PROOF));
		this.hardening = new Table((c) => model.hardening * Math.max(0, 1 - (c - 20) / (metal.solidC - 20)));
		this.e20 = metal.eModulus(20);
		this.proof20 = metal.proof(20);
	}
}

/** The metal of a grade; a shop's own takes the curves of its group. */
export function arcMetal(m: Material, model: Partial<ArcModel> = {}): ArcMetal {
	const like = metalOf(m);
	const { melts } = like.curves;
	return new ArcMetal(hotMetal(m), [melts[0], melts[1]], m.poisson, {
		hardening: like.hardening.mpa,
		hardensTo: Infinity,
		forgets: true,
		viscosity: VISCOSITY.middle,
		...model
	});
}

/** MPa.s of metal above its solid temperature: a range, for nobody has measured it under an arc. */
export const VISCOSITY = { low: 20, middle: 100, high: 500 } as const;
