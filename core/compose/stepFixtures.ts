/** Small STEP files (ISO 10303-21, AP203 geometry) for tests and benches: a box and a cylinder of exact size. */
const head = (body: string) => `ISO-10303-21;
HEADER;
FILE_DESCRIPTION(('test solid'),'2;1');
FILE_NAME('solid','2026-01-01T00:00:00',(''),(''),'','','');
FILE_SCHEMA(('CONFIG_CONTROL_DESIGN'));
ENDSEC;
DATA;
${body}
ENDSEC;
END-ISO-10303-21;
`;

class Writer {
	private n = 0;
	readonly lines: string[] = [];
	put(text: string): string {
		this.lines.push(`#${++this.n}=${text};`);
		return `#${this.n}`;
	}
	point = (p: readonly number[]) => this.put(`CARTESIAN_POINT('',(${p.map((v) => v.toFixed(6)).join(',')}))`);
	direction = (d: readonly number[]) => this.put(`DIRECTION('',(${d.map((v) => v.toFixed(6)).join(',')}))`);
	axes = (o: readonly number[], z: readonly number[], x: readonly number[]) =>
		this.put(`AXIS2_PLACEMENT_3D('',${this.point(o)},${this.direction(z)},${this.direction(x)})`);
	/** product structure and units round a solid, without which a reader finds nothing to show */
	finish(solids: readonly string[]): string {
		const app = this.put(`APPLICATION_CONTEXT('configuration controlled 3d designs of mechanical parts and assemblies')`);
		this.put(`APPLICATION_PROTOCOL_DEFINITION('international standard','config_control_design',1994,${app})`);
		const mechanical = this.put(`MECHANICAL_CONTEXT('',${app},'mechanical')`);
		const mm = this.put(`(LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.))`);
		const rad = this.put(`(NAMED_UNIT(*) PLANE_ANGLE_UNIT() SI_UNIT($,.RADIAN.))`);
		const sr = this.put(`(NAMED_UNIT(*) SI_UNIT($,.STERADIAN.) SOLID_ANGLE_UNIT())`);
		const fuzz = this.put(`UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-06),${mm},'distance_accuracy_value','')`);
		const context = this.put(
			`(GEOMETRIC_REPRESENTATION_CONTEXT(3) GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((${fuzz})) GLOBAL_UNIT_ASSIGNED_CONTEXT((${mm},${rad},${sr})) REPRESENTATION_CONTEXT('',''))`
		);
		solids.forEach((solid, i) => {
			const product = this.put(`PRODUCT('P${i + 1}','P${i + 1}','',(${mechanical}))`);
			this.put(`PRODUCT_RELATED_PRODUCT_CATEGORY('part','',(${product}))`);
			const formation = this.put(`PRODUCT_DEFINITION_FORMATION_WITH_SPECIFIED_SOURCE('','',${product},.NOT_KNOWN.)`);
			const design = this.put(`DESIGN_CONTEXT('',${app},'design')`);
			const definition = this.put(`PRODUCT_DEFINITION('design','',${formation},${design})`);
			const shape = this.put(`PRODUCT_DEFINITION_SHAPE('','',${definition})`);
			const axes = this.axes([0, 0, 0], [0, 0, 1], [1, 0, 0]);
			const representation = this.put(`ADVANCED_BREP_SHAPE_REPRESENTATION('',(${axes},${solid}),${context})`);
			this.put(`SHAPE_DEFINITION_REPRESENTATION(${shape},${representation})`);
		});
		return head(this.lines.join('\n'));
	}
}

