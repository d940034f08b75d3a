/** What a shop usually puts on a seam: the same wherever it is put on by hand, tried, advised or asked for by a trial. */
import { pathLength } from '../geometry/polyline';
import type { Bar, Clamp, Joint, Straightness, Strongback } from '../document/schema';

/** On from the start, off when cold. */
export const untilCold = () => ({ on: 'start', off: 'when-cold' }) as const;
/** mm, no longer than what is measured */
export const tenth = (mm: number) => Math.floor(mm * 10) / 10;

/** mm between clamps along a seam (common practice: a hand’s width or a little more; no source) */
const CLAMP_PITCH = 120;
/** mm from the seam’s ends (own estimate) */
const CLAMP_INSET = 15;
/** N/mm, of a toggle clamp on its arm (own estimate) */
const CLAMP_STIFFNESS = 5000;

/** Copper, wide enough for the hot band of thin sheet. @param offsetMm its middle beside the seam: a chill block; behind it where absent */
export function usualBar(joint: Joint, id: string, { offsetMm, contact = 'tight' }: { offsetMm?: number; contact?: Bar['contact'] } = {}): Bar {
	const beside = offsetMm !== undefined;
	return {
		id,
		name: beside ? `Chill block beside ${joint.name}` : `Bar on ${joint.name}`,
		kind: 'bar',
		joint: joint.id,
		fromMm: 0,
		toMm: tenth(pathLength(joint.a.path)),
		material: 'copper',
		widthMm: beside ? 30 : 40,
		thicknessMm: beside ? 20 : 10,
		contact,
		...(beside ? { offsetMm } : {}),
		life: untilCold()
	};
}

/** A row from end to end, each pressing the sheet down. @param ids of the first, the second… */
export function usualClamps(joint: Joint, ids: (index: number) => string): Clamp[] {
	const length = pathLength(joint.a.path);
	const count = Math.max(2, Math.round(length / CLAMP_PITCH) + 1);
	const inset = Math.min(CLAMP_INSET, length / 8);
	return Array.from({ length: count }, (_, i) => ({
		id: ids(i),
		name: `Clamp ${i + 1} on ${joint.name}`,
		kind: 'clamp' as const,
		joint: joint.id,
		stationMm: Math.round(inset + ((length - 2 * inset) * i) / (count - 1)),
		holds: 'normal' as const,
		stiffnessNPerMm: CLAMP_STIFFNESS,
		life: untilCold()
	}));
}

/** A 25 x 25 x 3 angle of carbon steel: common section, EN 10056-1. */
const ANGLE = { areaMm2: 142, iOutMm4: 8000, iInMm4: 8000, torsionMm4: 430, eModulusMPa: 210_000, offsetMm: 7.2, pitchMm: 60 } as const;

/** An angle clamped along the line that is to stay straight. */
export const usualAngle = ({ name, part, path }: Pick<Straightness, 'name' | 'part' | 'path'>, id: string): Strongback => ({
	id,
	name: `Angle along ${name}`,
	kind: 'strongback',
	life: untilCold(),
	part,
	path,
	...ANGLE
});
