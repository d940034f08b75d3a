/** What each seam does, run by run: the response to its settings and bar as it is held there, with the heat earlier runs have left. */
import type { Bar, PlanDocument, Run } from '../document/schema';
import { Timeline } from '../sequence/timeline';
import { blocksOf } from '../holds';
import { STILL_AIR } from '../heat/air';
import { arcEnergy } from '../heat/arcEnergy';
import { findMaterial } from '../materials/grades';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { givesWay } from '../response/growth';
import { responseInput } from '../response/forPlan';
import { ownRunShares } from '../response/ownRuns';
import { forceFactor, springsOf, weldResponse, type ForceVariants, type ResponseInput, type WeldResponse } from '../response/weldResponse';
import type { Actions } from '../staging/events';
import type { ForecastCache } from './cache';
import { acrossAt, type HotFactors, type SeamFactors } from '../response/arcFactors';
import { profileAt, residualProfile } from './residual';
import { settingsOf, withoutOwnHeat, type weldOut } from './schedule';

/** A response with what it was worked out for. */
export interface UsedResponse {
	joint: string;
	settings: string;
	bar?: string;
	response: WeldResponse;
	input: ResponseInput;
	/** runs laid with it, by id; with the factor on their force from the heat that other seams have left */
	runs: Map<string, number>;
	/** the factor on their force from what cutting the seam into runs does to its heat; none where an arc was watched or lies on a bar */
	cut: Map<string, number>;
}

/** Profiles are taken to the nearest so many kelvin, so that alike runs share a solution: under a per cent of the force. */
export const ROUNDED_K = 10;
/** A rise below this is not worth a solution of its own, K: the force changes by less than a per cent. */
export const RISE_MATTERS = 12;

/**
 * How far out the pull follows the heat, share of where the metal yields to: between the places where heating has strained it once and twice
 * as far as it can without yielding it keeps what the peak has done to it; nearer the seam it yields again as it cools.
 */
const FOLLOWS_HEAT = 0.75;

/** What a response depends on. */
const memoOf = (input: ResponseInput) => {
	const { joint, settings, sheets, ambientC, bar } = input;
	return JSON.stringify([
		joint.type,
		joint.penetration,
		givesWay(joint, bar !== undefined) && joint.weldSide,
		joint.gapMm,
		joint.filler,
		joint.weldSizeMm,
		joint.response,
		settings,
		sheets.map((s) => [s.material, s.thicknessMm, s.widthMm, s.isFace]),
		bar && { ...bar, id: '', life: '', fromMm: 0, toMm: 0 },
		ambientC,
		springsOf(input).map((s) => `${s.curvature} ${s.inPlane}`)
	]);
};

/** How stiffly each run's seam is held against bowing, by run; see staging/restraint. */
type Held = ReadonlyMap<string, ResponseInput['bendingNmm2']>;

export class SeamResponses {
	private readonly byKey = new Map<string, UsedResponse>();
	private readonly bars: readonly Bar[];
	private readonly watched: ReadonlyMap<string, SeamFactors>;
	private readonly timeline: Timeline;
	private readonly shares = new Map<string, Map<string, number>>();
	private readonly brought = new Map<string, Float32Array[]>();

	/** @param heat the weld-out's, where what earlier runs left is to count @param hot what the moving arc says of each seam, where it was watched */
	constructor(
		private readonly plan: PlanDocument,
		private readonly mesh: AssemblyMesh,
		private readonly cache: ForecastCache,
		private readonly held: Held,
		private readonly heat: ReturnType<typeof weldOut> | undefined,
		hot?: HotFactors
	) {
		this.bars = blocksOf(plan);
		this.timeline = new Timeline(plan);
		this.watched = new Map(hot?.seams.map((s) => [s.joint, s]));
	}

	get used(): UsedResponse[] {
		return [...this.byKey.values()];
	}

