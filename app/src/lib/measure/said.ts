/** A verdict as it looks everywhere: never by colour alone. */
import type { Verdict } from '$core/features/verdict';

export const SAID_LOOK: Record<Verdict, string> = {
	inside: 'text-sound-700',
	'in doubt': 'text-straw-700',
	outside: 'text-plum-700',
	'final shape': ''
};
export const SAID_SIGN: Record<Verdict, string> = { inside: '✓', 'in doubt': '?', outside: '✕', 'final shape': '' };
