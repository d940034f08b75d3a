/**
 * Works a piece through as people with real devices would: every step tapped by the bench's own routes, arcs and metal sent by the open
 * protocol of docs/devices.md, features read off the virtual shop's piece. Only the metal is not there, and all of it is marked as simulated.
 */
import { randomUUID } from 'node:crypto';
import { arcsOf, type ArcSample } from '../core/devices/arcLog';
import { settingsOf } from '../core/forecast/schedule';
import { arcEnergy } from '../core/heat/arcEnergy';
import { METHOD_KINDS } from '../core/measure/methods';
import { HOLD_POINT } from '../core/plan/holdPoint';
import type { PlanDocument } from '../core/document/schema';
import type { EventKind } from '../core/document/words';
import { arcOut } from '../core/weldout/arcOut';
import { benchPlan } from '../core/weldout/benchPlan';
import type { BenchStep, StepOf } from '../core/weldout/benchSteps';
import type { EventData } from '../core/weldout/happenings';
import { whereItStands, type LogLine } from '../core/weldout/logbook';
import { arc } from './devices/kinds';
import type { Values } from './devices/device';
import type { Sender } from './visitor';
import type { VirtualPiece } from '../core/practice/virtualShop';

/** s of the shop's clock that the work may take beyond what it is planned to, so that nothing is said to happen in the future. */
const SLACK_S = 30;
/** A clock that goes so many times as fast; it begins as far in the past that it does not come beyond the shop's own before the work is done. */
export class FastClock {
	private readonly began = Date.now();
	private readonly from: number;
	/** @param lasts s of work by this clock */
	constructor(
		private readonly times: number,
		lasts: number
	) {
		this.from = this.began - 1000 * (lasts + SLACK_S * times) * (1 - 1 / times);
	}
	now = () => this.from + this.times * (Date.now() - this.began);
	/** @param s by this clock */
	wait = (s: number) => new Promise((go) => setTimeout(go, (1000 * s) / this.times));
}

/** s that a step takes besides arcs and waits: own estimates. */
const SECONDS: Partial<Record<BenchStep['kind'], number>> = { tack: 12, parts: 40, measure: 60, sign: 20, hold: 15, flip: 20, run: 12 };
const USUAL = 10;
const secondsOf = (s: BenchStep) => SECONDS[s.kind] ?? USUAL;

/** s of the whole work. */
export const lastsFor = (plan: PlanDocument, steps: readonly BenchStep[]): number =>
	steps.reduce((sum, s) => sum + secondsOf(s) + (s.kind === 'wait' ? s.seconds : s.kind === 'run' ? arcTime(plan, s) : 0), 0);
function arcTime(plan: PlanDocument, s: StepOf<'run'>): number {
	return (
		Math.abs(s.toMm - s.fromMm) /
		settingsOf(
			plan,
			plan.runs.find((r) => r.id === s.run)!
		).speedMmPerS
	);
}

export interface Work {
	base: string;
	piece: string;
	plan: PlanDocument;
	metal: VirtualPiece;
	welder: Sender;
	inspector: Sender;
	/** of a simulated arc log that stands at the piece; without it the runs are tapped */
	arcToken?: string;
	clock: FastClock;
	seed: number;
	say(line: string): void;
}

const TRIES = 3;
/** s between two readings of the arc log */
const EVERY = 0.5;

export class Hand {
	private readonly steps: BenchStep[];
	private readonly arc: ReturnType<typeof arc>;
	constructor(private readonly work: Work) {
		this.steps = benchPlan(work.plan).steps;
		this.arc = arc(work.seed);
	}

	/** From the first step to the last. @throws Error with what the server refused */
	async weldOut(): Promise<void> {
		const { say, clock } = this.work;
		await this.tap(this.work.welder, [{ kind: 'started' }]);
		for (const step of this.steps) {
			if (await this.isDone(step.id)) continue;
			say(step.title);
			await clock.wait(secondsOf(step));
			await this.take(step);
		}
		await this.tap(this.work.welder, [{ kind: 'finished' }]);
	}

	private async take(step: BenchStep): Promise<void> {
		const { welder, inspector, clock } = this.work;
		if (step.kind === 'wait') {
			await this.tap(welder, [{ kind: 'wait-started', step: step.id }]);
			await clock.wait(step.seconds);
		}
		if (step.kind === 'sign') return this.tap(step.signs === 'inspector' ? inspector : welder, [this.signed(step)]);
		if (step.kind === 'measure') await this.read(step);
		if (step.kind === 'run' && this.work.arcToken) {
			const taps = await this.burn(step);
			// the bench page, where one is open, makes the same lines of the same arc under the same names
			if (taps) return this.tap(welder, taps);
		}
		await this.tap(welder, [{ kind: 'step-done', step: step.id }]);
	}

