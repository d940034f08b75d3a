import { checkStretch } from './checks';
import { shapeWords } from './curve';
import { NO_LINE, NO_PARTS, NO_SPOTS, type HoldKind } from './hold';

export const bar: HoldKind<'bar'> = {
	name: 'Backing bar',
	on: 'seam',
	spots: NO_SPOTS,
	parts: NO_PARTS,
	line: NO_LINE,
	// behind the seam on its root; beside it on whichever face is free
	hands: (h) => [0.3, 0.7].map((f) => ({ joint: h.joint, stationMm: h.fromMm + f * (h.toMm - h.fromMm), side: h.offsetMm ? 'either' : 'root' })),
	// it takes heat; what presses the sheets on it is a hold-down of its own
	grips: () => [],
	blocks: (h) => [h],
	isGripUncertain: false,
	check(h, c) {
		if (h.material === 'own' && !h.metal)
			c.add('metal', 'nothing', 'a lump of your own needs its conductivity and its heat for a cubic millimetre and degree');
		checkStretch(h, c);
	},
	where: (h, w) =>
		`${w.seam(h.joint)}, ${w.length(h.fromMm)} to ${w.length(h.toMm)}; ${h.material}, ${w.length(h.widthMm)} x ${w.length(h.thicknessMm)}, ${h.contact}${shapeWords(h.widthMm, w.curve(h.joint), w.length)}${h.offsetMm ? `, its middle ${w.length(Math.abs(h.offsetMm))} from the seam on ${w.sideOf(h.joint, h.offsetMm < 0 ? 'a' : 'b')}` : ''}`
};
