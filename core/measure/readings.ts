/** From what was read at the bench to the value of a feature, with the arithmetic in words and its uncertainty. */
import { Refusal } from '../refusal/refusal';
import { METHOD_KINDS, type Method } from './methods';
import type { ReadingContext } from './methods/method';

export interface Evaluated {
	/** feature's own value: form error, or departure from nominal */
	value: number;
	unit: 'mm' | '°';
	/** 90 % half-width (GUM: readings independent; the instrument, and the scatter of repeated ones) */
	uncertainty90: number;
	arithmetic: string;
}

/**
 * @param instrument90 of one reading with the instrument used, where it is known, in the method's unit: it counts where it is worse than an
 * ordinary one; a better one does not steady the hand
 * @throws Refusal naming what is missing or not a number
 */
export function evaluateReadings(method: Method, readings: readonly number[], context: ReadingContext, instrument90 = 0): Evaluated {
	const kind = METHOD_KINDS[method];
	const { chosen } = kind;
	if (chosen && (readings.length < chosen.least || readings.length > chosen.most))
		throw new Refusal(`${kind.name} takes ${chosen.least} to ${chosen.most} readings, ${readings.length} given`);
	const labels = kind.labels(chosen ? { ...context, places: readings.length } : context);
	if (readings.length !== labels.length) throw new Refusal(`${kind.name} needs ${labels.length} readings, ${readings.length} given`);
	readings.forEach((r, i) => {
		if (!Number.isFinite(r)) throw new Refusal(`${labels[i]}: not a number`);
		const { least } = kind;
		if (least && (r < least.value || (r === least.value && !least.isAllowed)))
			throw new Refusal(`${labels[i]}: ${r} cannot be read, it is ${least.isAllowed ? `${least.value} or more` : `more than ${least.value}`}`);
	});
	const { value, arithmetic, spread = kind.spread, scatter90 = 0 } = kind.evaluate(readings, context);
	return { value, arithmetic, unit: kind.unit, uncertainty90: Math.hypot(Math.max(kind.reading90, instrument90) * spread, scatter90) };
}
