/** What each seam does, run by run: the response to its settings and bar as it is held there, with the heat earlier runs have left. */
import type { Bar, PlanDocument } from '../document/schema';
import { Timeline } from '../sequence/timeline';
import { blocksOf } from '../holds';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { responseInput } from '../response/forPlan';
import { forceFactor, springsOf, weldResponse, type ForceVariants, type ResponseInput, type WeldResponse } from '../response/weldResponse';
import type { Actions } from '../staging/events';
import type { ForecastCache } from './cache';
import { acrossAt, type HotFactors, type SeamFactors } from '../response/arcFactors';
import { profileAt, residualProfile } from './residual';
import { settingsOf, type weldOut } from './schedule';

/** A response with what it was worked out for. */
export interface UsedResponse {
	joint: string;
	settings: string;
	bar?: string;
	response: WeldResponse;
	input: ResponseInput;
	/** runs laid with it, by id; with the factor on their force from the heat that earlier runs have left */
	runs: Map<string, number>;
}

/** Profiles are taken to the nearest so many kelvin, so that alike runs share a solution: under a per cent of the force. */
export const ROUNDED_K = 10;
/** A rise below this is not worth a solution of its own, K: the force changes by less than a per cent. */
export const RISE_MATTERS = 12;

/** What a response depends on. */
const memoOf = (input: ResponseInput) => {
	const { joint, settings, sheets, ambientC, bar } = input;
	return JSON.stringify([
		joint.type,
		joint.penetration,
		joint.gapMm,
		joint.filler,
		joint.weldSizeMm,
		joint.response,
		settings,
		sheets.map((s) => [s.material, s.thicknessMm, s.widthMm, s.isFace]),
		bar && { ...bar, id: '', life: '', fromMm: 0, toMm: 0 },
		ambientC,
		springsOf(input).map((s) => String(s.curvature))
	]);
};

/** How stiffly each run's seam is held against bowing, by run; see staging/restraint. */
type Held = ReadonlyMap<string, ResponseInput['bendingNmm2']>;

export class SeamResponses {
	private readonly byKey = new Map<string, UsedResponse>();
	private readonly bars: readonly Bar[];
	private readonly watched: ReadonlyMap<string, SeamFactors>;
	private readonly timeline: Timeline;

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
		const left = run < 0 || given?.tendonForceN !== undefined ? 1 : this.residualOf(entry, run);
		const hot = run < 0 ? undefined : this.watched.get(joint.id);
		const pulls = given?.tendonForceN === undefined ? (hot?.force[this.plan.runs[run]?.id] ?? 1) : 1;
		const closes = hot && given?.transverseShrinkageMm === undefined ? acrossAt(hot, station) : 1;
		return {
			tendonForceN: pulls * left * r.tendonForceN,
			transverseShrinkageMm: closes * r.transverseShrinkageMm,
			angularChangeRad: r.angularChangeRad,
			eccentricityMm: r.eccentricityMm,
			eccentricitySpreadMm: r.eccentricitySpreadMm,
			faceTurnSpreadRad: r.faceTurnSpreadRad,
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
			entry = { joint: joint.id, settings: settings.id, bar: bar?.id, response, input, runs: new Map() };
			this.byKey.set(key, entry);
		}
		return entry;
	}

	/** Factor on a run's force from what earlier runs have left beside it. */
	private residualOf(entry: UsedResponse, index: number): number {
		const run = this.plan.runs[index];
		let factor = entry.runs.get(run.id);
		if (factor === undefined) {
			// where the arc was watched, it met the heat of the seam's own earlier runs itself, and that of others where it began in it
			const hot = this.watched.get(run.joint);
			const isCounted = hot !== undefined && (hot.isWarm || this.plan.runs.findIndex((r) => r.joint === run.joint) < index);
			factor = this.heat && !isCounted ? this.residualFactor(entry.input, index, this.heat) : 1;
			entry.runs.set(run.id, factor);
		}
		return factor;
	}

	private residualFactor(input: ResponseInput, index: number, heat: ReturnType<typeof weldOut>): number {
		const profile = residualProfile(this.mesh, this.plan.runs[index], heat.startFields[index], this.plan.ambientC);
		if (profile.rise <= RISE_MATTERS) return 1;
		const whole = profile.sides.map((side) => side.map((c) => ROUNDED_K * Math.round(c / ROUNDED_K))) as [number[], number[]];
		return this.forceOf(input, JSON.stringify(whole), {
			startC: profileAt({ ...profile, sides: whole }),
			isEven: whole[0].every((c, k) => c === whole[1][k])
		});
	}

	private forceOf(input: ResponseInput, what: string, variants: ForceVariants): number {
		return this.cache.force(`${what}/${memoOf(input)}`, () => forceFactor(input, variants));
	}
}
