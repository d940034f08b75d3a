import type { AnyHoldDown, Run } from '../document/schema';

/** Hold-downs that named a run which is gone go back to the whole weld-out, in place. @returns what was changed, in words */
export function followLives(holds: readonly AnyHoldDown[], runs: readonly Run[]): string[] {
	const ids = new Set(runs.map((r) => r.id));
	const notes: string[] = [];
	for (const h of holds)
		for (const key of ['on', 'off'] as const) {
			const m = /^(?:before|after)-run:(.+)$/.exec(h.life[key]);
			if (!m || ids.has(m[1])) continue;
			h.life[key] = key === 'on' ? 'start' : 'when-cold';
			notes.push(`${h.name}: its run is gone, so it ${key === 'on' ? 'is on from the start' : 'comes off when cold'}.`);
		}
	return notes;
}
