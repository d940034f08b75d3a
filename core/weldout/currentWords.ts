/** How a welder is told the current of a run: what it is, which way it goes, how it begins and ends. */
import type { WeldSettings } from '../document/schema';

type Current = Pick<WeldSettings, 'current' | 'ampsA' | 'backgroundA' | 'polarity' | 'startA' | 'upSlopeS' | 'finishA' | 'downSlopeS'>;

/** Amps, peak and background where pulsed, and polarity. */
export const currentWords = (s: Current): string =>
	`${s.current === 'pulsed' ? `${s.ampsA} / ${s.backgroundA ?? '–'} A pulsed` : `${s.ampsA} A`}${s.polarity ? ` ${s.polarity}` : ''}`;

/** Start and finish with their ramps; nothing where they are left to the machine. */
export function rampWords(s: Current): string | undefined {
	const end = (word: string, amps: number | undefined, seconds: number | undefined) =>
		amps === undefined && seconds === undefined
			? []
			: [`${word}${amps === undefined ? '' : ` ${amps} A`}${seconds === undefined ? '' : ` in ${seconds} s`}`];
	const said = [...end('from', s.startA, s.upSlopeS), ...end('to', s.finishA, s.downSlopeS)];
	return said.length ? said.join(', ') : undefined;
}