	/** What a length of weld does at a station. @param run its index among the runs, or -1 for a tack */
	readonly actionsAt = (seam: number, station: number, run: number): Actions => {
		const { joint } = this.mesh.seams[seam];
		const entry = this.responseOf(seam, station, run);
		const r = entry.response;
		const given = joint.response;
		const left = run < 0 || given?.tendonForceN !== undefined ? 1 : this.residualOf(entry, run) * this.cutOf(entry, seam, run);
		const hot = run < 0 ? undefined : this.watched.get(joint.id);
		const pulls = given?.tendonForceN === undefined ? (hot?.force[this.plan.runs[run]?.id] ?? 1) : 1;
		const closes = hot && given?.transverseShrinkageMm === undefined ? acrossAt(hot, station) : 1;
		return {
			tendonForceN: pulls * left * r.tendonForceN,
			transverseShrinkageMm: closes * r.transverseShrinkageMm,
			angularChangeRad: r.angularChangeRad,
			eccentricityMm: r.eccentricityMm,
			eccentricitySpreadMm: r.eccentricitySpreadMm,
			facePushRad: r.facePushRad,
			faceTurnSpreadRad: r.faceTurnSpreadRad,
			edgeSpread: r.edgeSpread,
			across: r.across,
			given: {
				force: given?.tendonForceN !== undefined,
				shrinkage: given?.transverseShrinkageMm !== undefined,
				angle: given?.angularChangeRad !== undefined
			}
		};
	};

	/** Share by which a run's force changes where its bar touches half or twice as well, by run; runs without a bar are not in it. */
	barContact(): Map<string, { half: number; twice: number }> {
		const out = new Map<string, { half: number; twice: number }>();
		for (const entry of this.byKey.values()) {
			if (!entry.bar || !entry.runs.size) continue;
			const at = (contactFactor: number) => this.forceOf(entry.input, `contact ${contactFactor}`, { contactFactor }) - 1;
			const change = { half: at(0.5), twice: at(2) };
			for (const run of entry.runs.keys()) out.set(run, change);
		}
		return out;
	}

	private responseOf(seam: number, station: number, run: number): UsedResponse {
		const { plan } = this;
		const { joint } = this.mesh.seams[seam];
		const bar = this.bars.find(
			(b) =>
				b.joint === joint.id &&
				station >= b.fromMm - 1e-6 &&
				station <= b.toMm + 1e-6 &&
				(run < 0 ? this.timeline.isOnDuringTacks(b, joint.id) : this.timeline.isOnDuringRun(b, run))
		);
		const settings = settingsOf(plan, { joint: joint.id, settings: run < 0 ? undefined : plan.runs[run].settings });
		// a tack sits in the same metal as its seam's first run
		const like = run < 0 ? plan.runs.find((r) => r.joint === joint.id) : plan.runs[run];
		const input = responseInput(plan, joint, settings, bar, this.held.get(like?.id ?? ''));
		const memo = memoOf(input);
		const key = `${joint.id}/${settings.id}/${bar?.id ?? ''}/${memo}`;
		let entry = this.byKey.get(key);
		if (!entry) {
			const response = this.cache.response(memo, () => weldResponse(input));
			entry = { joint: joint.id, settings: settings.id, bar: bar?.id, response, input, runs: new Map(), cut: new Map() };
			this.byKey.set(key, entry);
		}
		return entry;
	}

	/**
	 * Factor on a run's force from what other seams have left beside it. What the seam's own runs leave is not heat besides: it has flowed
	 * along the seam out of a section that is taken to keep its own, and would be counted twice. The moving arc follows it (the hot depth).
	 */
	private residualOf(entry: UsedResponse, index: number): number {
		const run = this.plan.runs[index];
		let factor = entry.runs.get(run.id);
		if (factor === undefined) {
			// where the arc was watched, it met the heat of others too, where it began in it
			const isCounted = this.watched.get(run.joint)?.isWarm === true;
			factor = this.heat && !isCounted ? this.residualFactor(entry.input, index, this.heat) : 1;
			entry.runs.set(run.id, factor);
		}
		return factor;
	}

