import { usualClamps } from '$core/holds/usual';
import { DARK, HOLDS_WAY, type HoldPage } from './kind';

export const clamp: HoldPage<'clamp'> = {
	make({ joint, unique }) {
		if (!joint) return [];
		const row = unique('clamp');
		return usualClamps(joint, (i) => `${row}-${i}`);
	},
	fields: [{ is: 'station', name: 'stationMm', label: 'Station' }, HOLDS_WAY],
	draw: (h) => [{ by: 'seam-block', joint: h.joint, stationMm: h.stationMm, colour: DARK }]
};
