/**
 * The plan as steps for the bench: one at a time, in working order. The run screen and every sheet are made from this list, so what is
 * planned and has no step here is not seen by anybody at the bench.
 */
import type { Finding } from '../access/access';
import type { Schedule } from '../forecast/schedule';
import { liesFor, UP_WORDS, type Up } from '../layout/positions';
import { presetSetting, type PresetSetting } from './preset';
import type { AssemblyStep, Joint, PlanDocument, Run, Tack } from '../document/schema';
import { holdKind } from '../holds';
import { runsBefore } from '../sequence/precedence';
import { Timeline } from '../sequence/timeline';
import { COOLING_WORDS, MOMENT_WORDS, SIGNER_WORDS, type HoldPointKind, type HoldPointMoment, type Moment, type Signer } from '../document/words';
import { HOLD_POINT } from '../plan/holdPoint';
import { purgeOf, type PurgeSetting } from './purge';
import { standsOf, type Stand } from './standsAt';

interface Step {
	id: string;
	title: string;
	/** key of its picture */
	picture?: string;
}
export type BenchStep = Step &
	(
		| { kind: 'check' }
		/** film back from the seams, on each side */
		| { kind: 'film'; back: { joint: string; mm: number }[] }
		/** what comes on at a step of the assembly */
		| { kind: 'parts'; parts: string[]; stands: Stand[] }
		| { kind: 'look'; at: 'fit-up' | 'before-closing' | 'pinholes'; joints: string[]; words: string[] }
		| { kind: 'preset'; joint: string; setting: PresetSetting }
		| { kind: 'hold'; on: boolean; holdDown: string }
		| { kind: 'purge'; on: boolean; setting: PurgeSetting }
		| { kind: 'tack'; joint: string; stage: number; stations: number[]; lengthMm: number; fusionOnly: boolean }
		/** tacks ground level with the sheet, where the run must pass evenly */
		| { kind: 'grind'; joint: string; stations: number[] }
		/** `grips`: hold-downs on at that time that hold it to the bench */
		| { kind: 'flip'; up: Up; before: string; grips: string[] }
		| { kind: 'wait'; seconds: number; before: string }
		/** `lies`: the side of the piece that is up for it; `needs`: runs that must lie before it, whatever else the order is */
		| {
				kind: 'run';
				run: string;
				joint: string;
				fromMm: number;
				toMm: number;
				number: number;
				settings: string;
				startC: number;
				lies: Up;
				needs: string[];
		  }
		| { kind: 'measure'; moment: Moment; features: string[] }
		/** work waits until it is signed: what follows is locked */
		| { kind: 'sign'; point: string; of: HoldPointKind; signs: Signer; wanted?: string }
	);
export type StepOf<K extends BenchStep['kind']> = Extract<BenchStep, { kind: K }>;

/** Waits shorter than this are walked through anyway, s. */
export const SHORTEST_WAIT_S = 20;

/** What the list is made from beside the plan. */
export interface BenchFacts {
	/** waits by run, from the forecast's own cooling estimate */
	schedule: Schedule;
	/** how the piece may lie for each seam (positionsOf); tacks are taken in whatever position they are reached */
	positions: ReadonlyMap<string, readonly Up[]>;
	/** what each step of the assembly shuts in */
	findings: readonly Finding[];
	/** film back from each seam, mm; seams without film are not in it */
	filmMm: ReadonlyMap<string, number>;
	/** the step of the assembly from which a feature is whole, and the last at which tape or square still gets to it */
	readable(feature: string): { from: number; to: number };
}

export const benchSteps = (plan: PlanDocument, facts: BenchFacts): BenchStep[] => new StepList(plan, facts).make();

class StepList {
	private readonly steps: BenchStep[] = [];
	private readonly timeline: Timeline;
	private readonly lies: readonly Up[];
	private readonly needs: ReadonlyMap<string, string[]>;
	/** what is on and holds it to the bench */
	private readonly gripping = new Set<string>();
	/** how the piece lies by now */
	private at: Up = 'top';
	/** whether what is asked of sheets that stand has been asked */
	private hasAsked = false;
	/** assembly step whose parts came on last */
	private broughtOn: number | undefined;
	/** runs between which the root is purged, by index */
	private readonly purged: { first: number; last: number; setting: PurgeSetting } | undefined;

	constructor(
		private readonly plan: PlanDocument,
		private readonly facts: BenchFacts
	) {
		this.timeline = new Timeline(plan);
		this.lies = liesFor(plan.runs, facts.positions);
		this.needs = runsBefore(plan);
		this.purged = this.purgedRuns();
	}

