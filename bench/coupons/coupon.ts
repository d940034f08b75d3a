/**
 * A thermo-plastic coupon for a general solver: two like sheets joined along one edge, one half of them modelled in solid elements
 * (the other is its mirror image), or a tee welded on one side. The arc travels; heat first, then the metal, step by step.
 * Nothing of the section model is in here but the metal's tables: the coupon is what that model is held against.
 */
import type { HotMetal } from '$core/materials/hot';

/** One run of the arc: from where to where along the seam, mm. */
export interface ArcRun {
	from: number;
	to: number;
}

export interface Coupon {
	id: string;
	title: string;
	/** mm */
	length: number;
	width: number;
	thickness: number;
	/** net J/mm and mm/s */
	heat: number;
	speed: number;
	runs: ArcRun[];
	/** s between runs */
	wait: number;
	metal: HotMetal;
	/** stress over plastic strain: hardening, MPa at 20 °C falling to nothing where the metal is solid no more, up to this much strain */
	hardening: number;
	hardensTo: number;
	/** held flat until cold, or free to bow from the start */
	isHeldFlat: boolean;
	/** W/mm2.K of a bar at 20 °C under the sheet and how far from the seam it reaches, mm */
	bar?: { contact: number; reach: number };
	/** a web of the same sheet stands on the middle; leg of the fillet, mm */
	tee?: { height: number; leg: number };
	/** the other half stands square to this one, edge to edge, and not flat beside it: the sheet may bend in its own plane */
	isCorner?: boolean;
	/** the corner's far edges neither lift nor turn, as those of a box's sides that its other corners hold */
	isBox?: boolean;
}

export interface Mesh {
	/** x, y, z of each node, mm */
	xyz: number[];
	/** eight or six nodes an element, with its set */
	elements: { set: 'sheet' | 'web' | 'fillet'; nodes: number[]; slab: number }[];
	/** nodes in the plane of the seam's start and its stations along x */
	stations: number[];
	sectionNodes: number;
}

const AIR = 15e-6;
const AMBIENT = 20;
/** Half axes of the arc's ellipse, mm: ahead, behind, across (Goldak, Chakravarti & Bibby 1984; sizes an own estimate, as in core/heat/travelling). */
const ARC = { ahead: 3, behind: 6, across: 3 };
const LAYERS = 1;
const STEP = 3;

/** Widths from the seam outwards that sum to `width`, the first cells even and then growing. */
function widths(width: number): number[] {
	const out: number[] = [];
	let [sum, h] = [0, 1.5];
	while (sum < width - 1e-9) {
		if (sum >= 3) h = Math.min(8, 1.25 * h);
		const left = width - sum;
		out.push(left < 1.6 * h ? left : h);
		sum += out[out.length - 1];
	}
	return out;
}
const sums = (list: number[], from = 0): number[] => list.reduce<number[]>((a, v) => [...a, a[a.length - 1] + v], [from]);

