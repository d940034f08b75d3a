import { checkStretch } from './checks';
import { NO_BLOCKS, NO_LINE, NO_PARTS, NO_SPOTS, type HoldKind } from './hold';

export const jig: HoldKind<'jig'> = {
	name: 'Jig or square',
	on: 'seam',
	spots: NO_SPOTS,
	parts: NO_PARTS,
	line: NO_LINE,
	hands: (h) => [0.3, 0.7].map((f) => ({ joint: h.joint, stationMm: h.fromMm + f * (h.toMm - h.fromMm), side: 'either' })),
	grips: (h) => [{ by: 'seam', joint: h.joint, fromMm: h.fromMm, toMm: h.toMm, directions: h.holds, stiffnessNPerMm: h.stiffnessNPerMm }],
	blocks: NO_BLOCKS,
	isGripUncertain: true,
	check: checkStretch,
	where: (h, w) => `${w.seam(h.joint)}, ${w.length(h.fromMm)} to ${w.length(h.toMm)}${h.holds === 'all' ? ', holding every way' : ''}`
};
