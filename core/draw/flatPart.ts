/** A sheet as it is cut: outline, holes, bends dashed, seams thick with their letters. For labels. */
import type { Part, PlanDocument } from '../document/schema';
import { isClosed, pathLength, pointAt, ringMiddle } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { seamLetters } from '../layout/seamNames';

const path = (points: readonly Vec2[]) => `M${points.map(([x, y]) => `${x.toFixed(1)} ${(-y).toFixed(1)}`).join('L')}`;
/** White left round the sheet for the letters outside it, and their height, px. */
const MARGIN = 17;
const LETTER = 11;

/** Seams that this sheet has a side of, in the order of their letters. */
export const seamsOfPart = (part: Pick<Part, 'id'>, plan: PlanDocument) =>
	plan.joints.filter((j) => !j.stock && (j.a.part === part.id || j.b.part === part.id));

interface LetterPlace {
	at: Vec2;
	away: Vec2;
}
/** Square to the seam and away from the sheet's middle: outside of the sheet where the seam is an edge of it. */
function besideLine(path: readonly Vec2[], centre: Vec2): LetterPlace {
	const at = pointAt(path, pathLength(path) / 2);
	const [p, q] = [path[0], path[path.length - 1]];
	const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
	const across: Vec2 = [(p[1] - q[1]) / l, (q[0] - p[0]) / l];
	const sign = across[0] * (at[0] - centre[0]) + across[1] * (at[1] - centre[1]) < 0 ? -1 : 1;
	return { at, away: [sign * across[0], sign * across[1]] };
}
/** To the right of an opening that the seam goes round. */
function besideRing(path: readonly Vec2[]): LetterPlace {
	const [, y] = ringMiddle(path);
	return { at: [Math.max(...path.map((p) => p[0])), y], away: [1, 0] };
}

/** @param widthPx of the picture at most, @param heightPx at most; its shape is the sheet's */
export function flatPartSvg(part: Part, plan: PlanDocument, widthPx: number, heightPx: number): string {
	const [xs, ys] = [part.outline.map((p) => p[0]), part.outline.map((p) => -p[1])];
	const [x0, y0, w, h] = [Math.min(...xs), Math.min(...ys), Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
	const px = Math.max(w / (widthPx - 2 * MARGIN), h / (heightPx - 2 * MARGIN));
	const margin = MARGIN * px;
	const [wide, high] = [w + 2 * margin, h + 2 * margin];
	const size = LETTER * px;
	const letters = seamLetters(plan.joints);
	const centre: Vec2 = [x0 + w / 2, -(y0 + h / 2)];
	const pieces = [
		`<path d="${[part.outline, ...part.holes].map((ring) => `${path(ring)}Z`).join('')}" fill="none" stroke="#000" stroke-width="${px.toFixed(2)}"/>`,
		...part.bends.map(
			(b) =>
				`<path d="${path([b.from, b.to])}" stroke="#000" stroke-width="${(0.7 * px).toFixed(2)}" stroke-dasharray="${(4 * px).toFixed(1)}" fill="none"/>`
		),
		...seamsOfPart(part, plan).flatMap((j) =>
			[j.a, j.b]
				.filter((side) => side.part === part.id)
				.map((side) => {
					const place = isClosed(side.path) ? besideRing(side.path) : besideLine(side.path, centre);
					const at: Vec2 = [place.at[0] + 0.85 * size * place.away[0], place.at[1] + 0.85 * size * place.away[1]];
					const letter = `<text x="${at[0].toFixed(1)}" y="${(-at[1] + 0.36 * size).toFixed(1)}" font-size="${size.toFixed(1)}" font-weight="bold" text-anchor="middle"`;
					return `<path d="${path(side.path)}" fill="none" stroke="#000" stroke-width="${(2.4 * px).toFixed(2)}"/>${letter} fill="#fff" stroke="#fff" stroke-width="${(3 * px).toFixed(1)}">${letters.get(j.id)}</text>${letter}>${letters.get(j.id)}</text>`;
				})
		)
	];
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${(wide / px).toFixed(0)}" height="${(high / px).toFixed(0)}" viewBox="${(x0 - margin).toFixed(1)} ${(y0 - margin).toFixed(1)} ${wide.toFixed(1)} ${high.toFixed(1)}">${pieces.join('')}</svg>`;
}