export function meshOf(c: Coupon): Mesh {
	const stations = Array.from({ length: Math.round(c.length / STEP) + 1 }, (_, i) => i * STEP);
	const t = c.thickness;
	const levels = Array.from({ length: LAYERS + 1 }, (_, i) => -t / 2 + (t * i) / LAYERS);
	/** the cross-section: places (y, z) by name, and its cells */
	const places = new Map<string, number>();
	const yz: [number, number][] = [];
	const at = (y: number, z: number): number => {
		const key = `${y.toFixed(4)} ${z.toFixed(4)}`;
		if (!places.has(key)) {
			places.set(key, yz.length);
			yz.push([y, z]);
		}
		return places.get(key)!;
	};
	const cells: { set: 'sheet' | 'web' | 'fillet'; ring: number[] }[] = [];
	const block = (set: 'sheet' | 'web', ys: number[], zs: number[]) => {
		for (let i = 1; i < ys.length; i++)
			for (let j = 1; j < zs.length; j++)
				cells.push({ set, ring: [at(ys[i - 1], zs[j - 1]), at(ys[i], zs[j - 1]), at(ys[i], zs[j]), at(ys[i - 1], zs[j])] });
	};
	if (c.tee) {
		const foot = [-t / 2, 0, t / 2];
		const right = sums([c.tee.leg / 2, c.tee.leg / 2, ...widths(c.width - t / 2 - c.tee.leg)], t / 2);
		const left = right.map((v) => -v).reverse();
		block('sheet', [...left.slice(0, -1), ...foot, ...right.slice(1)], levels);
		const up = sums([c.tee.leg / 2, c.tee.leg / 2, ...widths(c.tee.height - c.tee.leg)], t / 2);
		block('web', foot, up);
		const [y0, z0, h] = [t / 2, t / 2, c.tee.leg / 2];
		cells.push({ set: 'fillet', ring: [at(y0, z0), at(y0 + h, z0), at(y0 + h, z0 + h), at(y0, z0 + h)] });
		cells.push({ set: 'fillet', ring: [at(y0 + h, z0), at(y0 + 2 * h, z0), at(y0 + h, z0 + h)] });
		cells.push({ set: 'fillet', ring: [at(y0, z0 + h), at(y0 + h, z0 + h), at(y0, z0 + 2 * h)] });
	} else block('sheet', sums(widths(c.width)), levels);
	const n = yz.length;
	const xyz: number[] = [];
	// 0.1 mm out of flat towards the weld side 60 mm from the seam: picks the way it folds
	for (const x of stations) for (const [y, z] of yz) xyz.push(x, y, z + (c.tee ? 0 : (0.1 * y) / Math.min(60, c.width)));
	const elements: Mesh['elements'] = [];
	for (let s = 0; s + 1 < stations.length; s++)
		for (const { set, ring } of cells) elements.push({ set, slab: s, nodes: [...ring.map((p) => s * n + p), ...ring.map((p) => (s + 1) * n + p)] });
	return { xyz, elements, stations, sectionNodes: n };
}

/** s at which each run starts and the arc's place by time. */
function timetable(c: Coupon): { start: number; end: number; run: ArcRun }[] {
	let now = 0;
	return c.runs.map((run) => {
		const start = now;
		const end = start + Math.abs(run.to - run.from) / c.speed;
		now = end + c.wait;
		return { start, end, run };
	});
}

/** Share of the arc's heat that falls to each station at a time, summing to one while it burns. */
function along(c: Coupon, stations: readonly number[], time: number): number[] | undefined {
	const now = timetable(c).find((r) => time >= r.start && time <= r.end);
	if (!now) return undefined;
	const way = Math.sign(now.run.to - now.run.from);
	const place = now.run.from + way * c.speed * (time - now.start);
	const shares = stations.map((x) => {
		const s = way * (x - place);
		return Math.exp(-3 * (s / (s > 0 ? ARC.ahead : ARC.behind)) ** 2);
	});
	const sum = shares.reduce((a, b) => a + b, 0) / Math.min(1, (time - now.start) / RISE);
	return shares.map((v) => v / sum);
}

/** Share of the arc's heat by place of the section: even through a butt's thickness, round the fillet's face in a tee. */
function across(c: Coupon, mesh: Mesh): number[] {
	const n = mesh.sectionNodes;
	const area = new Array<number>(n).fill(0);
	for (const e of mesh.elements.filter((x) => x.slab === 0)) {
		const ring = e.nodes.slice(0, e.nodes.length / 2);
		let size = 0;
		ring.forEach((p, i) => {
			const q = ring[(i + 1) % ring.length];
			size += (mesh.xyz[3 * p + 1] * mesh.xyz[3 * q + 2] - mesh.xyz[3 * q + 1] * mesh.xyz[3 * p + 2]) / 2;
		});
		for (const p of ring) area[p] += Math.abs(size) / ring.length;
	}
	const [y0, z0] = c.tee ? [c.thickness / 2 + c.tee.leg / 3, c.thickness / 2 + c.tee.leg / 3] : [0, 0];
	const shares = area.map((a, p) => {
		const [y, z] = [mesh.xyz[3 * p + 1] - y0, c.tee ? mesh.xyz[3 * p + 2] - z0 : 0];
		return a * Math.exp((-3 * (y * y + z * z)) / ARC.across ** 2);
	});
	const sum = shares.reduce((a, b) => a + b, 0);
	return shares.map((v) => v / sum);
}

