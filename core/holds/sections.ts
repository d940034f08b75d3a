/** Bars a shop has at hand for strongbacks: sharp-cornered sections by the parallel-axis theorem, so a rolled one is a few per cent less. */
import type { Strongback } from '../document/schema';

export interface BarSection {
	areaMm2: number;
	/** about its own centroid: bending out of the sheet it is fixed to, and in it */
	iOutMm4: number;
	iInMm4: number;
	torsionMm4: number;
	/** of its centroid over the sheet, mm */
	offsetMm: number;
}

/** A rectangle of the section: middle from the middle line and over the sheet, width along the sheet, height over it, mm. */
type Rectangle = readonly [x: number, y: number, w: number, h: number];

/** @param torsionMm4 closed sections have one of their own; open ones a third of each strip's length times its thickness cubed */
function built(rectangles: readonly Rectangle[], torsionMm4?: number): BarSection {
	const areaMm2 = rectangles.reduce((s, [, , w, h]) => s + w * h, 0);
	const middle = (d: 0 | 1) => rectangles.reduce((s, r) => s + r[2] * r[3] * r[d], 0) / areaMm2;
	const [x0, y0] = [middle(0), middle(1)];
	return {
		areaMm2,
		iOutMm4: rectangles.reduce((s, [, y, w, h]) => s + (w * h ** 3) / 12 + w * h * (y - y0) ** 2, 0),
		iInMm4: rectangles.reduce((s, [x, , w, h]) => s + (h * w ** 3) / 12 + w * h * (x - x0) ** 2, 0),
		torsionMm4: torsionMm4 ?? rectangles.reduce((s, [, , w, h]) => s + (Math.max(w, h) * Math.min(w, h) ** 3) / 3, 0),
		offsetMm: y0
	};
}

/** Standing on its edge. */
export const flatBar = (height: number, thickness: number) => built([[0, height / 2, thickness, height]]);
/** One leg on the sheet, the other standing. */
export const angleBar = (leg: number, t: number) =>
	built([
		[leg / 2, t / 2, leg, t],
		[t / 2, t + (leg - t) / 2, t, leg - t]
	]);
/** Square tube; torsion of a closed thin wall (Bredt): 4 A^2 t / length of the middle line. */
export const squareTube = (side: number, t: number) =>
	built(
		[
			[0, t / 2, side, t],
			[0, side - t / 2, side, t],
			[-(side - t) / 2, side / 2, t, side - 2 * t],
			[(side - t) / 2, side / 2, t, side - 2 * t]
		],
		t * (side - t) ** 3
	);
/** Its two flanges standing on the sheet, the web above. */
export const channelBar = (web: number, flange: number, t: number) =>
	built([
		[0, flange - t / 2, web, t],
		[-(web - t) / 2, (flange - t) / 2, t, flange - t],
		[(web - t) / 2, (flange - t) / 2, t, flange - t]
	]);

/** In the order they are offered. */
export const BAR_SECTIONS: readonly { id: string; name: string; section: BarSection }[] = [
	{ id: 'flat-40-6', name: 'flat 40 x 6 on edge', section: flatBar(40, 6) },
	{ id: 'flat-50-8', name: 'flat 50 x 8 on edge', section: flatBar(50, 8) },
	{ id: 'angle-30-3', name: 'angle 30 x 30 x 3', section: angleBar(30, 3) },
	{ id: 'angle-40-4', name: 'angle 40 x 40 x 4', section: angleBar(40, 4) },
	{ id: 'tube-25-2', name: 'square tube 25 x 2', section: squareTube(25, 2) },
	{ id: 'tube-40-3', name: 'square tube 40 x 3', section: squareTube(40, 3) },
	{ id: 'tube-60-4', name: 'square tube 60 x 4', section: squareTube(60, 4) },
	{ id: 'channel-40-20-3', name: 'channel 40 x 20 x 3, flanges down', section: channelBar(40, 20, 3) },
	{ id: 'channel-60-30-4', name: 'channel 60 x 30 x 4, flanges down', section: channelBar(60, 30, 4) }
];

/** The bar whose section a strongback has, if it is one of these. */
export const barOf = (h: Pick<Strongback, 'areaMm2' | 'iOutMm4'>) =>
	BAR_SECTIONS.find(({ section }) => Math.abs(section.areaMm2 - h.areaMm2) < 0.5 && Math.abs(section.iOutMm4 / h.iOutMm4 - 1) < 1e-3);
