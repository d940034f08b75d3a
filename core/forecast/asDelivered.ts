/**
 * Sheet is never quite flat before it is welded. How far each panel may be out of flat goes into the bands of the final shape: one half
 * wave over the panel, either way, whatever it then does to the piece (own choice: the lowest shape that sheet takes by itself).
 */
import type { Part, PlanDocument } from '../document/schema';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { nodeNormals, panelNames } from './panels';

/**
 * mm per m that a panel is out of flat where nobody has measured it, at 90 %: own estimate for cold-rolled sheet that was cut and bent with
 * care. As delivered three times as much is allowed (EN ISO 9445-2: 10 mm in 3 m; from memory).
 */
export const FLATNESS_MM_PER_M = 1;
/** Panels narrower than this are held straight by their bends and seams, mm. */
const NARROW_MM = 60;
/** Panels asked about, the largest first: each costs a solution, and the small ones hardly move. */
const MOST_PANELS = 10;

export interface Bump {
	label: string;
	/** 3 per node, mm: as far out as 90 % of such panels are at most */
	bump: Float64Array;
}

/** Of every flat panel that is wide enough. Nodes of seams stay: they are fitted to one another as they come. */
export function bumpsOf(plan: PlanDocument, mesh: AssemblyMesh): Bump[] {
	const normals = nodeNormals(mesh);
	const names = panelNames(mesh);
	const onSeam = new Set(mesh.seams.flatMap((s) => [...s.a, ...s.b]));
	const out: (Bump & { heightMm: number })[] = [];
	mesh.parts.forEach(({ part, node0, tri0, flat, panelCount }, index) => {
		if (isShaped(part)) return;
		const own = plan.parts.find((p) => p.id === part.id)!;
		const flatness = own.flatnessMmPerM ?? FLATNESS_MM_PER_M;
		if (flatness === 0) return;
		const nodes = Array.from({ length: panelCount }, () => new Set<number>());
		for (let e = tri0; e < mesh.triPart.length && mesh.triPart[e] === index; e++)
			for (let i = 0; i < 3; i++) nodes[mesh.triPanel[e]].add(mesh.tri[3 * e + i]);
		nodes.forEach((set, panel) => {
			const at = (k: number, d: 0 | 1) => flat.xy[2 * (k - node0) + d];
			const box = ([0, 1] as const).map((d) => {
				const v = [...set].map((k) => at(k, d));
				return [Math.min(...v), Math.max(...v)] as const;
			});
			const [w, h] = box.map(([lo, hi]) => hi - lo);
			if (Math.min(w, h) < NARROW_MM) return;
			const heightMm = (flatness * Math.max(w, h)) / 1000;
			const bump = new Float64Array(3 * mesh.nodeCount);
			for (const k of set) {
				if (onSeam.has(k)) continue;
				const wave = ([0, 1] as const).reduce((p, d) => p * Math.sin((Math.PI * (at(k, d) - box[d][0])) / (box[d][1] - box[d][0])), heightMm);
				for (let d = 0; d < 3; d++) bump[3 * k + d] = wave * normals[3 * k + d];
			}
			if (bump.some((v) => v !== 0)) out.push({ label: `how flat “${names(index, panel)}” was before`, bump, heightMm });
		});
	});
	return out
		.sort((p, q) => q.heightMm - p.heightMm)
		.slice(0, MOST_PANELS)
		.map(({ label, bump }) => ({ label, bump }));
}

/** Rolled, coned or dished: its shape is what it was made to, and no panel of it is flat. */
const isShaped = (part: Pick<Part, 'roll' | 'cone' | 'dish'>): boolean => Boolean(part.roll ?? part.cone ?? part.dish);
