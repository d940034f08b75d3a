/**
 * Heights read over a grid, or forecast there, as a map: a cell a place, coloured from as far below as above on one scale, with its
 * figure in it so that nothing hangs on the colour.
 */
import type { Vec3 } from '../geometry/vec';
import { bestPlane } from '../measure/flatness';
import { dot, scale, sub } from '../geometry/vec';

/** From below to above: even in lightness to either side, told apart with any colour vision (blue to amber). */
export const COLOURS = ['#214a6c', '#5a8fba', '#ccdae4', '#edede8', '#f3dba8', '#c48733', '#73450d'] as const;

/** mm that each place stands off the best plane through all, towards its front. @param heights row by row */
export function offPlane(heights: readonly number[], nx: number, [w, h]: readonly [number, number]): number[] {
	const ny = heights.length / nx;
	const points = heights.map((z, i): Vec3 => [(w * (i % nx)) / (nx - 1), (h * Math.floor(i / nx)) / (ny - 1), z]);
	const { centre, normal } = bestPlane(points);
	const up = normal[2] < 0 ? scale(normal, -1) : normal;
	return points.map((p) => dot(sub(p, centre), up));
}

/** Colour of a height on a scale that reaches `largest` either way. */
export function colourOf(height: number, largest: number): string {
	const share = largest > 0 ? Math.max(-1, Math.min(1, height / largest)) : 0;
	const at = ((share + 1) / 2) * (COLOURS.length - 1);
	const [low, high] = [Math.floor(at), Math.ceil(at)];
	const part = (hex: string, k: number) => parseInt(hex.slice(1 + 2 * k, 3 + 2 * k), 16);
	return `#${[0, 1, 2]
		.map((k) =>
			Math.round(part(COLOURS[low], k) + (at - low) * (part(COLOURS[high], k) - part(COLOURS[low], k)))
				.toString(16)
				.padStart(2, '0')
		)
		.join('')}`;
}

/** @param heights mm off the plane, row by row from the lower left @param widthPx of the picture */
export function heightMapSvg(heights: readonly number[], nx: number, [w, h]: readonly [number, number], largest: number, widthPx: number): string {
	const ny = heights.length / nx;
	const cellW = widthPx / nx;
	// in the panel's own proportions, never flatter than a figure needs
	const cellH = Math.max(14, Math.min(2 * cellW, (widthPx * h * nx) / (w * ny * nx)));
	const size = Math.min(9, cellW / 4);
	const cells = heights.map((v, i) => {
		const [x, y] = [(i % nx) * cellW, (ny - 1 - Math.floor(i / nx)) * cellH];
		const dark = Math.abs(v) > 0.6 * largest;
		return `<rect x="${x.toFixed(1)}" y="${y.toFixed(1)}" width="${cellW.toFixed(1)}" height="${cellH.toFixed(1)}" fill="${colourOf(v, largest)}" stroke="#fff" stroke-width="0.5"/><text x="${(x + cellW / 2).toFixed(1)}" y="${(y + cellH / 2 + 0.36 * size).toFixed(1)}" font-size="${size.toFixed(1)}" text-anchor="middle" fill="${dark ? '#fff' : '#000'}">${v > 0 ? '+' : ''}${v.toFixed(1)}</text>`;
	});
	const high = ny * cellH;
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx.toFixed(0)}" height="${high.toFixed(0)}" viewBox="0 0 ${widthPx.toFixed(0)} ${high.toFixed(0)}">${cells.join('')}</svg>`;
}