	make(): BenchStep[] {
		this.prepare();
		for (const act of this.timeline.acts()) {
			switch (act.kind) {
				case 'parts':
					this.bringOn(act.step, act.index);
					break;
				case 'on':
				case 'off':
					if (act.kind === 'off') this.gripping.delete(act.holdDown.id);
					else if (this.doesGrip(act.holdDown)) {
						// what is clamped is not set over any more
						if (this.broughtOn !== undefined) this.setOver(this.broughtOn);
						this.gripping.add(act.holdDown.id);
					}
					this.put({
						id: `${act.kind}:${act.holdDown.id}`,
						kind: 'hold',
						on: act.kind === 'on',
						holdDown: act.holdDown.id,
						title: `${act.kind === 'on' ? 'Put on' : 'Take off'}: ${act.holdDown.name}`
					});
					break;
				case 'tacked':
					this.tack(act.step, act.index);
					break;
				case 'run':
					this.run(act.run, act.index);
					break;
				case 'welded':
					this.closeUp(act.index);
					break;
				case 'cold':
					this.cool();
					break;
				case 'unclamped':
					this.measure('unclamped', this.lastStep, this.comesOff ? undefined : 'Measure cold: nothing holds it any more');
					this.sign('end');
			}
		}
		return this.steps;
	}

	private put(step: BenchStep) {
		this.steps.push(step);
	}
	private get lastStep() {
		return this.timeline.assembly.steps.length - 1;
	}
	/** where nothing comes off when cold, cold and unclamped are one state, and it is read once */
	private get comesOff() {
		return this.plan.holdDowns.some((h) => this.timeline.offOf(h) === this.timeline.cold);
	}
	private name(joint: string) {
		return this.plan.joints.find((j) => j.id === joint)!.name;
	}

	private prepare() {
		this.ask(false);
		const back = [...this.facts.filmMm].map(([joint, mm]) => ({ joint, mm }));
		if (back.length) this.put({ id: 'film', kind: 'film', title: 'Film peeled back from the seams', back });
		this.put({ id: 'earth', kind: 'check', title: 'Earth lead clamped to clean bare metal of the piece, close to the work' });
	}

	/** Checks of the list: those of what lies ready, or those of what stands. */
	private ask(onceSetUp: boolean) {
		for (const c of this.plan.fitUp.checks) if ((c.onceSetUp ?? false) === onceSetUp) this.put({ id: `check:${c.id}`, kind: 'check', title: c.text });
	}
	/** Parts come on, true and located. */
	private bringOn(step: AssemblyStep, index: number) {
		this.broughtOn = index;
		// laid for what comes on, before it comes on
		const first = this.plan.runs.findIndex((r) => this.timeline.assembly.ofJoint(r.joint) === index);
		if (index > 0) this.lay(first < 0 ? 'top' : this.lies[first], `parts:${step.id}`);
		const stands = standsOf(this.plan, this.jointsOf(index));
		// parts that come on all at once and meet at their edges show by themselves where they go
		if (this.timeline.assembly.steps.length > 1 || stands.length)
			this.put({
				id: `parts:${step.id}`,
				kind: 'parts',
				title: index ? `Bring on: ${step.name}` : `Set up: ${step.name}`,
				parts: step.parts,
				stands
			});
	}
	/** The piece is turned where what follows is done in another position. @param before id of what follows */
	private lay(up: Up, before: string) {
		if (up === this.at) return;
		const isFirst = !this.steps.some((s) => s.kind === 'flip' || s.kind === 'run');
		this.put({
			id: `flip:${before}`,
			kind: 'flip',
			up,
			title: `${isFirst ? 'Lay' : 'Flip: lay'} the piece ${UP_WORDS[up]}`,
			before,
			grips: [...this.gripping]
		});
		this.at = up;
	}
	private jointsOf(step: number): Joint[] {
		return this.plan.joints.filter((j) => !j.stock && this.timeline.assembly.ofJoint(j.id) === step);
	}

	private doesGrip(h: PlanDocument['holdDowns'][number]): boolean {
		return holdKind(h)
			.grips(h, this.plan)
			.some((g) => g.by !== 'member');
	}
	/** Joints of an assembly step that are planned out of true are set so, once. */
	private setOver(index: number) {
		for (const j of this.jointsOf(index)) {
			const setting = presetSetting(this.plan, j);
			if (!setting || this.steps.some((s) => s.id === `preset:${j.id}`)) continue;
			this.put({ id: `preset:${j.id}`, kind: 'preset', title: `Set ${j.name} ${setting.deg}° over`, joint: j.id, setting });
		}
	}

