/**
 * Input deck for CalculiX (and any solver that reads its keywords): quadratic triangles S6, eigenstrain as orthotropic
 * thermal expansion for a rise of one degree, supports, a linear, large-displacement or buckling step. Units N, mm, MPa.
 * Middle nodes lie on the straight sides, so that both programs solve the same facets.
 */
import { directionOf, nodeOf } from '../shell/freedoms';
import { cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { nodeAt } from '../shell/model';
import { axesOf, type SheetMaterial } from '../shell/triangle';

export interface Eigenstrain {
	triangle: number;
	/** direction along the seam, in the piece's axes */
	along: Vec3;
	/** strain along, and across; both mean the free change of length; and the engineering shear between them (across: front normal x along) */
	alongStrain: number;
	acrossStrain: number;
	shearStrain?: number;
	/** 1/mm across the seam; positive curls the sheet towards its front; along it, and twice the twist */
	acrossCurvature?: number;
	alongCurvature?: number;
	shearCurvature?: number;
	/** share of all of it that is on after each stage of a staged deck; the last one is 1 */
	stages?: readonly number[];
}

export interface DeckModel {
	title: string;
	xyz: Float64Array;
	tri: Int32Array;
	sheet: (triangle: number) => SheetMaterial;
	eigen: readonly Eigenstrain[];
	/** pairs of nodes that move together and turn apart (hinges); the middles between two neighbouring pairs move together too */
	ties?: readonly (readonly [number, number])[];
	/** freedoms held: 6 node + direction; the three turns are 3 to 5 */
	fixed: readonly number[];
	/** out-of-flat of the sheet before anything is laid on, 3 per node, mm */
	imperfection?: Float64Array;
	/** dead forces, 3 per node, N */
	forces?: Float64Array;
}

/**
 * `staged` lays the eigenstrains on in as many steps as `stages` names: the temperature counts the stages, and each material
 * expands by its table. `buckling` takes forces only: CalculiX knows no temperature in a buckling step. `frequency` gives the lowest frequencies of the
 * piece with a share of everything laid on; where the lowest one squared falls to nothing, the piece buckles.
 */
export type DeckStep =
	| { kind: 'linear' }
	| { kind: 'large'; share?: number }
	| { kind: 'staged'; stages: readonly string[] }
	| { kind: 'buckling'; count: number }
	| { kind: 'frequency'; share: number; count: number };

/** t/mm3, for frequencies only */
const STEEL_DENSITY = 7.9e-9;

const number = (v: number) => (Number.isInteger(v) ? `${v}.` : v.toPrecision(12));
/** lists of 8 to a line */
const lines = (ids: readonly number[]) => {
	const out: string[] = [];
	for (let i = 0; i < ids.length; i += 8) out.push(ids.slice(i, i + 8).join(', '));
	return out.join(',\n');
};

/** Principal strains of (along, across, engineering shear) and how far the first direction is turned from `along`, rad. */
function principal([a, b, g]: readonly number[]): { first: number; second: number; turn: number } {
	if (g === 0) return { first: a, second: b, turn: 0 };
	const half = Math.hypot((a - b) / 2, g / 2);
	return { first: (a + b) / 2 + half, second: (a + b) / 2 - half, turn: Math.atan2(g, a - b) / 2 };
}

// eslint-disable-next-line complexity, max-lines-per-function -- a record after the other, in the order of the format
export function writeCalculix(m: DeckModel, step: DeckStep): string {
	const nodes = m.xyz.length / 3;
	const middles = new Map<string, number>();
	const extra: Vec3[] = [];
	const at = (k: number): Vec3 => {
		const p = nodeAt(m.xyz, k);
		return m.imperfection ? [p[0] + m.imperfection[3 * k], p[1] + m.imperfection[3 * k + 1], p[2] + m.imperfection[3 * k + 2]] : p;
	};
	const middle = (i: number, j: number) => {
		const key = i < j ? `${i}/${j}` : `${j}/${i}`;
		let id = middles.get(key);
		if (id === undefined) {
			const [p, q] = [at(i), at(j)];
			id = nodes + extra.push([0, 1, 2].map((d) => (p[d] + q[d]) / 2) as Vec3) - 1;
			middles.set(key, id);
		}
		return id;
	};
	const elements: string[] = [];
	const groups = new Map<string, { elements: number[]; sheet: SheetMaterial; eigen?: Eigenstrain; axes?: [Vec3, Vec3] }>();
	const eigenOf = new Map(m.eigen.map((e) => [e.triangle, e]));
	for (let e = 0; e < m.tri.length / 3; e++) {
		const [a, b, c] = [m.tri[3 * e], m.tri[3 * e + 1], m.tri[3 * e + 2]];
		elements.push(`${e + 1}, ${[a, b, c, middle(a, b), middle(b, c), middle(c, a)].map((k) => k + 1).join(', ')}`);
		const sheet = m.sheet(e);
		const eigen = eigenOf.get(e);
		let axes: [Vec3, Vec3] | undefined;
		let key = `${sheet.eModulus}/${sheet.poisson}/${sheet.thickness}`;
		if (eigen) {
			const { ez } = axesOf([a, b, c].map((k) => nodeAt(m.xyz, k)) as [Vec3, Vec3, Vec3]);
			const u = sub(eigen.along, scale(ez, dot(eigen.along, ez)));
			const x = scale(u, 1 / norm(u));
			axes = [x, cross(ez, x)];
			const e = eigen;
			key += `/${[...x, ...axes[1], e.alongStrain, e.acrossStrain, e.shearStrain ?? 0, e.acrossCurvature ?? 0, e.alongCurvature ?? 0, e.shearCurvature ?? 0].map((v) => v.toPrecision(9)).join('/')}`;
			if (step.kind === 'staged') key += `/${(eigen.stages ?? []).map((v) => v.toPrecision(6)).join('/')}`;
		}
		const g = groups.get(key) ?? { elements: [], sheet, eigen, axes };
		g.elements.push(e + 1);
		groups.set(key, g);
	}
	const equations: string[] = [];
	const tied = new Map((m.ties ?? []).map(([p, q]) => [q, p]));
	const tie = (p: number, q: number) => {
		for (let d = 1; d <= 3; d++) equations.push('*EQUATION', '2', `${q + 1}, ${d}, 1., ${p + 1}, ${d}, -1.`);
	};
	for (const [q, p] of tied) tie(p, q);
	for (const [key, id] of middles) {
		const [i, j] = key.split('/').map(Number);
		const [a, b] = [tied.get(i), tied.get(j)];
		const other = a !== undefined && b !== undefined ? middles.get(a < b ? `${a}/${b}` : `${b}/${a}`) : undefined;
		if (other !== undefined) tie(other, id);
	}
	const out: string[] = ['*HEADING', m.title.replace(/[^\x20-\x7e]/g, '?'), '*NODE, NSET=NALL'];
	for (let k = 0; k < nodes; k++) out.push(`${k + 1}, ${at(k).map(number).join(', ')}`);
	extra.forEach((p, i) => out.push(`${nodes + i + 1}, ${p.map(number).join(', ')}`));
	out.push('*ELEMENT, TYPE=S6, ELSET=EALL', ...elements, '*NSET, NSET=CORNERS, GENERATE', `1, ${nodes}`);
	let index = 0;
	for (const g of groups.values()) {
		index++;
		out.push(`*ELSET, ELSET=E${index}`, lines(g.elements));
		const material = (name: string, along: number, across: number) => {
			out.push(`*MATERIAL, NAME=${name}`, '*ELASTIC', `${number(g.sheet.eModulus)}, ${number(g.sheet.poisson)}`, '*DENSITY', `${STEEL_DENSITY}`);
			if (!g.eigen) return;
			out.push('*EXPANSION, TYPE=ORTHO, ZERO=0.');
			if (step.kind !== 'staged') out.push(`${number(along)}, ${number(across)}, 0.`);
			// the mean expansion from nothing to a stage's temperature: strain over temperature, exact at every whole stage
			else
				step.stages.forEach((_, i) =>
					out.push(`${[along, across].map((v) => number((v * (g.eigen!.stages?.[i] ?? 1)) / (i + 1))).join(', ')}, 0., ${i + 1}.`)
				);
		};
		if (!g.eigen) {
			material(`M${index}`, 0, 0);
			out.push(`*SHELL SECTION, ELSET=E${index}, MATERIAL=M${index}`, number(g.sheet.thickness));
			continue;
		}
		const { eigen } = g;
		const membrane = [eigen.alongStrain, eigen.acrossStrain, eigen.shearStrain ?? 0];
		const bend = [eigen.alongCurvature ?? 0, eigen.acrossCurvature ?? 0, eigen.shearCurvature ?? 0];
		/** an orientation and a material for one layer's strain, turned into its principal directions; @returns their names */
		const layer = (mark: string, strain: readonly number[]): [material: string, orientation: string] => {
			const { first, second, turn } = principal(strain);
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			const [u, v] = g.axes!;
			const x = [0, 1, 2].map((d) => c * u[d] + s * v[d]);
			const y = [0, 1, 2].map((d) => c * v[d] - s * u[d]);
			out.push(`*ORIENTATION, NAME=O${mark}${index}, SYSTEM=RECTANGULAR`, [...x, ...y].map(number).join(', '));
			material(`M${mark}${index}`, first, second);
			return [`M${mark}${index}`, `O${mark}${index}`];
		};
		if (bend.every((v) => v === 0)) {
			const [name, orientation] = layer('', membrane);
			out.push(`*SHELL SECTION, ELSET=E${index}, MATERIAL=${name}, ORIENTATION=${orientation}`, number(g.sheet.thickness));
			continue;
		}
		// two half layers a strain d above and below the mean bend the sheet by 3 d / t; the front is the top
		const at = (sign: number) => membrane.map((v, i) => v + (sign * bend[i] * g.sheet.thickness) / 3);
		const layers = [layer('B', at(1)), layer('T', at(-1))];
		out.push(
			`*SHELL SECTION, ELSET=E${index}, COMPOSITE`,
			...layers.map(([name, orientation]) => `${number(g.sheet.thickness / 2)}, , ${name}, ${orientation}`)
		);
	}
	out.push(...equations, '*BOUNDARY');
	for (const f of m.fixed) out.push(`${nodeOf(f) + 1}, ${directionOf(f) + 1}, ${directionOf(f) + 1}`);
	out.push('*INITIAL CONDITIONS, TYPE=TEMPERATURE', 'NALL, 0.');
	if (step.kind === 'staged') {
		step.stages.forEach((name, i) => {
			out.push(
				`** stage ${i + 1}: ${name.replace(/[^\x20-\x7e]/g, '?')}`,
				'*STEP, NLGEOM, INC=1000',
				'*STATIC',
				'0.25, 1., 1e-6, 0.5',
				'*TEMPERATURE',
				`NALL, ${i + 1}.`
			);
			out.push('*NODE PRINT, NSET=CORNERS', 'U', '*END STEP');
		});
		return [...out, ''].join('\n');
	}
	const share = step.kind === 'large' || step.kind === 'frequency' ? (step.share ?? 1) : 1;
	const large = step.kind === 'large' || step.kind === 'frequency';
	out.push(large ? '*STEP, NLGEOM, INC=1000' : '*STEP');
	if (step.kind === 'buckling') out.push('*BUCKLE', `${step.count}`);
	else out.push('*STATIC', ...(large ? ['0.1, 1., 1e-6, 0.2'] : []));
	if (m.eigen.length) out.push('*TEMPERATURE', `NALL, ${number(share)}`);
	if (m.forces) {
		out.push('*CLOAD');
		m.forces.forEach((v, i) => v !== 0 && out.push(`${Math.floor(i / 3) + 1}, ${(i % 3) + 1}, ${number(share * v)}`));
	}
	if (step.kind === 'frequency') out.push('*END STEP', '*STEP, PERTURBATION', '*FREQUENCY', `${step.count}`, '*END STEP', '');
	else out.push('*NODE PRINT, NSET=CORNERS', 'U', '*END STEP', '');
	return out.join('\n');
}