	private signed(step: StepOf<'sign'>): Tap {
		const asks = HOLD_POINT[step.of].oneOf;
		const data: EventData | undefined = asks.includes('oxygenPct')
			? { oxygenPct: 0.02 }
			: asks.includes('witness')
				? { witness: 'Simulated witness' }
				: undefined;
		return { kind: 'hold-signed', step: step.id, ...(data ? { data } : {}) };
	}

	/** The arc of a run, by the protocol of the devices, reading by reading. @returns what the log makes of it */
	private async burn(step: StepOf<'run'>): Promise<Tap[] | undefined> {
		const { plan, clock } = this.work;
		const settings = settingsOf(
			plan,
			plan.runs.find((r) => r.id === step.run)!
		);
		const heat = arcEnergy(settings);
		const bench = {
			step: step.id,
			kind: step.kind,
			run: { arcS: arcTime(plan, step), ampsA: heat.meanAmps, volts: heat.volts },
			ambientC: plan.ambientC
		};
		const samples: ArcSample[] = [];
		const most = Date.now() + 600_000;
		while (Date.now() < most) {
			const at = clock.now();
			const values = this.arc.read(at, bench);
			samples.push(...(await this.send(values, at)));
			if (samples.at(-1)?.arc === 'off') break;
			await clock.wait(EVERY);
		}
		const burnt = arcsOf(samples).at(-1);
		const current = whereItStands(this.steps, await this.log()).current;
		if (!burnt || current?.step.id !== step.id) return undefined;
		return arcOut(burnt, current, plan, 'Arc log (simulated)')?.taps.map((t) => ({ ...t, step: step.id }));
	}
	private async send(values: readonly Values[], at: number): Promise<ArcSample[]> {
		const lines = values.map((v) => ({ id: randomUUID(), at: new Date(at).toISOString(), ...v }));
		if (!lines.length) return [];
		const ask = () =>
			fetch(`${this.work.base}/api/devices/readings`, {
				method: 'POST',
				headers: { authorization: `Bearer ${this.work.arcToken}`, 'content-type': 'application/x-ndjson' },
				body: lines.map((l) => JSON.stringify(l)).join('\n')
			});
		// a line that fell asleep is opened anew
		const r = await ask().catch(ask);
		if (!r.ok) throw new Error(`The arc log is not taken: ${await r.text()}`);
		return lines;
	}

	/** Reads what a step asks for, as the inspector. */
	private async read(step: StepOf<'measure'>): Promise<void> {
		for (const id of step.features) {
			const feature = this.work.plan.features.find((f) => f.id === id)!;
			const { method, readings } = this.work.metal.read(feature, step.moment);
			const r = await this.sure(this.work.inspector, `/api/pieces/${this.work.piece}/measurements`, {
				clientId: randomUUID(),
				feature: id,
				method,
				moment: step.moment,
				posture: this.work.plan.posture,
				instrument: `${METHOD_KINDS[method].name} (simulated)`.slice(0, 80),
				metalC: 21,
				readings
			});
			if (r.status !== 201) throw new Error(`${feature.name} is not taken: ${JSON.stringify(r.body)}`);
			this.work.say(`  ${feature.name}: ${readings.length > 6 ? `${readings.length} readings` : readings.join(', ')}`);
		}
	}

	/** Sent again where nobody answered: what it sends carries an id, and is one thing however often it comes. */
	private async sure(who: Sender, route: string, body: unknown): ReturnType<Sender['post']> {
		for (let tries = 1; ; tries++) {
			const r = await who.post(route, body).catch((e: Error) => ({ status: 0, body: e.message }));
			if (r.status !== 0 || tries === TRIES) return r;
			await new Promise((go) => setTimeout(go, 200));
		}
	}
	private async tap(who: Sender, taps: Tap[]): Promise<void> {
		const happenedAt = new Date(this.work.clock.now()).toISOString();
		const events = taps.map((t) => ({ clientId: randomUUID(), happenedAt, ...t }));
		const r = await this.sure(who, `/api/pieces/${this.work.piece}/events`, { events });
		const refused = (r.body?.refused ?? []) as unknown[];
		if (r.status >= 400 || r.status === 0 || refused.length) throw new Error(`Not taken: ${JSON.stringify(refused.length ? refused : r.body)}`);
	}
	private async log(): Promise<LogLine[]> {
		const { body } = await this.work.welder.get(`/api/pieces/${this.work.piece}/events`);
		return (body.events as (Omit<LogLine, 'at'> & { happenedAt: string })[]).map((e) => ({ ...e, at: Date.parse(e.happenedAt) }));
	}
	private async isDone(step: string): Promise<boolean> {
		const at = whereItStands(this.steps, await this.log());
		return at.steps.some((s) => s.step.id === step && s.state === 'done');
	}
}

interface Tap {
	kind: EventKind;
	step?: string;
	clientId?: string;
	data?: EventData;
}
