import { f2, mustReach, nominalOf, three, type MethodKind } from './method';

const DEG = 180 / Math.PI;
/** 90 % half-width of a protractor, degrees: what the angle before was read with. */
const PROTRACTOR90 = 0.2;

/** A laser that rides on the leg shows on a far wall what a protractor cannot: how far the leg has turned since it was last read. */
export const laserSpot: MethodKind = {
	name: 'Laser on the leg, its spot on a wall',
	unit: '°',
	readsIn: 'mm',
	others: [3],
	labels: () => ['From the fold to the wall', 'Spot before', 'Spot now; more where the fold opens', 'Angle before'],
	columns: three,
	reading90: 0.5,
	spread: 1,
	evaluate([far, before, now, angle], context) {
		mustReach(far, 'From the fold to the wall');
		const turned = DEG * Math.atan2(now - before, far);
		const value = angle + turned - nominalOf(context);
		return {
			value,
			arithmetic: `Turned by atan(${f2(now - before)} / ${f2(far)}) = ${f2(turned)}°; ${f2(angle)}° before ${turned < 0 ? '-' : '+'} ${f2(Math.abs(turned))}° - ${f2(nominalOf(context))}° (drawing) = ${f2(value)}°`,
			// both spots; the wall's distance hardly counts
			spread: (DEG * Math.SQRT2) / Math.hypot(far, now - before),
			scatter90: PROTRACTOR90
		};
	}
};
