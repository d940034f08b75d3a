import { NO_BLOCKS, NO_LINE, NO_PARTS, NO_SPOTS, type HoldKind } from './hold';

export const clamp: HoldKind<'clamp'> = {
	name: 'Row of clamps',
	on: 'seam',
	spots: NO_SPOTS,
	parts: NO_PARTS,
	line: NO_LINE,
	hands: (h) => [{ joint: h.joint, stationMm: h.stationMm, side: 'either' }],
	grips: (h) => [{ by: 'seam', joint: h.joint, fromMm: h.stationMm, toMm: h.stationMm, directions: h.holds, stiffnessNPerMm: h.stiffnessNPerMm }],
	blocks: NO_BLOCKS,
	isGripUncertain: true,
	check(h, c) {
		const length = c.seamLength(h.joint);
		if (length !== undefined && h.stationMm > length)
			c.add('stationMm', h.stationMm, `must be on seam “${c.plan.joints.find((j) => j.id === h.joint)!.name}”, 0 to ${length.toFixed(1)} mm`);
	},
	where: (h, w) => `${w.seam(h.joint)}, at ${w.length(h.stationMm)} from its datum end${h.holds === 'all' ? ', holding every way' : ''}`
};
