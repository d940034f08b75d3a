import { pathLength } from '$core/geometry/polyline';
import { DARK, HOLDS_WAY, life, type HoldPage } from './kind';

export const clamp: HoldPage<'clamp'> = {
	make({ joint, unique }) {
		if (!joint) return [];
		const l = pathLength(joint.a.path);
		const n = Math.max(2, Math.round(l / 150) + 1);
		const edge = Math.min(15, l / 4);
		return Array.from({ length: n }, (_, i) => ({
			id: `${unique('clamp')}-${i}`,
			name: `Clamp ${i + 1} on ${joint.name}`,
			kind: 'clamp',
			joint: joint.id,
			stationMm: Math.round(edge + ((l - 2 * edge) * i) / (n - 1)),
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: life()
		}));
	},
	fields: [{ is: 'station', name: 'stationMm', label: 'Station' }, HOLDS_WAY],
	draw: (h) => [{ by: 'seam-block', joint: h.joint, stationMm: h.stationMm, colour: DARK }]
};
