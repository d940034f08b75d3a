/**
 * A piece that was read and is out: what would bring it back. Planishing and a bead on the other side are carried on in the forecast's
 * own model of the finished piece; pressing, grinding and shimming follow from geometry and closed forms; each with what it does to the
 * other features, what it takes, and what may go wrong.
 */
import type { AnyFeature, PlanDocument } from '../document/schema';
import { featureKind } from '../features';
import { factorBand, type ShopFactors } from '../factors/factors';
import { analyse, scalesOf, type Analysis, type ForecastCache } from '../forecast/analysis';
import { bucklingMargins } from '../forecast/buckling';
import { seamForces } from '../forecast/forecast';
import type { Vec3 } from '../geometry/vec';
import { findMaterial } from '../materials/grades';
import { DEFAULT_GOALS, exceedance, featureCost } from '../search/cost';
import type { StageEvent, WeldEvent } from '../staging/events';
import { stretchOf } from './planishing';
import { WAY_WORDS } from '../weldout/afterwards';
import { byHand } from './byHand';
import type { ReadNow, RightEnd, Way } from './way';

export interface PutRight {
	/** features outside or in doubt, by id */
	out: string[];
	ways: Way[];
	/** of what the forecast cannot speak */
	cautions: string[];
}

/** The least share of the way back that is offered. */
const LEAST = 0.1;
/** What brings it this far by the forecast is said before what hands do. */
const FAR = 0.4;
/** A seam is planished to the nearest tenth of its pull. */
const STEP = 0.1;
/** Minutes a hundred mm of seam for planishing, and to set up for a bead (own estimates). */
const MINUTES = { planish: 2, bead: 12 };
const COSTS_BY = { ...DEFAULT_GOALS, time: 0, heat: 0, flip: 0 };

/** Is its value, with its band, inside? */
const isOut = (f: AnyFeature, r: ReadNow) =>
	r.value + r.uncertainty90 > f.tolerance.upper || r.value - r.uncertainty90 < (f.tolerance.lower ?? -Infinity);

/** @param read the reading that decides, of each feature that was read */
export function putRight(plan: PlanDocument, read: readonly ReadNow[], factors: ShopFactors, cache: ForecastCache): PutRight {
	const known = read.flatMap((now) => {
		const feature = plan.features.find((f) => f.id === now.feature);
		return feature ? [{ feature, now }] : [];
	});
	const out = known.filter(({ feature, now }) => isOut(feature, now));
	if (!out.length) return { out: [], ways: [], cautions: [] };
	const finished = new Finished(plan, known, factors, cache);
	const ways = [...finished.ways(), ...out.flatMap(({ feature, now }) => byHand(plan, feature, now, finished.placesOf(feature)))];
	return {
		out: out.map((o) => o.feature.id),
		// what helps much, then what hands do at once, then what helps a little
		ways: ways.sort((p, q) => (q.gain ?? FAR) - (p.gain ?? FAR)),
		cautions: finished.cautions()
	};
}

interface Known {
	feature: AnyFeature;
	now: ReadNow;
}

/** The finished piece in the forecast's model, and what more is done to its seams. */
class Finished {
	private readonly a: Analysis;
	private readonly scales;
	/** by seam: what its runs did at each pair, the strongest of its passes */
	private readonly laid = new Map<number, Map<number, WeldEvent>>();
	/** panels wave: what they own is not in this model */
	private readonly waves: boolean;

	constructor(
		private readonly plan: PlanDocument,
		private readonly known: readonly Known[],
		private readonly factors: ShopFactors,
		cache: ForecastCache
	) {
		this.a = analyse(plan, cache);
		this.scales = scalesOf(factors.mean);
		for (const e of this.a.events) {
			if (e.type !== 'weld' || e.tack) continue;
			const pairs = this.laid.get(e.seam) ?? new Map<number, WeldEvent>();
			this.laid.set(e.seam, pairs);
			const before = pairs.get(e.pair);
			if (!before || Math.abs(before.actions.tendonForceN) < Math.abs(e.actions.tendonForceN)) pairs.set(e.pair, e);
		}
		this.waves = this.marginsWith(new Map()).some((m) => m.ratio >= 1);
	}

