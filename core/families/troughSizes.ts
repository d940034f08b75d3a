/** What a trough, tray or tank is made from. */
export const TROUGH_BODIES = ['u-body', 'cross-blank', 'five-plates'] as const;
export type TroughBody = (typeof TROUGH_BODIES)[number];

export interface OpenTrough {
	lengthMm: number;
	widthMm: number;
	depthMm: number;
	thicknessMm: number;
	material: string;
	/** u-body: bottom and long sides folded, ends welded on; cross-blank: folded from one, four corner seams; five-plates: nothing folded */
	body: TroughBody;
	/** outward return flange round the rim, 0 for none */
	rimFlangeMm: number;
	bendRadiusMm: number;
	baffles: number;
	baffleHeightMm: number;
	crossBreakMm: number;
	stiffeners: number;
	portMm: number;
	sumpMm: number;
	lid: boolean;
}
