/** What each tack bears until the arc melts it. No source tells at what strain a tack cracks, so strain and stress are told and no verdict. */
import type { HotGrid } from './grid';
import { LINK, type Link, type SeamLinks } from './links';
import type { HotSeam } from './seam';

export interface TackFate {
	atMm: number;
	/** MPa, greatest mean stress across it, and where the arc stood then (mm; null: it did not burn) */
	tensionMpa: number;
	arcMm: number | null;
	/** hardening strain beside it before the arc came within 20 mm */
	strain: number;
	isMelted: boolean;
	/** mm of seam that were welded before it melted, or all of them */
	livedMm: number;
}

/** The arc itself strains the metal beside a tack when it is this near, mm. */
const NEAR = 20;

export class TackWatch {
	readonly fates: TackFate[];
	private readonly links: Link[][];

	constructor(
		private readonly seam: HotSeam,
		private readonly grid: HotGrid,
		links: SeamLinks
	) {
		this.links = seam.tacks.map((_, k) => links.all.filter((l) => l.tack === k));
		this.fates = seam.tacks.map((t) => ({ atMm: t.atMm, tensionMpa: 0, arcMm: null, strain: 0, isMelted: false, livedMm: 0 }));
	}

	/** @param hardening strain by point; @param arcMm where the arc stands, if it burns; @param burntMm of seam so far */
	look(hardening: Float64Array, arcMm: number | null, burntMm: number): void {
		const { seam, grid } = this;
		const thickness = Math.min(...seam.sheets.map((s) => s.thicknessMm));
		this.fates.forEach((fate, k) => {
			const mine = this.links[k];
			if (fate.isMelted || !mine.length) return;
			if (mine.every((l) => l.isMelted)) {
				fate.isMelted = true;
				return;
			}
			fate.livedMm = burntMm;
			const whole = mine.filter((l) => l.state === LINK.joined && !l.isMelted);
			const length = whole.reduce((sum, l) => sum + l.length, 0);
			const tension = -whole.reduce((sum, l) => sum + l.force, 0) / (length * thickness);
			if (tension > fate.tensionMpa) {
				fate.tensionMpa = tension;
				fate.arcMm = arcMm;
			}
			if (arcMm !== null && Math.abs(arcMm - fate.atMm) <= NEAR) return;
			for (const l of whole)
				for (const e of elementsBeside(grid, l)) for (let g = 0; g < 4; g++) fate.strain = Math.max(fate.strain, hardening[4 * e + g]);
		});
	}
}

/** Elements of both sheets that touch a node of the seam. */
function elementsBeside(grid: HotGrid, l: Link): number[] {
	const ny = grid.y.length;
	const column = Math.floor(l.node / ny);
	const rows = grid.rows.flatMap(({ row }, r) => (row === grid.seamRow || row === grid.seamRow - 2 ? [r] : []));
	return [column - 1, column].filter((i) => i >= 0 && i < grid.x.length - 1).flatMap((i) => rows.map((r) => i * grid.rows.length + r));
}
