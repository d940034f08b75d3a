/** The five devices as they are simulated: plausible, not exact. Own estimates. */
import type { DeviceKind } from '../../core/document/words';
import { uniformFrom } from '../../core/linalg/random';
import type { Bench, Simulated, Values } from './device';

const round = (v: number, step: number) => Number((Math.round(v / step) * step).toFixed(6));

/** Metal that cools after the last arc as a plate in still air does, read to a tenth of a kelvin. */
function probe(seed: number): Simulated {
	const next = uniformFrom(seed);
	return {
		everyMs: 1000,
		read(at, bench) {
			if (!bench) return [];
			const rise = bench.lastArcAt === undefined ? 0 : 160 * Math.exp(-(at - bench.lastArcAt) / 150_000);
			return [{ metalC: round(bench.ambientC + rise + 2 * (next() - 0.5), 0.1) }];
		}
	};
}

/** Strikes a little after a run has come up, burns about as long and as hot as planned, with ramps; then waits for the next. @param hotter, slower shares of the plan's */
export function arc(seed: number, hotter = 1, slower = 1): Simulated {
	const next = uniformFrom(seed);
	let burning: { step: string; from: number; forMs: number; amps: number; volts: number } | undefined;
	let seen: { step: string; at: number } | undefined;
	let done: string | undefined;
	const begin = (at: number, step: string, run: NonNullable<Bench['run']>): Values[] => {
		burning = {
			step,
			from: at,
			forMs: 1000 * run.arcS * slower * (0.95 + 0.1 * next()),
			amps: run.ampsA * hotter * (0.97 + 0.06 * next()),
			volts: run.volts * (0.97 + 0.06 * next())
		};
		return [{ arc: 'on' }];
	};
	return {
		everyMs: 500,
		read(at, bench) {
			if (burning) {
				const into = (at - burning.from) / burning.forMs;
				// up over the first twentieth, down over the last
				const ramp = Math.max(0.2, Math.min(1, 20 * into, 20 * (1 - into)));
				const sample: Values = {
					ampsA: round(burning.amps * ramp * (0.99 + 0.02 * next()), 0.1),
					volts: round(burning.volts * (0.98 + 0.04 * next()), 0.1)
				};
				if (into < 1) return [sample];
				done = burning.step;
				burning = undefined;
				return [{ ...sample, arc: 'off' }];
			}
			if (bench?.kind !== 'run' || !bench.run || bench.step === done) return [];
			if (seen?.step !== bench.step) seen = { step: bench.step, at };
			return at - seen.at >= 2000 ? begin(at, bench.step, bench.run) : [];
		}
	};
}

/** A dial that has settled: one value each time its button is pressed. */
function gauge(seed: number): Simulated {
	const next = uniformFrom(seed);
	return { everyMs: 1000, read: () => [], press: () => [{ value: round(0.1 + 0.5 * next(), 0.01), unit: 'mm' }] };
}

/** Air swept out as by a stirred volume: from a fifth to a few hundredths. */
function oxygen(seed: number): Simulated {
	const next = uniformFrom(seed);
	let begun: number | undefined;
	return {
		everyMs: 1000,
		read(at) {
			begun ??= at;
			return [{ oxygenPct: round(0.01 + 20.9 * Math.exp(-(at - begun) / 20_000) + 0.004 * next(), 0.001) }];
		}
	};
}

const pedal = (): Simulated => ({ everyMs: 1000, read: () => [], press: () => [{ press: 'down' }] });

export const SIMULATED: Readonly<Record<DeviceKind, (seed: number) => Simulated>> = { probe, arc, gauge, oxygen, switch: pedal };
