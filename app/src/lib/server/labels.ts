/** Labels to stick or tie to each part of each piece: which part of which piece it is, and which of its edges is which seam. */
import type { Content, TableCell } from 'pdfmake/interfaces';
import { flatPartSvg, seamsOfPart } from '$core/draw/flatPart';
import type { Part, PlanDocument } from '$core/document/schema';
import { seamLetters } from '$core/layout/seamNames';
import { findMaterial } from '$core/materials/grades';
import { formatLength, type LengthUnit } from '$core/units/length';
import { render, type SheetHead } from './pdf';

/** Of a label, points: two beside each other and five below on a page. */
const HIGH = 126;
const PICTURE = { width: 118, height: 106 };

const extent = (values: readonly number[]) => Math.max(...values) - Math.min(...values);

/** What one part's label says on every piece. */
function labelOf(part: Part, head: SheetHead, plan: PlanDocument, unit: LengthUnit): (serial: string) => TableCell {
	const letters = seamLetters(plan.joints);
	const seams = seamsOfPart(part, plan);
	const size = [part.outline.map((p) => p[0]), part.outline.map((p) => p[1])].map((v) => formatLength(extent(v), unit, 1)).join(' x ');
	const svg = flatPartSvg(part, plan, PICTURE.width, PICTURE.height);
	return (serial) => ({
		columns: [
			{
				width: '*',
				stack: [
					{ text: part.name, bold: true, fontSize: 13 },
					{ text: serial, bold: true, fontSize: 11, margin: [0, 1, 0, 2] },
					{ text: `${head.job}, revision ${head.revision}`, fontSize: 8 },
					{ text: `${size}, ${formatLength(part.thicknessMm, unit, 2)}, ${findMaterial(part.material, plan.materials).name}`, fontSize: 8 },
					{ text: part.heatNumber ? `heat ${part.heatNumber}` : 'heat ________________', fontSize: 8, margin: [0, 2, 0, 2] },
					{
						text: seams.length ? seams.map((j) => `${letters.get(j.id)} ${j.name}`).join('; ') : 'no seam on it',
						fontSize: seams.length > 6 ? 6 : 7.5
					}
				]
			},
			{ width: PICTURE.width, stack: [{ svg }] }
		],
		columnGap: 6
	});
}

export function labelsSheet(head: SheetHead, plan: PlanDocument, serials: readonly string[], unit: LengthUnit) {
	const labels = plan.parts.map((part) => labelOf(part, head, plan, unit));
	const cells = serials.flatMap((serial) => labels.map((label) => label(serial)));
	const rows = Array.from({ length: Math.ceil(cells.length / 2) }, (_, i) => [cells[2 * i], cells[2 * i + 1] ?? { text: '' }]);
	const content: Content[] = [
		{ text: 'Cut along the lines. A part is drawn as it is cut; thick edges are its seams, by the letters of the other sheets.', fontSize: 9 },
		{ table: { widths: ['*', '*'], heights: HIGH, dontBreakRows: true, body: rows }, margin: [0, 6, 0, 0] }
	];
	return render(head, content);
}
