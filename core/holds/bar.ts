import { checkStretch } from './checks';
import { NO_LINE, NO_SPOTS, type HoldKind } from './hold';

export const bar: HoldKind<'bar'> = {
	name: 'Backing bar',
	on: 'seam',
	spots: NO_SPOTS,
	line: NO_LINE,
	// it takes heat; what presses the sheets on it is a hold-down of its own
	grips: () => [],
	isGripUncertain: false,
	check(h, c) {
		if (h.material === 'own' && !h.metal)
			c.add('metal', 'nothing', 'a lump of your own needs its conductivity and its heat for a cubic millimetre and degree');
		checkStretch(h, c);
	}
};