	/** What is planned out of true and not set so yet; what locates, a look, what closes up, grinding; then the piece as tacked is read. */
	private tack(step: AssemblyStep, index: number) {
		this.setOver(index);
		// of the first sheets that meet: whether they do can be seen now and not before
		if (!this.hasAsked && this.jointsOf(index).length) {
			this.hasAsked = true;
			this.ask(true);
		}
		const own = this.plan.tacks.filter((t) => this.timeline.assembly.ofJoint(t.joint) === index);
		if (!own.length) return;
		const key = index ? `:${step.id}` : '';
		const groups = together(own);
		const located = groups.map(([t]) => t.stage).lastIndexOf(1);
		groups.forEach((group, i) => {
			const [{ id, joint, stage, lengthMm, fusionOnly }] = group;
			this.put({
				id: `tack:${id}`,
				kind: 'tack',
				title: `Tack ${this.name(joint)} ${stage === 1 ? 'to locate' : 'to close up'}`,
				joint,
				stage,
				stations: group.map((t) => t.stationMm),
				lengthMm,
				fusionOnly
			});
			if (i === located)
				this.put({
					id: `look:fit-up${key}`,
					kind: 'look',
					at: 'fit-up',
					title: 'Look again: plumb, square, gaps',
					joints: [...new Set(own.map((t) => t.joint))],
					words: [
						'Square on the corners, diagonals, straightedge, gaps along every seam. A tack that holds it wrong is broken or cut, and set again.'
					]
				});
		});
		for (const group of together(own.filter((t) => t.flush)))
			this.put({
				id: `grind:${group[0].id}`,
				kind: 'grind',
				title: `Grind the tacks of ${this.name(group[0].joint)} flush`,
				joint: group[0].joint,
				stations: group.map((t) => t.stationMm)
			});
		this.measure('as-tacked', index);
		this.sign('tacked', key);
	}

	private run(run: Run, i: number) {
		const { plan, lies } = this;
		// turned before it is waited for: it cools meanwhile
		this.lay(lies[i], run.id);
		if (this.purged?.first === i) this.startPurge(run, this.purged.setting);
		const timing = this.facts.schedule.runs[i];
		const isForced = run.cooling !== undefined && run.cooling !== 'still';
		if (timing.waitS >= SHORTEST_WAIT_S || isForced || (run.waitBeforeS ?? 0) > 0)
			this.put({
				id: `wait:${run.id}`,
				kind: 'wait',
				title: `Wait until the metal is at ${plan.interpassLimitC} °C or below${isForced ? `: ${COOLING_WORDS[run.cooling!]}` : ''}`,
				seconds: timing.waitS,
				before: run.id
			});
		this.put({
			id: `run:${run.id}`,
			kind: 'run',
			title: `Run ${i + 1} on ${this.name(run.joint)}`,
			run: run.id,
			joint: run.joint,
			fromMm: run.fromMm,
			toMm: run.toMm,
			number: i + 1,
			settings: run.settings ?? plan.joints.find((j) => j.id === run.joint)!.settings,
			startC: timing.startC,
			lies: lies[i],
			needs: this.needs.get(run.id)!
		});
		if (this.purged?.last === i) this.put({ id: 'purge:off', kind: 'purge', on: false, title: 'Purge off', setting: this.purged.setting });
	}

	private startPurge(run: Run, setting: PurgeSetting) {
		this.put({ id: 'purge:on', kind: 'purge', on: true, title: 'Purge on', setting });
		if (setting.sweepMin !== undefined)
			this.put({ id: 'wait:purge', kind: 'wait', title: 'Sweep the air out before the arc', seconds: 60 * setting.sweepMin, before: run.id });
		this.sign('swept');
	}
	/** Roots that are kept bright by gas: from the first run that goes through to the last. */
	private purgedRuns() {
		const setting = purgeOf(this.plan);
		if (!setting) return undefined;
		const through = this.plan.runs.flatMap((r, i) => (this.plan.joints.find((j) => j.id === r.joint)!.penetration === 'full' ? [i] : []));
		return through.length ? { first: through[0], last: through[through.length - 1], setting } : undefined;
	}

