/** A strip of one seam at full size, to tape beside it: stations, tacks, run bounds, numbers and arrows. */
import { pathLength } from '../geometry/polyline';
import type { Joint, PlanDocument } from '../document/schema';

/** Height of a strip, mm. */
export const STRIP_MM = 24;

const text = (v: string) => v.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** What is drawn between two stations, in mm; the window's left end is x = 0. */
export function stripBody(plan: PlanDocument, joint: Joint, name: string, fromMm: number, toMm: number): string {
	const x = (mm: number) => (mm - fromMm).toFixed(2);
	const within = (mm: number) => mm >= fromMm - 1e-6 && mm <= toMm + 1e-6;
	const parts: string[] = [
		`<rect x="0" y="0" width="${(toMm - fromMm).toFixed(2)}" height="${STRIP_MM}" fill="#fff" stroke="#000" stroke-width="0.2"/>`
	];
	for (let s = Math.ceil(fromMm / 5) * 5; s <= toMm + 1e-6; s += 5) {
		const long = s % 50 === 0 ? 5 : s % 10 === 0 ? 3.2 : 1.8;
		parts.push(`<path d="M${x(s)} ${STRIP_MM}v-${long}" stroke="#000" stroke-width="0.2"/>`);
		if (s % 50 === 0 && s > fromMm + 3 && s < toMm - 3)
			parts.push(`<text x="${x(s)}" y="${STRIP_MM - 5.6}" font-size="3.2" text-anchor="middle">${s}</text>`);
	}
	for (const t of plan.tacks) {
		if (t.joint !== joint.id || !within(t.stationMm)) continue;
		parts.push(`<circle cx="${x(t.stationMm)}" cy="13.5" r="1.3" fill="${t.stage === 1 ? '#000' : '#fff'}" stroke="#000" stroke-width="0.3"/>`);
	}
	plan.runs.forEach((r, i) => {
		if (r.joint !== joint.id) return;
		const [lo, hi] = [Math.max(fromMm, Math.min(r.fromMm, r.toMm)), Math.min(toMm, Math.max(r.fromMm, r.toMm))];
		if (hi - lo < 0.5) return;
		const d = r.toMm > r.fromMm ? 1 : -1;
		for (const b of [r.fromMm, r.toMm]) if (within(b)) parts.push(`<path d="M${x(b)} 4.5v7" stroke="#000" stroke-width="0.4"/>`);
		const [tail, tip] = d > 0 ? [lo + 1.5, hi - 1.5] : [hi - 1.5, lo + 1.5];
		parts.push(
			`<path d="M${x(tail)} 9H${x(tip)}m${-d * 2.4} -1.4l${d * 2.4} 1.4l${-d * 2.4} 1.4" fill="none" stroke="#000" stroke-width="0.5"/>`,
			`<text x="${x((lo + hi) / 2)}" y="7.6" font-size="4" font-weight="bold" text-anchor="middle">${i + 1}</text>`
		);
	});
	parts.push(`<text x="1" y="3.4" font-size="3" font-weight="bold">${text(name)}${fromMm > 0 ? `, from ${fromMm} mm` : ', datum end'}</text>`);
	return parts.join('');
}

/** One seam as an SVG whose sizes are true when printed at 100 %. */
export function stripSvg(plan: PlanDocument, joint: Joint, name: string): string {
	const length = pathLength(joint.a.path);
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${length.toFixed(2)}mm" height="${STRIP_MM}mm" viewBox="0 0 ${length.toFixed(2)} ${STRIP_MM}" font-family="sans-serif">${stripBody(plan, joint, name, 0, length)}</svg>`;
}

/** Cuts a seam in windows that fit on a sheet, each next one beginning where the last ended. */
export function stripWindows(lengthMm: number, mostMm: number): [number, number][] {
	const n = Math.max(1, Math.ceil(lengthMm / mostMm - 1e-9));
	// whole tens, so that a window begins on a mark
	const each = n === 1 ? lengthMm : Math.floor(mostMm / 10) * 10;
	const out: [number, number][] = [];
	for (let at = 0; at < lengthMm - 1e-6; at += each) out.push([at, Math.min(lengthMm, at + each)]);
	return out;
}