/** From here on the metal grows no more: it carries nothing, and its growth would only be kneaded to and fro (a cut-off temperature, common in such models), °C. */
const CUT = 1200;
/** s over which the arc comes up to its power at the start of a run */
const RISE = 2;
/** Places where the tables are written, °C. */
const AT = [20, 100, 200, 300, 400, 500, 600, 700, 800, 900, 1000, 1100, 1200, ...Array.from({ length: 27 }, (_, i) => 1250 + 50 * i)];

function material(c: Coupon): string[] {
	const { metal } = c;
	// the latent heat is spread over some 300 K: within the metal's own 50 the solver's rounds leap over it and back
	const heat = (a: number) => {
		const wide = a > 1200 && a < 1650 ? 150 : 10;
		return (metal.heatContent(a + wide) - metal.heatContent(a - wide)) / (2 * wide);
	};
	const fine = Array.from({ length: 125 }, (_, i) => 20 + 20 * i);
	const strength = (a: number) => Math.max(metal.proof(a), 3);
	const hardening = (a: number) => c.hardening * Math.min(1, Math.max(0, 1 - (a - 20) / (metal.solidC - 20)));
	return [
		'*MATERIAL, NAME=METAL',
		'*ELASTIC',
		...AT.map((a) => `${Math.max(metal.eModulus(a), 2000).toFixed(1)}, 0.3, ${a}`),
		'*EXPANSION, ZERO=20',
		...AT.map((a) => `${(metal.elongation(Math.min(CUT, Math.max(a, 30))) / (Math.max(a, 30) - 20)).toExponential(6)}, ${a}`),
		'*CONDUCTIVITY',
		...AT.map((a) => `${metal.conductivity(a).toExponential(6)}, ${a}`),
		'*DENSITY',
		'1',
		'*SPECIFIC HEAT',
		...fine.map((a) => `${heat(a).toExponential(6)}, ${a}`),
		'*PLASTIC',
		...AT.flatMap((a) => [
			`${strength(a).toFixed(3)}, 0, ${a}`,
			`${(strength(a) + hardening(a) * c.hardensTo + 0.02).toFixed(3)}, ${c.hardensTo}, ${a}`,
			...(c.hardensTo < 1 ? [`${(strength(a) + hardening(a) * c.hardensTo + 0.04).toFixed(3)}, 1, ${a}`] : [])
		])
	];
}

const listed = (numbers: readonly number[]): string[] => {
	const out: string[] = [];
	for (let i = 0; i < numbers.length; i += 8) out.push(numbers.slice(i, i + 8).join(', '));
	return out;
};

/** Nodes with a name: numbers from 1, as the deck counts them. */
function nodesWhere(mesh: Mesh, is: (x: number, y: number, z: number, p: number) => boolean): number[] {
	const out: number[] = [];
	for (let i = 0; i < mesh.xyz.length / 3; i++)
		if (is(mesh.xyz[3 * i], mesh.xyz[3 * i + 1], mesh.xyz[3 * i + 2], i % mesh.sectionNodes)) out.push(i + 1);
	return out;
}
const nearest = (mesh: Mesh, x: number, y: number, z: number): number => {
	let best = 0;
	let least = Infinity;
	for (let i = 0; i < mesh.xyz.length / 3; i++) {
		const d = Math.hypot(mesh.xyz[3 * i] - x, mesh.xyz[3 * i + 1] - y, mesh.xyz[3 * i + 2] - z);
		if (d < least) [least, best] = [d, i + 1];
	}
	return best;
};

