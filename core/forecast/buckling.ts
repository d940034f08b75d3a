/**
 * Plate-buckling margin by formula, panel by panel: what the linear method cannot show. A seam's tendon force is answered by
 * compression in the panel beside it; the panel waves when that passes its critical force (Timoshenko & Gere 1961, chapter 9).
 */
import { JOINTS } from '../joints';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { nodeAt } from '../shell/model';
import { cross, norm, sub } from '../geometry/vec';
import type { SheetMaterial } from '../shell/triangle';
import { panelNames } from './panels';
import { shareOfA } from '../staging/condense';
import type { PlanDocument } from '../document/schema';

export interface PanelMargin {
	part: string;
	panel: number;
	label: string;
	/** by formula only: compression the seams put into it, and at which it would wave, N */
	force?: number;
	critical?: number;
	/** the welds' pull over what the panel bears: above 1 it waves */
	ratio: number;
	words: string;
}

/** Panels closer than this to their critical force are worth a line. */
const SHOW_FROM = 0.3;
/** Length of the seams over the panel's width, below which the formula does not hold. */
const SHORTEST_SEAM = 0.75;

export function bucklingMargins(plan: PlanDocument, mesh: AssemblyMesh, sheets: SheetMaterial[], forceOfSeam: readonly number[]): PanelMargin[] {
	// size of each panel and which of its nodes are on seams or folds
	const panels = new Map<string, { part: number; panel: number; area: number; nodes: Set<number> }>();
	const panelsOfNode = new Map<number, Set<string>>();
	for (let e = 0; e < mesh.triPart.length; e++) {
		const key = `${mesh.triPart[e]}/${mesh.triPanel[e]}`;
		const p = panels.get(key) ?? { part: mesh.triPart[e], panel: mesh.triPanel[e], area: 0, nodes: new Set<number>() };
		const [a, b, c] = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i]));
		p.area += norm(cross(sub(b, a), sub(c, a))) / 2;
		for (let i = 0; i < 3; i++) {
			const k = mesh.tri[3 * e + i];
			p.nodes.add(k);
			const set = panelsOfNode.get(k) ?? new Set<string>();
			set.add(key);
			panelsOfNode.set(k, set);
		}
		panels.set(key, p);
	}
	const out: PanelMargin[] = [];
	for (const p of panels.values()) {
		let force = 0;
		let along = 0;
		let corners = 0;
		mesh.seams.forEach((seam, k) => {
			const share = shareOfA(plan, seam);
			for (const [nodes, part] of [
				[seam.a, share],
				[seam.b, 1 - share]
			] as const) {
				const on = Array.from(nodes).filter((n) => p.nodes.has(n)).length;
				if (on < 0.5 * nodes.length) continue;
				if (partOfNode(mesh, nodes[0]) !== p.part) continue;
				force += forceOfSeam[k] * part;
				along = Math.max(along, seam.lengthMm);
				if (seam.edgeA && seam.edgeB && !JOINTS[seam.joint.type].isFlat) corners++;
			}
		});
		if (force === 0 || along === 0) continue;
		const sheet = sheets[p.part];
		const width = p.area / along;
		// a seam shorter than the panel is wide presses its own end only: the formula for evenly pressed plates says nothing there
		if (along < SHORTEST_SEAM * width) continue;
		const folds = [...p.nodes].some((n) => panelsOfNode.get(n)!.size > 1) ? 1 : 0;
		// held on both long sides by folds or corners: k = 4; on one: 0.425 + (b/a)^2; a lone flat sheet with a seam: 2.8 (own Ritz value for 400 x 300)
		const held = corners + folds >= 2 ? 'both sides' : corners + folds === 1 ? 'one side' : 'none';
		const k = held === 'both sides' ? 4 : held === 'one side' ? 0.425 + (width / along) ** 2 : 2.8;
		const critical =
			((k * Math.PI ** 2 * sheet.eModulus) / (12 * (1 - sheet.poisson ** 2))) * (sheet.thickness / width) ** 2 * width * sheet.thickness;
		const ratio = force / critical;
		if (ratio < SHOW_FROM) continue;
		const name = panelNames(mesh)(p.part, p.panel);
		out.push({
			part: mesh.parts[p.part].part.id,
			panel: p.panel,
			label: name,
			force,
			critical,
			ratio,
			words:
				ratio > 1 ? `${name} will wave: ${ratio.toFixed(1)} times past its limit` : `${name} holds, at ${(100 * ratio).toFixed(0)} % of its limit`
		});
	}
	return out.sort((a, b) => b.ratio - a.ratio);
}

const partOfNode = (mesh: AssemblyMesh, node: number) => {
	let i = mesh.parts.length - 1;
	while (mesh.parts[i].node0 > node) i--;
	return i;
};
