import { isInside, pathLength, segmentDistance } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { Bar, HoldingTable, Part } from '../document/schema';
import { findMaterial, type MaterialGroup } from '../materials/grades';
import { NO_LINE, type HoldKind } from './hold';

/** A place keeps this far from edges and holes, mm: nothing is drawn down at an edge. */
const CLEAR_MM = 5;
/** How far heat spreads in the top beside a seam while a run passes: a wider top takes no more, mm (own estimate). */
export const TOP_WIDTH_MM = 150;
/** Conductivity W/(mm.K) and heat capacity J/(mm3.K) of the top (handbook values of ordinary grades, from memory). */
export const TOPS = { aluminium: { conductivity: 0.15, rhoC: 0.0024 }, steel: { conductivity: 0.05, rhoC: 0.0038 } };

/** Groups a magnet draws: ferritic, wholly or by half. */
const MAGNETIC: readonly MaterialGroup[] = ['carbon-steel', 'duplex'];

/** Lies with the whole of one face on a plane. */
export const isFlatSheet = (p: Part): boolean => !p.bends.length && !p.roll && !p.cone && !p.dish && !p.crossBreaks?.length;

/** Where it holds each of its parts: a grid, as far apart as it says. */
export function placesOnTable(h: HoldingTable, parts: readonly Part[]): { part: string; at: Vec2 }[] {
	return h.parts.flatMap((id) => {
		const part = parts.find((p) => p.id === id);
		if (!part) return [];
		const rings = [part.outline, ...part.holes];
		const isClear = (at: Vec2) =>
			isInside(at, part.outline) &&
			part.holes.every((hole) => !isInside(at, hole)) &&
			rings.every((ring) => ring.every((p, i) => segmentDistance(at, p, ring[(i + 1) % ring.length]) >= CLEAR_MM));
		const axis = (d: 0 | 1) => {
			const values = part.outline.map((p) => p[d]);
			const [lo, hi] = [Math.min(...values), Math.max(...values)];
			const n = Math.max(1, Math.round((hi - lo) / h.pitchMm));
			return Array.from({ length: n }, (_, i) => lo + ((hi - lo) * (i + 0.5)) / n);
		};
		return axis(1).flatMap((y) => axis(0).flatMap((x) => (isClear([x, y]) ? [{ part: id, at: [x, y] as Vec2 }] : [])));
	});
}

export const holdingTable: HoldKind<'holding-table'> = {
	name: 'Holding table',
	on: 'part',
	spots: (h, plan) => placesOnTable(h, plan.parts).map((p, i) => ({ id: `${h.id}/${i}`, ...p })),
	parts: (h) => h.parts,
	line: NO_LINE,
	// the piece is lifted off it
	hands: () => [],
	grips: (h, plan) =>
		placesOnTable(h, plan.parts).map((_, i) => ({ by: 'spot', spot: `${h.id}/${i}`, directions: 'normal', stiffnessNPerMm: h.stiffnessNPerMm })),
	// a seam between two sheets that both lie on it has the top behind it all along
	blocks: (h, plan) =>
		plan.joints
			.filter((j) => [j.a.part, j.b.part].every((p) => h.parts.includes(p)))
			.map((j): Bar => ({
				id: h.id,
				name: h.name,
				kind: 'bar',
				life: h.life,
				joint: j.id,
				fromMm: 0,
				toMm: pathLength(j.a.path),
				material: 'own',
				metal: TOPS[h.material],
				widthMm: TOP_WIDTH_MM,
				thicknessMm: h.thicknessMm,
				contact: h.contact
			})),
	isGripUncertain: true,
	check(h, c) {
		h.parts.forEach((id, k) => {
			const part = c.plan.parts.find((p) => p.id === id);
			if (!part) c.add(`parts[${k}]`, id, 'must be the id of a part');
			else if (!isFlatSheet(part)) c.add(`parts[${k}]`, id, `must be a flat sheet: “${part.name}” is folded, rolled or dished`);
			else if (h.by === 'magnet' && !MAGNETIC.includes(findMaterial(part.material, c.plan.materials).group))
				c.add('by', h.by, `must be vacuum: “${part.name}” is of ${part.material}, which no magnet holds`);
		});
		if (!h.parts.length) c.add('parts', 'none', 'must name a sheet that lies on it: take the table off where there is none');
		else if (!placesOnTable(h, c.plan.parts).length) c.add('pitchMm', h.pitchMm, 'must leave at least one place to hold on its parts');
	},
	where: (h, w) =>
		`${h.parts.map((p) => w.part(p)).join(', ')}, held flat by ${h.by === 'vacuum' ? 'vacuum' : 'magnets'} every ${w.length(h.pitchMm)}; ${h.material} top, ${w.length(h.thicknessMm)}, contact ${h.contact}`
};