	/** Where a feature is read, in the drawing. */
	placesOf(feature: AnyFeature): Vec3[] {
		return featureKind(feature)
			.places(feature, this.plan)
			.map((p) => this.a.nominal[this.a.outputIndex(p.part, p.at)]);
	}
	ways(): Way[] {
		const tries = [...this.laid].flatMap(([seam, pairs]) => [this.planished(seam, pairs), this.turnedBack(seam, pairs)]);
		// all in one go: the piece is whole and linear, so that nothing of one hangs on another
		const added = this.a.carriedOn(tries.flatMap((t) => t.events)).added;
		return tries.flatMap((t) => {
			const does = added.get(t.owner);
			if (!t.steps || !does) return [];
			const effect = this.known.map(({ feature }) => {
				const at = (share: number) => this.a.featureAt(feature, 'unclamped', this.scales, [[does, share]]);
				return this.speaksOf(feature) ? at(1) - at(0) : 0;
			});
			const whole = this.best(effect);
			// neither less than nothing nor more than what the seam pulls: what that leaves is in the figures
			const share = Math.max(0, Math.min(1, Math.round(whole / STEP) * STEP));
			if (share < STEP) return [];
			const ends = this.endsOf(effect, share, t.factor);
			const cost = (values: readonly number[]) =>
				featureCost(
					this.known.map((k) => k.feature),
					values,
					COSTS_BY
				);
			const before = cost(this.known.map((k) => k.now.value));
			const gain = 1 - Math.sqrt(cost(ends.map((e) => e.value)) / before);
			if (!(gain > LEAST)) return [];
			return [{ ...t.words(share), ends: ends.filter((_, k) => this.speaksOf(this.known[k].feature)), gain }];
		});
	}

	/** Of waves a linear model knows nothing; of lengths, angles and squareness it speaks whether or not there are any. */
	private speaksOf(feature: AnyFeature): boolean {
		return !(this.waves && featureKind(feature).isOwnedByWaves);
	}
	/** The share, of nothing to all and beyond, at which the features come nearest to the middles of their limits (least squares). */
	private best(effect: readonly number[]): number {
		let [num, den] = [0, 0];
		this.known.forEach(({ feature, now }, k) => {
			const at = exceedance(feature, now.value);
			const slope = exceedance(feature, now.value + effect[k]) - at;
			num -= at * slope;
			den += slope * slope;
		});
		return den > 0 ? num / den : 0;
	}
	private endsOf(effect: readonly number[], share: number, factor: 'force' | 'angle'): RightEnd[] {
		const band = factorBand(this.factors, factor);
		return this.known.map(({ feature, now }, k) => {
			const by = share * effect[k];
			// a form error has no sign: it cannot come below nothing
			const shown = (v: number) => (featureKind(feature).isSigned ? v : Math.abs(v));
			const half = Math.hypot(now.uncertainty90, (Math.abs(by) * (band.high - band.low)) / (2 * band.value));
			const value = shown(now.value + by);
			return { feature: feature.id, value, low: featureKind(feature).isSigned ? value - half : Math.max(0, value - half), high: value + half };
		});
	}