function box(w: Writer, size: readonly [number, number, number], at: readonly [number, number, number]): string {
	const corner = (i: number) => [0, 1, 2].map((d) => at[d] + ((i >> d) & 1 ? size[d] : 0));
	const vertex = Array.from({ length: 8 }, (_, i) => w.put(`VERTEX_POINT('',${w.point(corner(i))})`));
	const edges = new Map<string, string>();
	const edge = (a: number, b: number): string => {
		const key = `${Math.min(a, b)}/${Math.max(a, b)}`;
		const [p, q] = [Math.min(a, b), Math.max(a, b)];
		let e = edges.get(key);
		if (!e) {
			const [u, v] = [corner(p), corner(q)];
			const d = u.map((x, i) => v[i] - x);
			const l = Math.hypot(...d);
			const vector = w.put(`VECTOR('',${w.direction(d.map((x) => x / l))},${l.toFixed(6)})`);
			e = w.put(`EDGE_CURVE('',${vertex[p]},${vertex[q]},${w.put(`LINE('',${w.point(u)},${vector})`)},.T.)`);
			edges.set(key, e);
		}
		return w.put(`ORIENTED_EDGE('',*,*,${e},${a < b ? '.T.' : '.F.'})`);
	};
	const faces = (
		[
			[
				[0, 2, 3, 1],
				[0, 0, -1],
				[1, 0, 0]
			],
			[
				[4, 5, 7, 6],
				[0, 0, 1],
				[1, 0, 0]
			],
			[
				[0, 1, 5, 4],
				[0, -1, 0],
				[1, 0, 0]
			],
			[
				[2, 6, 7, 3],
				[0, 1, 0],
				[1, 0, 0]
			],
			[
				[0, 4, 6, 2],
				[-1, 0, 0],
				[0, 1, 0]
			],
			[
				[1, 3, 7, 5],
				[1, 0, 0],
				[0, 1, 0]
			]
		] as const
	).map(([ring, n, x]) => {
		const loop = w.put(`EDGE_LOOP('',(${ring.map((a, i) => edge(a, ring[(i + 1) % 4])).join(',')}))`);
		const plane = w.put(`PLANE('',${w.axes(corner(ring[0]), n, x)})`);
		return w.put(`ADVANCED_FACE('',(${w.put(`FACE_OUTER_BOUND('',${loop},.T.)`)}),${plane},.T.)`);
	});
	return w.put(`MANIFOLD_SOLID_BREP('',${w.put(`CLOSED_SHELL('',(${faces.join(',')}))`)})`);
}

export function boxStep(lx: number, ly: number, lz: number): string {
	const w = new Writer();
	return w.finish([box(w, [lx, ly, lz], [0, 0, 0])]);
}

/** Plates in a row, each a solid of its own: a large model for the bench. */
export function platesStep(count: number): string {
	const w = new Writer();
	return w.finish(Array.from({ length: count }, (_, i) => box(w, [100, 60, 1.5], [i * 100, 0, 0])));
}

export function cylinderStep(radius: number, length: number): string {
	const w = new Writer();
	const ends = [0, length].map((z) => {
		const v = w.put(`VERTEX_POINT('',${w.point([radius, 0, z])})`);
		const circle = w.put(`CIRCLE('',${w.axes([0, 0, z], [0, 0, 1], [1, 0, 0])},${radius.toFixed(6)})`);
		return { z, v, curve: w.put(`EDGE_CURVE('',${v},${v},${circle},.T.)`) };
	});
	const vector = w.put(`VECTOR('',${w.direction([0, 0, 1])},${length.toFixed(6)})`);
	const seam = w.put(`EDGE_CURVE('',${ends[0].v},${ends[1].v},${w.put(`LINE('',${w.point([radius, 0, 0])},${vector})`)},.T.)`);
	const way = (e: string, forward: boolean) => w.put(`ORIENTED_EDGE('',*,*,${e},${forward ? '.T.' : '.F.'})`);
	const wallLoop = w.put(`EDGE_LOOP('',(${way(ends[0].curve, true)},${way(seam, true)},${way(ends[1].curve, false)},${way(seam, false)}))`);
	const surface = w.put(`CYLINDRICAL_SURFACE('',${w.axes([0, 0, 0], [0, 0, 1], [1, 0, 0])},${radius.toFixed(6)})`);
	const wall = w.put(`ADVANCED_FACE('',(${w.put(`FACE_OUTER_BOUND('',${wallLoop},.T.)`)}),${surface},.T.)`);
	const caps = ends.map(({ z, curve }) => {
		const top = z > 0;
		const loop = w.put(`EDGE_LOOP('',(${way(curve, top)}))`);
		const plane = w.put(`PLANE('',${w.axes([0, 0, z], [0, 0, top ? 1 : -1], [1, 0, 0])})`);
		return w.put(`ADVANCED_FACE('',(${w.put(`FACE_OUTER_BOUND('',${loop},.T.)`)}),${plane},.T.)`);
	});
	return w.finish([w.put(`MANIFOLD_SOLID_BREP('',${w.put(`CLOSED_SHELL('',(${[wall, ...caps].join(',')}))`)})`)]);
}
