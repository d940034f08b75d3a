/**
 * A line drawing of the piece as it lies, hidden lines taken out: edges of its sheets, creases and outlines of what is rolled, each
 * short length asked by a ray whether anything stands before it. Seams are laid over it with their letters and stations.
 */
import { meetingAt, type SheetTree } from '../geometry/sheetTree';
import { add, cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import { seamLetters } from '../layout/seamNames';
import type { Up } from '../layout/positions';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { sheetTrees } from '../mesh/sheetTrees';
import type { SeamMesh } from '../mesh/seamMesh';
import { nodeAt } from '../shell/model';
import { onPage, TURNS, viewOf, type Turn, type View } from './view';

export interface SeamLine {
	joint: string;
	letter: string;
	/** on the page, from the datum end, with the station of each */
	points: [number, number][];
	stations: number[];
	/** across it on the page, away from the piece: where the letter stands */
	out: [number, number];
	/** enough of it is seen to name it */
	isSeen: boolean;
}

export interface LineDrawing {
	/** page units are mm of the piece, from its upper left */
	width: number;
	height: number;
	/** polylines that are seen */
	lines: [number, number][][];
	seams: SeamLine[];
	/** of the page in the view it was drawn from: a place's own page point less this is where it stands */
	origin: [number, number];
}

/** Panels of one sheet that meet at more than this make a crease, degrees: a cross-break is no line. */
const CREASE_DEG = 12;
/** Of a seam, the share that must be seen for its letter to stand. */
const NAMED = 0.3;
/** A ray starts this far off, as a share of the piece's size: clear of the sheets that meet at the edge. */
const OFF = 2e-3;
/** An edge is asked this far inside its sheet, mm. */
const INSIDE = 1;
/** White left round the drawing, share of its longer side. */
const MARGIN = 0.1;

export class PieceDrawer {
	private readonly trees: SheetTree[];
	private readonly size: number;
	private readonly letters: ReadonlyMap<string, string>;
	private readonly edges: Edge[];

	constructor(private readonly mesh: AssemblyMesh) {
		const edges = new Map<string, Edge>();
		for (let e = 0; e < mesh.triPart.length; e++) {
			const k = [0, 1, 2].map((i) => mesh.tri[3 * e + i]);
			const t = k.map((n) => nodeAt(mesh.xyz, n)) as [Vec3, Vec3, Vec3];
			const normal = unit(cross(sub(t[1], t[0]), sub(t[2], t[0])));
			for (let i = 0; i < 3; i++) {
				const [a, b] = [k[i], k[(i + 1) % 3]].sort((p, q) => p - q);
				const edge = edges.get(`${a}/${b}`) ?? { part: mesh.triPart[e], a, b, normals: [], panels: [], inside: [] };
				edge.normals.push(normal);
				edge.panels.push(mesh.triPanel[e]);
				const middle = scale(add(nodeAt(mesh.xyz, a), nodeAt(mesh.xyz, b)), 0.5);
				const inwards = sub(t[(i + 2) % 3], middle);
				edge.inside.push(add(middle, scale(inwards, INSIDE / Math.max(1, norm(inwards)))));
				edges.set(`${a}/${b}`, edge);
			}
		}
		this.edges = [...edges.values()];
		const { trees, size } = sheetTrees(mesh);
		this.trees = trees;
		this.size = size;
		this.letters = seamLetters(mesh.seams.map((s) => s.joint));
	}

	/** @param standing indices of the parts that are on */
	draw(lies: Up, turn: Turn, standing?: ReadonlySet<number>): LineDrawing {
		return this.drawFrom(viewOf(lies, turn), standing);
	}
	/** From any side, without perspective. */
	drawFrom(view: View, standing: ReadonlySet<number> = new Set(this.mesh.parts.keys())): LineDrawing {
		const drawn = this.edges.filter((e) => standing.has(e.part) && isDrawn(e, view));
		const seen = chained(drawn.filter((e) => e.inside.some((p) => this.isSeen(p, view, standing))).map((e): [number, number] => [e.a, e.b]));
		const lines = seen.map((chain) => straightened(chain.map((k) => onPage(view, this.at(k)))));
		const seams = this.mesh.seams
			.filter(
				(s) => !s.joint.stock && [s.joint.a, s.joint.b].every((side) => standing.has(this.mesh.parts.findIndex((p) => p.part.id === side.part)))
			)
			.map((s) => this.seamLine(s, view, standing));
		const all = [...lines.flat(), ...seams.flatMap((s) => s.points)];
		const [x0, y0] = [Math.min(...all.map((p) => p[0])), Math.min(...all.map((p) => p[1]))];
		const [w, h] = [Math.max(...all.map((p) => p[0])) - x0, Math.max(...all.map((p) => p[1])) - y0];
		const margin = MARGIN * Math.max(w, h);
		const moved = ([x, y]: [number, number]): [number, number] => [round(x - x0 + margin), round(y - y0 + margin)];
		return {
			width: round(w + 2 * margin),
			height: round(h + 2 * margin),
			lines: lines.map((l) => l.map(moved)),
			seams: seams.map((s) => ({ ...s, points: s.points.map(moved) })),
			origin: [x0 - margin, y0 - margin]
		};
	}

	/** Where a place of the piece stands on a drawing that was made from this side. */
	static placeOn(d: LineDrawing, lies: Up, turn: Turn, at: Vec3): [number, number] {
		const [x, y] = onPage(viewOf(lies, turn), at);
		return [round(x - d.origin[0]), round(y - d.origin[1])];
	}

	/** The quarter turn from which most of a seam is seen; the first of equals. */
	bestTurn(joint: string, lies: Up, standing?: ReadonlySet<number>): Turn {
		const seam = this.mesh.seams.find((s) => s.joint.id === joint);
		if (!seam) return 0;
		const on = standing ?? new Set(this.mesh.parts.keys());
		return bestOf((turn) => {
			const view = viewOf(lies, turn);
			let seen = 0;
			seam.stations.forEach((_, i) => {
				// as the torch sees it: a little off the seam, on the side it is welded from
				const at = add(this.at(seam.a[i]), scale(seam.frames[i].weldSide, OFF * this.size));
				if (this.isSeen(at, view, on)) seen += 1 + 0.2 * Math.max(0, dot(seam.frames[i].weldSide, view.eye));
			});
			return seen;
		});
	}

	/** The quarter turn from which most of some places are seen. */
	bestTurnFor(places: readonly Vec3[], lies: Up, standing: ReadonlySet<number>): Turn {
		return bestOf((turn) => {
			const view = viewOf(lies, turn);
			return places.filter((p) => this.isSeen(p, view, standing)).length;
		});
	}

	private at(k: number): Vec3 {
		return nodeAt(this.mesh.xyz, k);
	}
	private isSeen(at: Vec3, view: View, standing: ReadonlySet<number>): boolean {
		const from = add(at, scale(view.eye, OFF * this.size));
		return ![...standing].some((k) => this.trees[k].some(from, view.eye, (t) => meetingAt(from, view.eye, t) > 1e-9));
	}

	private seamLine(seam: SeamMesh, view: View, standing: ReadonlySet<number>): SeamLine {
		const points = Array.from(seam.a, (k) => onPage(view, this.at(k)));
		const half = Math.floor(seam.frames.length / 2);
		const middle = seam.frames[half];
		// away from both sheets and towards the side it is welded from; across the line as it lies on the page
		const away = onPage(view, add(add(middle.outA, middle.outB), middle.weldSide));
		const along = onPage(view, middle.s);
		const across = unit([-along[1], along[0], 0] as Vec3);
		const sign = across[0] * away[0] + across[1] * away[1] < 0 ? -1 : 1;
		const out: [number, number] = norm([along[0], along[1], 0]) > 1e-3 ? [sign * across[0], sign * across[1]] : [0, -1];
		const seen = Array.from(seam.a, (k, i) => this.isSeen(add(this.at(k), scale(seam.frames[i].weldSide, OFF * this.size)), view, standing));
		return {
			joint: seam.joint.id,
			letter: this.letters.get(seam.joint.id) ?? '',
			points,
			stations: [...seam.stations].map(round),
			out,
			isSeen: seen.filter(Boolean).length >= NAMED * seen.length
		};
	}
}

/** The first turn that no other beats by more than a trifle. */
const bestOf = (share: (turn: Turn) => number) => TURNS.reduce<Turn>((best, t) => (share(t) > share(best) * 1.02 ? t : best), 0);

const round = (v: number) => Math.round(v * 10) / 10;

/** A side of triangles of one sheet. */
interface Edge {
	part: number;
	a: number;
	b: number;
	normals: Vec3[];
	panels: number[];
	/** a little inside each of its triangles: a sheet that ends on another is behind it, or before it, and not on it */
	inside: Vec3[];
}

/** An edge of a sheet, a fold, or where a rolled sheet turns away. */
function isDrawn({ normals, panels }: Edge, view: View): boolean {
	if (normals.length !== 2) return true;
	const [p, q] = normals;
	if (panels[0] !== panels[1] && dot(p, q) < Math.cos((CREASE_DEG * Math.PI) / 180)) return true;
	return dot(p, view.eye) * dot(q, view.eye) < 0;
}

/** Short lengths put end to end as far as they go on. */
function chained(list: readonly [number, number][]): number[][] {
	const at = new Map<number, number[]>();
	list.forEach(([a, b], i) => {
		at.set(a, [...(at.get(a) ?? []), i]);
		at.set(b, [...(at.get(b) ?? []), i]);
	});
	const used = new Set<number>();
	const out: number[][] = [];
	const follow = (chain: number[]) => {
		for (;;) {
			const end = chain[chain.length - 1];
			const next = at.get(end)!;
			// a corner where three meet ends the chain
			const open = next.length <= 2 ? next.find((i) => !used.has(i)) : undefined;
			if (open === undefined) return;
			used.add(open);
			chain.push(list[open][0] === end ? list[open][1] : list[open][0]);
		}
	};
	list.forEach(([a, b], i) => {
		if (used.has(i)) return;
		used.add(i);
		const chain = [a, b];
		follow(chain);
		chain.reverse();
		follow(chain);
		out.push(chain);
	});
	return out;
}

/** Points that lie on the straight between their neighbours left out. */
function straightened(points: [number, number][]): [number, number][] {
	const out: [number, number][] = [];
	for (const p of points) {
		while (out.length > 1) {
			const [a, b] = [out[out.length - 2], out[out.length - 1]];
			const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], p[0] - a[0], p[1] - a[1]];
			const length = Math.hypot(vx, vy);
			if (length < 1e-9 || Math.abs(ux * vy - uy * vx) / length > 0.05) break;
			out.pop();
		}
		out.push(p);
	}
	return out;
}
