import type { AnyHoldDown, Run } from '$core/document/schema';

/** Hold-downs that named a run which is gone go back to the whole weld-out. @returns what was changed, in words */
export function followLives(holds: AnyHoldDown[], runs: readonly Run[]): string[] {
	const ids = new Set(runs.map((r) => r.id));
	const notes: string[] = [];
	for (const h of holds)
		for (const key of ['on', 'off'] as const) {
			const m = /^(?:before|after)-run:(.+)$/.exec(h.life[key]);
			if (m && !ids.has(m[1])) {
				h.life[key] = key === 'on' ? 'start' : 'when-cold';
				notes.push(`${h.name}: its run is gone, so it is now on for the whole weld-out.`);
			}
		}
	return notes;
}