	private planished(seam: number, pairs: ReadonlyMap<number, WeldEvent>) {
		const { joint, lengthMm } = this.a.mesh.seams[seam];
		const owner = `planish:${joint.id}`;
		const events = [...pairs.values()].map((e): StageEvent => ({
			...e,
			owner,
			pass: 1,
			actions: { ...e.actions, tendonForceN: -e.actions.tendonForceN, transverseShrinkageMm: 0, angularChangeRad: 0, facePushRad: 0 }
		}));
		const [some] = pairs.values();
		const sheets = [joint.a.part, joint.b.part].map((id) => this.plan.parts.find((p) => p.id === id)!);
		const metal = sheets.map((p) => findMaterial(p.material, this.plan.materials));
		const { stretchMm, widthMm } = stretchOf({
			forceN: this.scales[0] * some.actions.tendonForceN,
			lengthMm,
			across: some.actions.across,
			thicknessMm: [sheets[0].thicknessMm, sheets[1].thicknessMm],
			eMPa: [metal[0].eModulus, metal[1].eModulus]
		});
		return {
			owner,
			events,
			steps: some.actions.tendonForceN !== 0,
			factor: 'force' as const,
			words: (share: number): Omit<Way, 'ends' | 'gain'> => ({
				id: owner,
				kind: 'planished',
				joint: joint.id,
				label: `${WAY_WORDS.planished}: “${joint.name}”`,
				how: `Hammer or roll the weld and the metal beside it, on a dolly of its own shape, the whole seam from end to end first, then what is still low. All of its pull is gone when the ${lengthMm.toFixed(0)} mm have grown by ${stretchMm.toFixed(2)} mm, over ${widthMm.map((w) => w.toFixed(0)).join(' and ')} mm on either side; here ${share < 1 ? `${(share * stretchMm).toFixed(2)} mm of it are wanted` : 'all of it is wanted'}. Read again after each pass.`,
				minutes: Math.ceil((MINUTES.planish * lengthMm) / 100),
				risk: 'Too much and the seam pushes instead of pulling: the piece goes the other way, and metal that was stretched is not short again but by heat. It hardens what it hits.',
				by: 'forecast'
			})
		};
	}

	/** A bead as hot as the seam's own, on its other side: the angle goes back. What it pulls along it pulled already: hot metal yields as it did. */
	private turnedBack(seam: number, pairs: ReadonlyMap<number, WeldEvent>) {
		const { joint, lengthMm } = this.a.mesh.seams[seam];
		const owner = `back:${joint.id}`;
		const events = [...pairs.values()].map((e): StageEvent => ({
			...e,
			owner,
			pass: 1,
			actions: { ...e.actions, tendonForceN: 0, transverseShrinkageMm: 0, angularChangeRad: -e.actions.angularChangeRad, facePushRad: 0 }
		}));
		const [some] = pairs.values();
		return {
			owner,
			events,
			steps: some.actions.angularChangeRad !== 0,
			factor: 'angle' as const,
			words: (share: number): Omit<Way, 'ends' | 'gain'> => ({
				id: owner,
				kind: 'other-side',
				joint: joint.id,
				label: `${WAY_WORDS['other-side']}: “${joint.name}”`,
				how: `A bead without filler along the back of the seam, ${share < 1 ? `to turn back ${(100 * share).toFixed(0)} % of what the seam turned: begin with less current than its own` : 'as hot as the seam itself'}, with gas behind it. Try it on scrap of the same sheet first, and read after each length.`,
				minutes: Math.ceil(MINUTES.bead + lengthMm / 100),
				risk: 'More heat shrinks it along and across once more, may wave a panel that was flat, and colours the side that was clean. The second side brings back less than the first took.',
				by: 'forecast'
			})
		};
	}

	private marginsWith(less: ReadonlyMap<number, number>) {
		const forces = seamForces(this.a, this.scales[0]).map((f, k) => f * (1 - (less.get(k) ?? 0)));
		return bucklingMargins(this.plan, this.a.mesh, this.a.sheets, forces);
	}
	cautions(): string[] {
		if (!this.waves) return [];
		const owned = this.known.filter((k) => featureKind(k.feature).isOwnedByWaves).map((k) => k.feature.name);
		const worst = this.marginsWith(new Map()).reduce((w, m) => (m.ratio > w.ratio ? m : w));
		const without = [...this.laid.keys()].flatMap((k) => {
			const ratio = this.marginsWith(new Map([[k, 1]])).find((m) => m.label === worst.label)?.ratio ?? 0;
			return ratio < worst.ratio ? [{ name: this.a.mesh.seams[k].joint.name, ratio }] : [];
		});
		without.sort((p, q) => p.ratio - q.ratio);
		const cure = without[0];
		return [
			`A panel is past its limit (${worst.label}: the welds push with ${worst.ratio.toFixed(1)} times what it bears).${
				owned.length ? ` What waves is not told run by run: of ${owned.join(', ')} the ways here say nothing.` : ''
			}${
				cure
					? ` Planished whole, “${cure.name}” would leave ${cure.ratio.toFixed(1)} times${cure.ratio < 1 ? ': it would stand flat again' : '; take the next seam then'}.`
					: ''
			}`
		];
	}
}
