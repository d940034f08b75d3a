/** How far each sheet of the piece stands off its drawing, coloured on the piece itself: towards its front in one colour, towards its back in another. */
import { cross, dot, norm, sub, unit, type Vec3 } from '../geometry/vec';
import type { PartsMesh } from '../mesh/partsMesh';
import { nodeAt } from '../shell/model';
import { colourOf, COLOURS } from './heightMap';
import { onPage, viewOf, type Turn } from './view';

/** mm that each triangle has moved along its normal. @param u 3 per node */
export function offDrawing(mesh: PartsMesh, u: Float64Array | Float32Array): Float64Array {
	return Float64Array.from({ length: mesh.tri.length / 3 }, (_, e) => {
		const k = [0, 1, 2].map((i) => mesh.tri[3 * e + i]);
		const n = normalOf(mesh, k);
		return k.reduce((s, i) => s + dot(n, [u[3 * i], u[3 * i + 1], u[3 * i + 2]]), 0) / 3;
	});
}

function normalOf(mesh: PartsMesh, [a, b, c]: readonly number[]): Vec3 {
	const n = cross(sub(nodeAt(mesh.xyz, b), nodeAt(mesh.xyz, a)), sub(nodeAt(mesh.xyz, c), nodeAt(mesh.xyz, a)));
	return norm(n) > 0 ? unit(n) : [0, 0, 0];
}

/**
 * The piece as it is drawn, far triangles first, each in the colour of `off`.
 * @param off mm by triangle @param largest mm either way where the colours end
 */
export function fieldMapSvg(mesh: PartsMesh, off: ArrayLike<number>, largest: number, turn: Turn, widthPx: number): string {
	const view = viewOf('top', turn);
	const page = Array.from({ length: mesh.nodeCount }, (_, i) => onPage(view, nodeAt(mesh.xyz, i)));
	const depth = Array.from({ length: mesh.nodeCount }, (_, i) => dot(nodeAt(mesh.xyz, i), view.eye));
	const [x0, y0] = [0, 1].map((d) => page.reduce((least, p) => Math.min(least, p[d]), Infinity));
	const [w, h] = [0, 1].map((d) => page.reduce((most, p) => Math.max(most, p[d]), -Infinity) - (d ? y0 : x0));
	const k = widthPx / Math.max(w, h / 0.8);
	const corners = (e: number) => [0, 1, 2].map((i) => mesh.tri[3 * e + i]);
	const order = Array.from(off, (_, e) => e).sort((p, q) => deepness(corners(p), depth) - deepness(corners(q), depth));
	const shown = order.map((e) => {
		const colour = colourOf(off[e], largest);
		const d = corners(e)
			.map((i) => `${(k * (page[i][0] - x0)).toFixed(1)} ${(k * (page[i][1] - y0)).toFixed(1)}`)
			.join('L');
		// a hair of the same colour closes the joints between them
		return `<path d="M${d}Z" fill="${colour}" stroke="${colour}" stroke-width="0.6"/>`;
	});
	const [wide, high] = [Math.ceil(k * w), Math.ceil(k * h)];
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${wide}" height="${high}" viewBox="-1 -1 ${wide + 2} ${high + 2}">${shown.join('')}</svg>`;
}

/** What the colours mean, in figures. @param length a length in words */
export function fieldScaleSvg(largest: number, widthPx: number, length: (mm: number) => string): string {
	const cell = widthPx / COLOURS.length;
	const cells = COLOURS.map((c, i) => `<rect x="${(i * cell).toFixed(1)}" y="0" width="${cell.toFixed(1)}" height="8" fill="${c}"/>`);
	const ends = [
		[0, 'start', `-${length(largest)}`],
		[widthPx / 2, 'middle', '0'],
		[widthPx, 'end', `+${length(largest)}`]
	].map(([x, anchor, words]) => `<text x="${x}" y="18" font-size="8" text-anchor="${anchor}">${words}</text>`);
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="20" viewBox="0 0 ${widthPx} 20">${[...cells, ...ends].join('')}</svg>`;
}

const deepness = (corners: readonly number[], depth: readonly number[]) => corners.reduce((s, i) => s + depth[i], 0);