	private residualFactor(input: ResponseInput, index: number, heat: ReturnType<typeof weldOut>): number {
		const { plan } = this;
		const run = plan.runs[index];
		// all there is of heat says first whether there is any worth asking about
		if (residualProfile(this.mesh, run, heat.startFields[index], plan.ambientC).rise <= RISE_MATTERS) return 1;
		const profile = residualProfile(this.mesh, run, this.broughtTo(run, heat), plan.ambientC);
		if (profile.rise <= RISE_MATTERS) return 1;
		const whole = profile.sides.map((side) => side.map((c) => ROUNDED_K * Math.round(c / ROUNDED_K))) as [number[], number[]];
		return this.forceOf(input, JSON.stringify(whole), {
			startC: profileAt({ ...profile, sides: whole }),
			isEven: whole[0].every((c, k) => c === whole[1][k])
		});
	}

	/** °C of every place just before a run's arc, from the heat of other seams alone. */
	private broughtTo(run: Run, heat: ReturnType<typeof weldOut>): Float32Array {
		const { plan, mesh } = this;
		const own = plan.runs.filter((r) => r.joint === run.joint);
		const at = own.indexOf(run);
		// nothing of its own came before
		if (at === 0) return heat.startFields[plan.runs.indexOf(run)];
		let fields = this.brought.get(run.joint);
		if (!fields) this.brought.set(run.joint, (fields = withoutOwnHeat(plan, mesh, run.joint, heat)));
		return fields[at];
	}

	/** Factor on a run's force from the seam being cut into runs: each keeps less of its heat, and finds some of the others'. */
	private cutOf(entry: UsedResponse, seam: number, index: number): number {
		const run = this.plan.runs[index];
		// where nothing yields there is no pull to change
		if (!this.heat || entry.bar || this.watched.has(run.joint) || entry.response.yieldsToMm <= 0) return 1;
		let factor = entry.cut.get(run.id);
		if (factor === undefined) {
			factor = this.sharesOf(entry.response, seam, this.heat).get(run.id)!;
			entry.cut.set(run.id, factor);
		}
		return factor;
	}

	/** By run of a seam: what of its heat counts, by travelling sources (response/ownRuns). */
	private sharesOf({ yieldsToMm }: WeldResponse, seam: number, heat: ReturnType<typeof weldOut>): Map<string, number> {
		const { plan, mesh } = this;
		const { joint, lengthMm, closed } = mesh.seams[seam];
		let shares = this.shares.get(joint.id);
		if (!shares) {
			const own = plan.runs.filter((r) => r.joint === joint.id);
			const part = plan.parts.find((p) => p.id === joint.a.part)!;
			const { lambda, rhoC } = findMaterial(part.material, plan.materials).responsePair;
			const laid = own.map((r) => {
				const settings = settingsOf(plan, r);
				return {
					fromMm: r.fromMm,
					toMm: r.toMm,
					startS: heat.schedule.runs[plan.runs.indexOf(r)].startS,
					speedMmPerS: settings.speedMmPerS,
					heat: arcEnergy(settings).netHeat
				};
			});
			const share = ownRunShares(laid, {
				lengthMm,
				isClosed: closed,
				diffusivity: lambda / rhoC,
				lossPerS: (2 * STILL_AIR) / (rhoC * part.thicknessMm),
				atMm: FOLLOWS_HEAT * yieldsToMm
			});
			this.shares.set(joint.id, (shares = new Map(own.map((r, i) => [r.id, share[i]]))));
		}
		return shares;
	}

	private forceOf(input: ResponseInput, what: string, variants: ForceVariants): number {
		return this.cache.force(`${what}/${memoOf(input)}`, () => forceFactor(input, variants));
	}
}
