/** A thing of the shop's put to use in a plan: its sizes take the place of those that were planned. */
import type { Bar, Strongback, WeldSettings } from '../document/schema';
import { BAR_SECTIONS } from '../holds/sections';
import type { ItemOf } from './registers';

/** A bar no longer than it is: a stretch of the seam beyond its end is not behind it any more. */
export function useBar(bar: Bar, item: ItemOf['bar'], seam: string): void {
	bar.name = `${item.name} on ${seam}`;
	bar.material = item.material;
	delete bar.metal;
	bar.widthMm = item.widthMm;
	bar.thicknessMm = item.thicknessMm;
	bar.toMm = Math.min(bar.toMm, bar.fromMm + item.lengthMm);
}

/** How much of a bar stands out beyond the ends of its seam, mm: in a corner between walls there is no room for it. */
export const standsOut = (seamMm: number, item: ItemOf['bar']): number => Math.max(0, item.lengthMm - seamMm);

/** On the side it was on. */
export function useStrongback(strongback: Strongback, item: ItemOf['strongback'], part: string): void {
	const { section } = BAR_SECTIONS.find((s) => s.id === item.section)!;
	const side = strongback.offsetMm < 0 ? -1 : 1;
	Object.assign(strongback, section, { name: `${item.name} on ${part}`, offsetMm: side * section.offsetMm });
}
/** How far its ends are apart beyond its length, mm; nothing where it reaches. */
export function beyondIts(strongback: Strongback, item: ItemOf['strongback']): number {
	const apart = strongback.path.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - strongback.path[i][0], p[1] - strongback.path[i][1]), 0);
	return Math.max(0, apart - item.lengthMm);
}

export function useSource(s: WeldSettings, item: ItemOf['source']): void {
	s.source = item.name;
	if (item.polarity) s.polarity = item.polarity;
}
export function useTungsten(s: WeldSettings, item: ItemOf['tungsten']): void {
	s.tungsten = item.grade;
	s.tungstenMm = item.diameterMm;
}
export function useCup(s: WeldSettings, item: ItemOf['cup']): void {
	s.cupMm = item.boreMm;
}
export function useFiller(s: WeldSettings, item: ItemOf['filler']): void {
	s.fillerGrade = item.grade;
	s.fillerMm = item.diameterMm;
}

/** What a power source cannot do of these settings, in words; nothing where it can. */
export function sourceFault(
	s: Pick<WeldSettings, 'ampsA' | 'backgroundA' | 'startA' | 'finishA' | 'current'>,
	item: ItemOf['source']
): string | undefined {
	const wanted = [s.ampsA, ...(s.current === 'pulsed' ? [s.backgroundA ?? s.ampsA] : []), ...[s.startA, s.finishA].filter((a) => a !== undefined)];
	const beyond = wanted.find((a) => a < item.fromA || a > item.toA);
	return beyond === undefined ? undefined : `${item.name} gives ${item.fromA} to ${item.toA} A: ${beyond} A is beyond it`;
}