/** The deck, in the open input language of the general solver CalculiX (2.20). */
export function deckOf(c: Coupon, mesh: Mesh): string {
	const [L, W, t] = [c.length, c.width, c.thickness];
	const lines: string[] = ['*NODE, NSET=ALL'];
	for (let i = 0; i < mesh.xyz.length / 3; i++) lines.push(`${i + 1}, ${mesh.xyz[3 * i]}, ${mesh.xyz[3 * i + 1]}, ${mesh.xyz[3 * i + 2]}`);
	for (const [set, type, count] of [
		['sheet', 'C3D8I', 8],
		['web', 'C3D8I', 8],
		['fillet', 'C3D8I', 8],
		['fillet', 'C3D6', 6]
	] as const) {
		const those = mesh.elements.flatMap((e, i) =>
			e.set === set && e.nodes.length === count ? [`${i + 1}, ${e.nodes.map((n) => n + 1).join(', ')}`] : []
		);
		if (those.length) lines.push(`*ELEMENT, TYPE=${type}, ELSET=EALL`, ...those);
	}
	const slabs = mesh.stations.length - 1;
	const printed = mesh.elements.flatMap((e, i) => (e.set === 'sheet' && e.slab >= 0.08 * slabs && e.slab < 0.92 * slabs ? [i + 1] : []));
	lines.push('*ELSET, ELSET=PRINTED', ...listed(printed), ...material(c), '*SOLID SECTION, ELSET=EALL, MATERIAL=METAL');
	// faces to the air and to the bar: S1 lies towards the first four nodes, S2 towards the last; rings run counter-clockwise in (y, z)
	const air: string[] = [];
	const bar: string[] = [];
	mesh.elements.forEach((e, i) => {
		if (e.set !== 'sheet' || e.nodes.length !== 8) return;
		const z = (k: number) => mesh.xyz[3 * e.nodes[k] + 2] - (c.tee ? 0 : (0.1 * mesh.xyz[3 * e.nodes[k] + 1]) / Math.min(60, W));
		const y = mesh.xyz[3 * e.nodes[0] + 1];
		const isLow = Math.abs(z(0) + t / 2) < 1e-6;
		const isHigh = Math.abs(z(2) - t / 2) < 1e-6;
		// ring edges 1-2 (low), 3-4 (high) are the faces S3 and S5 of a brick whose first four nodes are the ring
		if (isLow) (c.bar && Math.abs(y) < c.bar.reach - 1e-6 ? bar : air).push(`${i + 1}, F3`);
		if (isHigh && !(c.tee && y > -t / 2 - 1e-6 && y < t / 2 + c.tee.leg - 1e-6)) air.push(`${i + 1}, F5`);
	});
	const shares = across(c, mesh);
	const timeLine = timetable(c);
	const end = timeLine[timeLine.length - 1].end;
	const every = 0.2;
	const times = Array.from({ length: Math.ceil(end / every) + 2 }, (_, i) => i * every);
	const curves = mesh.stations.map(() => [] as [number, number][]);
	for (const time of times) {
		const now = along(c, mesh.stations, time);
		curves.forEach((curve, s) => curve.push([time, now ? now[s] : 0]));
	}
	curves.forEach((curve, s) => {
		lines.push(`*AMPLITUDE, NAME=A${s}, TIME=TOTAL TIME`);
		const kept = curve.filter(([, v], i) => v > 1e-7 || (curve[i - 1]?.[1] ?? 0) > 1e-7 || (curve[i + 1]?.[1] ?? 0) > 1e-7 || i === 0);
		for (const [time, v] of kept) lines.push(`${time.toFixed(3)}, ${v.toExponential(6)}`);
		lines.push(`${(end + 1e6).toFixed(3)}, 0`);
	});
	lines.push('*INITIAL CONDITIONS, TYPE=TEMPERATURE', `ALL, ${AMBIENT}`);
	lines.push('*NSET, NSET=SEAM', ...listed(nodesWhere(mesh, (_x, y) => Math.abs(y) < 1e-6)));
	lines.push('*NSET, NSET=LOW', ...listed(nodesWhere(mesh, (_x, y, z) => Math.abs(z - (c.tee ? 0 : (0.1 * y) / Math.min(60, W)) + t / 2) < 1e-6)));
	const half = mesh.stations[Math.round(slabs / 2)];
	lines.push('*NSET, NSET=MIDDLE', ...listed(nodesWhere(mesh, (x) => Math.abs(x - half) < 1e-6)));
	const edge = (x: number, y: number) => nearest(mesh, x, y, -t / 2 + (c.tee ? 0 : (0.1 * y) / Math.min(60, W)));
	lines.push('*BOUNDARY');
	if (c.tee) {
		// three points of the flange's cold edges: nothing held but the body as a whole
		lines.push(`${edge(0, -W)}, 1, 3`, `${edge(L, -W)}, 2, 3`, `${edge(0, W)}, 3`);
	} else {
		lines.push(...(c.isCorner ? [] : ['SEAM, 2']), `${edge(half, W)}, 1`);
		if (c.isHeldFlat) lines.push('LOW, 3');
		else if (c.isBox) for (const node of nodesWhere(mesh, (_x, y) => y > 0.84 * W)) lines.push(`${node}, 3`);
		else lines.push(`${edge(0, W)}, 3`, `${edge(L, W)}, 3`);
	}
	// the mirror stands at half a right angle through the seam: no way through it, so as far across as up
	if (c.isCorner) for (const node of nodesWhere(mesh, (_x, y) => Math.abs(y) < 1e-6)) lines.push('*EQUATION', '2', `${node}, 2, 1, ${node}, 3, -1`);
	const power = c.heat * c.speed * (c.tee ? 1 : 0.5);
	const step = (first: number, total: number, most: number, print: boolean, isFirst: boolean) => {
		lines.push('*STEP, NLGEOM, INC=100000', '*UNCOUPLED TEMPERATURE-DISPLACEMENT', `${first}, ${total}, ${first / 1000}, ${most}`);
		// balance asked for: 0.1 W and 0.1 N a node (the solver's own measure is a share of a mean over nodes that are mostly cold)
		lines.push('*CONTROLS, PARAMETERS=FIELD', '0.005, 0.02, 20, 20, 0.02, 1e-5, 1e-3, 1e-8');
		// metal that yields on its way to melting: rounds may go apart before they come together; a step that fails is halved
		lines.push('*CONTROLS, PARAMETERS=TIME INCREMENTATION', '12, 16, 30, 40, 25, 10, , 12', '0.5, 0.5, 0.75, 0.85, , , 1.15');
		if (isFirst) {
			for (let s = 0; s < mesh.stations.length; s++) {
				lines.push(`*CFLUX, AMPLITUDE=A${s}`);
				shares.forEach((share, p) => {
					if (share > 1e-6) lines.push(`${s * mesh.sectionNodes + p + 1}, 11, ${(power * share).toExponential(6)}`);
				});
			}
			lines.push('*FILM', ...air.map((f) => `${f}, ${AMBIENT}, ${AIR}`), ...bar.map((f) => `${f}, ${AMBIENT}, ${c.bar!.contact}`));
		}
		const frequency = print ? 1 : 100000;
		lines.push(`*NODE PRINT, NSET=MIDDLE, FREQUENCY=${frequency}`, 'NT');
		if (!print) lines.push('*NODE PRINT, NSET=ALL, FREQUENCY=100000', 'U', '*EL PRINT, ELSET=PRINTED, FREQUENCY=100000', 'S, E');
		lines.push('*END STEP');
	};
	step(0.08, end, 0.15, true, true);
	step(0.15, 20, 1, true, false);
	step(2, 100, 10, true, false);
	step(20, 4000, 400, false, false);
	return lines.join('\n') + '\n';
}