	/** What the next step shuts in is looked over, read and peeled first; at the end all of it. */
	private closeUp(index: number) {
		const { assembly } = this.timeline;
		const { findings } = this.facts;
		const next = assembly.steps[index + 1] as AssemblyStep | undefined;
		if (!next) {
			const welded = [...new Set(this.plan.runs.map((r) => r.joint))];
			if (welded.length)
				this.put({
					id: 'look:pinholes',
					kind: 'look',
					at: 'pinholes',
					title: 'Look the runs over: pinholes, craters, undercut',
					joints: welded,
					words: ['With a light, from both sides where they are seen. Mark what is found and put it right before it cools through.']
				});
			return;
		}
		const shut = findings.filter((f) => f.step === index + 1 && f.kind !== 'refused');
		const lastChance = this.plan.features.some((f) => this.facts.readable(f.id).to === index);
		if (lastChance && this.facts.schedule.coolToMeasureS > 0)
			this.put({
				id: `wait:${next.id}`,
				kind: 'wait',
				title: 'Let it cool before measuring: what is read hot is not what you get cold',
				seconds: this.facts.schedule.coolToMeasureS,
				before: `measure:cold:${assembly.steps[index].id}`
			});
		this.measure('cold', index, `Measure before “${next.name}” comes on: it is shut in after`, (to) => to === index);
		if (shut.length)
			this.put({
				id: `look:${next.id}`,
				kind: 'look',
				at: 'before-closing',
				title: `Before “${next.name}” comes on`,
				joints: shut.flatMap((f) => (f.joint ? [f.joint] : [])),
				words: [
					...closedTogether(
						next.name,
						shut.filter((f) => f.kind === 'closed').map((f) => this.name(f.joint!))
					),
					...shut.filter((f) => f.kind !== 'closed').map((f) => f.words)
				]
			});
		if (shut.length) this.sign('closing', `:${next.id}`);
	}

	/** Hold points of a moment, in the plan's order. */
	private sign(at: HoldPointMoment, key = '') {
		for (const h of this.plan.holdPoints ?? [])
			if (h.at === at)
				this.put({
					id: `sign:${h.id}${key}`,
					kind: 'sign',
					title: `Hold: ${HOLD_POINT[h.kind].words.toLowerCase()}, signed by ${SIGNER_WORDS[h.signs]}`,
					point: h.id,
					of: h.kind,
					signs: h.signs,
					...(h.wanted ? { wanted: h.wanted } : {})
				});
	}

	private cool() {
		const { coolToMeasureS } = this.facts.schedule;
		if (this.plan.runs.length && coolToMeasureS > 0)
			this.put({
				id: 'wait:cold',
				kind: 'wait',
				title: 'Let it cool before measuring: what is read hot is not what you get cold',
				seconds: coolToMeasureS,
				before: this.comesOff ? 'measure:cold' : 'measure:unclamped'
			});
		if (this.comesOff) this.measure('cold', this.lastStep);
	}

	/** Features that are whole by a step and still to be got at; as tacked, those that have just become whole. */
	private measure(moment: Moment, step: number, title = `Measure ${MOMENT_WORDS[moment]}`, only?: (to: number) => boolean) {
		const features = this.plan.features
			.filter((f) => {
				const { from, to } = this.facts.readable(f.id);
				if (only) return from <= step && only(to);
				return moment === 'as-tacked' ? from === step && to >= step : to >= step;
			})
			.map((f) => f.id);
		if (!features.length) return;
		const isPlain = moment === 'as-tacked' ? step === 0 : step === this.lastStep;
		const key = isPlain ? '' : `:${this.timeline.assembly.steps[step].id}`;
		this.put({ id: `measure:${moment}${key}`, kind: 'measure', moment, title, features });
	}
}

const closedTogether = (by: string, seams: readonly string[]) =>
	seams.length
		? [`“${by}” closes off ${seams.map((s) => `“${s}”`).join(', ')}: weld and look ${seams.length > 1 ? 'them' : 'it'} over for pinholes before.`]
		: [];

/** Tacks that follow one another on the same seam, set alike, are one step. */
function together(tacks: readonly Tack[]): Tack[][] {
	const out: Tack[][] = [];
	for (const t of tacks) {
		const last = out[out.length - 1]?.[0];
		if (last && last.joint === t.joint && last.stage === t.stage && last.fusionOnly === t.fusionOnly && last.lengthMm === t.lengthMm)
			out[out.length - 1].push(t);
		else out.push([t]);
	}
	return out;
}
