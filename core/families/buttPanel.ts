/** Flat panel of two or more blanks in a row, butt welded. Blanks lie side by side along x; seams run along y. */
import type { Vec2 } from '../geometry/vec';
import { angleTolerance, formTolerance, linearTolerance } from '../measure/iso13920';
import type { AnyFeature, Joint, NamedPoint, Part } from '../document/schema';
import { SHEET, length, type FamilyRecord, type Generated } from './family';

export interface ButtPanel {
	/** widths of the blanks, left to right */
	widthsMm: number[];
	/** length of the seams */
	lengthMm: number;
	thicknessMm: number;
	material: string;
}

// eslint-disable-next-line max-lines-per-function -- a drawing, told from its first sheet to its last feature
function make(p: ButtPanel): Generated {
	const parts: Part[] = [];
	const joints: Joint[] = [];
	const points: NamedPoint[] = [];
	const features: AnyFeature[] = [];
	const L = p.lengthMm;
	const total = p.widthsMm.reduce((s, w) => s + w, 0);
	let x = 0;
	p.widthsMm.forEach((w, i) => {
		const id = `blank-${i + 1}`;
		const outline: Vec2[] = [
			[0, 0],
			[w, 0],
			[w, L],
			[0, L]
		];
		parts.push({
			id,
			name: `Blank ${i + 1}`,
			material: p.material,
			thicknessMm: p.thicknessMm,
			outline,
			holes: [],
			bends: [],
			frame: { origin: [x, 0, 0], x: [1, 0, 0], y: [0, 1, 0] }
		});
		const far = Math.min(w, L) / 3;
		// one face per blank, well away from the seams
		for (const [k, at] of (
			[
				[w / 2 - far, L / 2 - far / 2],
				[w / 2 + far, L / 2 - far / 2],
				[w / 2, L / 2 + far]
			] as Vec2[]
		).entries())
			points.push({ id: `face-${i + 1}-${k + 1}`, name: `Blank ${i + 1}, face point ${k + 1}`, part: id, at });
		const inset = Math.min(w, L) * 0.08;
		features.push({
			id: `flat-${i + 1}`,
			name: `Blank ${i + 1} flatness`,
			kind: 'flatness',
			part: id,
			at: [inset, inset],
			size: [w - 2 * inset, L - 2 * inset],
			nx: 4,
			ny: 5,
			tolerance: { upper: formTolerance('F', Math.min(4000, Math.max(w, L))), source: 'ISO 13920-F' }
		});
		if (i > 0) {
			const before = p.widthsMm[i - 1];
			joints.push({
				id: `s${i}`,
				name: `Seam ${i}`,
				type: 'butt',
				a: {
					part: `blank-${i}`,
					path: [
						[before, 0],
						[before, L]
					]
				},
				b: {
					part: id,
					path: [
						[0, 0],
						[0, L]
					]
				},
				gapMm: 0,
				gapMeasured: false,
				presetDeg: 0,
				penetration: 'full',
				filler: false,
				weldSide: 'front',
				settings: 'main'
			});
			const a = angleTolerance('B', Math.min(before, w));
			features.push({
				id: `angle-${i}`,
				name: `Angle across seam ${i}`,
				kind: 'angle',
				faceA: [1, 2, 3].map((k) => `face-${i}-${k}`),
				faceB: [1, 2, 3].map((k) => `face-${i + 1}-${k}`),
				tolerance: { upper: a, lower: -a, source: 'ISO 13920-B' }
			});
			features.push({
				id: `bow-${i}`,
				name: `Seam ${i} straightness`,
				kind: 'straightness',
				part: `blank-${i}`,
				path: [
					[before, 0],
					[before, L]
				],
				n: 9,
				tolerance: { upper: formTolerance('F', Math.min(4000, L)), source: 'ISO 13920-F' }
			});
		}
		x += w;
	});
	const last = parts[parts.length - 1];
	const lastWidth = p.widthsMm[p.widthsMm.length - 1];
	const corner = (id: string, name: string, part: string, at: Vec2) => points.push({ id, name, part, at });
	corner('c-bl', 'Corner, datum left', 'blank-1', [0, 0]);
	corner('c-br', 'Corner, datum right', last.id, [lastWidth, 0]);
	corner('c-tr', 'Corner, far right', last.id, [lastWidth, L]);
	corner('c-tl', 'Corner, far left', 'blank-1', [0, L]);
	corner('m-l', 'Left edge, middle', 'blank-1', [0, L / 2]);
	corner('m-r', 'Right edge, middle', last.id, [lastWidth, L / 2]);
	const tol = linearTolerance('B', Math.min(4000, total));
	features.push(
		{
			id: 'width',
			name: 'Width at mid-length',
			kind: 'length',
			points: ['m-l', 'm-r'],
			tolerance: { upper: tol, lower: -tol, source: 'ISO 13920-B' }
		},
		{
			id: 'square',
			name: 'Squareness (diagonals)',
			kind: 'squareness',
			points: ['c-bl', 'c-br', 'c-tr', 'c-tl'],
			tolerance: { upper: tol, source: 'ISO 13920-B, as a length' }
		},
		{
			id: 'twist',
			name: 'Twist of the panel',
			kind: 'twist',
			points: ['c-bl', 'c-br', 'c-tr', 'c-tl'],
			tolerance: { upper: formTolerance('F', Math.min(4000, Math.max(total, L))), source: 'ISO 13920-F' }
		}
	);
	return { parts, joints, points, features, datum: { origin: 'c-bl', axis: 'c-br', plane: 'c-tl' }, trueJoint: 's1' };
}

export const buttPanel: FamilyRecord = {
	name: 'Flat panel, butt welded',
	says: 'Blanks side by side',
	sizes: ['widthsMm', 'lengthMm'],
	fields: [
		length('lengthMm', 'Length of the seams', 20, 4000),
		{ kind: 'lengths', name: 'widthsMm', label: 'Blanks', each: 'Width of blank', min: 10, max: 4000, atLeast: 2, atMost: 8 },
		{ kind: 'word', name: 'fit', label: 'Fitted', options: { cut: 'cut to size', trimmed: 'overlapped, then trimmed to fit' } }
	],
	defaults: { ...SHEET, widthsMm: [250, 250], lengthMm: 500, fit: 'cut' },
	fits: [],
	make
};
