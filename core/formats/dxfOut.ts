/** Blanks as DXF in mm: a layer each for outline, holes, bend lines and marks. */
import { DxfWriter, Units, point3d } from '@tarikjabiri/dxf';
import type { Vec2 } from '../geometry/vec';

export const DXF_LAYERS = {
	outline: 'OUTLINE',
	holes: 'HOLES',
	bends: 'BENDS',
	marks: 'MARKS',
	etchTacks: 'ETCH_TACKS',
	etchRuns: 'ETCH_RUNS',
	etchNames: 'ETCH_NAMES',
	pieceSeams: 'PIECE_SEAMS',
	pieceData: 'PIECE_DATA'
} as const;

/** Index colours: white, red, cyan, green; magenta, yellow and grey for what is etched. */
const COLOURS = { outline: 7, holes: 1, bends: 4, marks: 3, etchTacks: 6, etchRuns: 2, etchNames: 8, pieceSeams: 9, pieceData: 9 } as const;

export interface DxfMark {
	/** `marks` when absent */
	layer?: 'marks' | 'etchTacks' | 'etchRuns' | 'etchNames';
	from: Vec2;
	/** the same as `from` where only the text counts */
	to: Vec2;
	label?: string;
	textMm?: number;
}

export interface DxfDrawing {
	outline: readonly Vec2[];
	holes: readonly (readonly Vec2[])[];
	bends: readonly { from: Vec2; to: Vec2 }[];
	marks?: readonly DxfMark[];
	/** what makes it a part of a piece: seams on it, and what lines cannot say, as text (pieceNotes.ts) */
	piece?: { seams: readonly (readonly Vec2[])[]; notes: readonly string[] };
}

/** Height of text that is for programs, mm. */
const NOTE_MM = 0.5;

/** One drawing, or several in one file. */
export function writeDxf(drawings: DxfDrawing | readonly DxfDrawing[]): string {
	const w = new DxfWriter();
	w.setUnits(Units.Millimeters);
	for (const [key, name] of Object.entries(DXF_LAYERS)) w.addLayer(name, COLOURS[key as keyof typeof COLOURS], 'CONTINUOUS');
	const ring = (points: readonly Vec2[], layerName: string) =>
		w.addLWPolyline(
			points.map(([x, y]) => ({ point: { x, y } })),
			{ flags: 1, layerName }
		);
	const line = (a: Vec2, b: Vec2, layerName: string) => w.addLine(point3d(a[0], a[1], 0), point3d(b[0], b[1], 0), { layerName });
	for (const d of Array.isArray(drawings) ? (drawings as readonly DxfDrawing[]) : [drawings as DxfDrawing]) {
		ring(d.outline, DXF_LAYERS.outline);
		for (const h of d.holes) ring(h, DXF_LAYERS.holes);
		for (const b of d.bends) line(b.from, b.to, DXF_LAYERS.bends);
		for (const m of d.marks ?? []) {
			const layer = DXF_LAYERS[m.layer ?? 'marks'];
			if (m.from[0] !== m.to[0] || m.from[1] !== m.to[1]) line(m.from, m.to, layer);
			if (m.label) w.addText(point3d(m.to[0], m.to[1], 0), m.textMm ?? 4, m.label, { layerName: layer });
		}
		for (const s of d.piece?.seams ?? [])
			w.addLWPolyline(
				s.map(([x, y]) => ({ point: { x, y } })),
				{ flags: 0, layerName: DXF_LAYERS.pieceSeams }
			);
		const [x, y] = d.outline[0];
		for (const n of d.piece?.notes ?? []) w.addText(point3d(x, y, 0), NOTE_MM, n, { layerName: DXF_LAYERS.pieceData });
	}
	return w.stringify();
}
