/** The bench view's drawing: three.js and nothing of Svelte. Draws only when something changed. */
import { holdPage } from '$lib/hold/kinds';
import type { HoldDrawing } from '$lib/hold/kinds/kind';
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { Part, PlanDocument } from '$core/document/schema';
import type { View } from '$core/draw/view';
import type { Vec3 } from '$core/geometry/vec';
import { seamLetters } from '$core/layout/seamNames';
import { placeOn } from '$core/layout/space';
import type { Geometry, SeamLine } from '$lib/quick/protocol';
import { awayFromMiddle } from './apart';
import { byWhen, diverging } from './colours';
import { Labels } from './labels';
import { Pointing, type Asked } from './pointing';
import { SheetShape } from './sheet';

export interface Picked {
	kind: 'part' | 'joint';
	id: string;
	/** on a part: the place on its flat layout, mm */
	at?: [number, number];
}

const PLACE_SHAPES: Record<(HoldDrawing & { by: 'places' })['shape'], (r: number) => THREE.BufferGeometry> = {
	cone: (r) => new THREE.ConeGeometry(r * 3, r * 7, 12),
	ball: (r) => new THREE.SphereGeometry(r * 2.5, 12, 8),
	drum: (r) => new THREE.CylinderGeometry(r * 5, r * 5, r * 6, 18)
};

/** A slab under flat sheets that lie in one plane, `margin` wider than they are all round. */
function tableTop(parts: readonly Part[], thick: number, margin: number, material: THREE.Material): THREE.Mesh {
	const { origin, x, y } = parts[0].frame;
	const [o, ex, ey] = [new THREE.Vector3(...origin), new THREE.Vector3(...x).normalize(), new THREE.Vector3(...y).normalize()];
	const corners = parts.flatMap((p) => p.outline.map((at) => new THREE.Vector3(...placeOn(p, at).at).sub(o)));
	const span = (e: THREE.Vector3) => {
		const along = corners.map((c) => c.dot(e));
		return [Math.min(...along) - margin, Math.max(...along) + margin];
	};
	const [[x0, x1], [y0, y1]] = [span(ex), span(ey)];
	const up = ex.clone().cross(ey);
	const slab = new THREE.Mesh(new THREE.BoxGeometry(x1 - x0, y1 - y0, thick), material);
	slab.quaternion.setFromRotationMatrix(new THREE.Matrix4().makeBasis(ex, ey, up));
	slab.position
		.copy(o)
		.addScaledVector(ex, (x0 + x1) / 2)
		.addScaledVector(ey, (y0 + y1) / 2)
		.addScaledVector(up, -thick / 2 - Math.max(parts[0].thicknessMm, 0.3 * margin));
	return slab;
}

/** A pointer that has not moved for so long rests on something. */
const HOVER_MS = 120;
/** A view that has not been turned for so long is at rest. */
const REST_MS = 150;

/** Where one stands to look, from the middle of the piece. Straight from above there would be no up: a hair aside. */
const SIDES = {
	corner: [0.42, -0.72, 0.62],
	front: [0, -1, 0],
	right: [1, 0, 0],
	top: [0, -0.001, 1],
	under: [0, -0.001, -1]
} as const satisfies Record<string, readonly [number, number, number]>;
export type Side = keyof typeof SIDES;
/** How much of the sheet is left where it is seen through. */
const GLASS = 0.35;
export const CUT_AXES = ['x', 'y', 'z'] as const;
export type CutAxis = (typeof CUT_AXES)[number];

export class BenchScene {
	private readonly renderer: THREE.WebGLRenderer;
	private readonly scene = new THREE.Scene();
	private readonly camera = new THREE.PerspectiveCamera(32, 1, 1, 50_000);
	private readonly controls: OrbitControls;
	private readonly marks = new THREE.Group();
	private sheet?: THREE.Mesh;
	private shape?: SheetShape;
	private edges?: THREE.LineSegments;
	private ghost?: THREE.LineSegments;
	private readonly labels: Labels;
	private readonly pointing: Pointing;
	private plan?: PlanDocument;
	/** indices of parts that are not shown */
	private hidden: ReadonlySet<number> = new Set();
	private partOfNode = new Uint16Array();
	private readonly plane = new THREE.Plane();
	private hovered = -1;
	private seams: THREE.Mesh[] = [];
	private geometry?: Geometry;
	private displaced = new Float32Array();
	private size = 100;
	private frame = 0;
	private rest?: ReturnType<typeof setTimeout>;

	constructor(
		private readonly canvas: HTMLCanvasElement,
		private readonly onPick: (p: Picked | undefined) => void,
		private readonly onDrawn: () => void,
		/** the part under the pointer, by its index */
		private readonly onHover: (part: number | undefined) => void = () => {}
	) {
		this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: false });
		this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
		this.scene.background = new THREE.Color('#e4e8eb');
		this.scene.add(new THREE.HemisphereLight('#ffffff', '#9aa4ab', 2.4));
		const key = new THREE.DirectionalLight('#fff6e4', 1.6);
		key.position.set(0.6, -0.8, 1.4);
		this.scene.add(key, this.marks);
		this.camera.up.set(0, 0, 1);
		this.labels = new Labels(this.camera, () => this.renderer.getPixelRatio());
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.addEventListener('change', () => this.draw());
		this.pointing = this.pointingAt();
		this.scene.add(this.pointing.group);
		// before the controls hear of it: what is taken hold of is dragged, and the view stands still
		canvas.addEventListener('pointerdown', this.pressed, { capture: true });
		canvas.addEventListener('pointerup', this.released);
		canvas.addEventListener('pointermove', this.moved);
		canvas.addEventListener('pointerleave', this.left);
		canvas.addEventListener('pointercancel', this.cancelled);
	}

	private downAt = { x: 0, y: 0 };
	private readonly pressed = (e: PointerEvent) => {
		this.downAt = { x: e.clientX, y: e.clientY };
		if (this.pointing.press(e)) e.stopImmediatePropagation();
	};
	private readonly cancelled = () => this.pointing.letGo();
	private readonly released = (e: PointerEvent) => {
		if (!this.pointing.isHolding && Math.hypot(e.clientX - this.downAt.x, e.clientY - this.downAt.y) > 4) return; // that was an orbit
		if (this.pointing.release(e)) return;
		const ray = this.rayAt(e);
		const seam = ray.intersectObjects(this.seams)[0];
		if (seam) return this.onPick({ kind: 'joint', id: seam.object.userData.joint as string });
		const hit = this.met(ray);
		this.onPick(hit && this.partAt(hit));
	};
	private hovering?: ReturnType<typeof setTimeout>;
	/** Named when the pointer rests: on a large piece the question takes a while. */
	private readonly moved = (e: PointerEvent) => {
		clearTimeout(this.hovering);
		if (this.pointing.move(e) || e.buttons) return;
		this.hovering = setTimeout(() => {
			const hit = this.met(this.rayAt(e));
			const corner = hit?.faceIndex == null ? undefined : this.shape?.source(3 * hit.faceIndex);
			this.tellHover(corner === undefined ? -1 : this.geometry!.triPart[Math.floor(corner / 3)]);
		}, HOVER_MS);
	};
	private readonly left = () => {
		clearTimeout(this.hovering);
		this.tellHover(-1);
	};
	private tellHover(part: number) {
		if (part === this.hovered) return;
		this.hovered = part;
		this.onHover(part < 0 ? undefined : part);
	}
	private rayAt(e: PointerEvent): THREE.Raycaster {
		const box = this.canvas.getBoundingClientRect();
		const ray = new THREE.Raycaster();
		ray.setFromCamera(new THREE.Vector2(((e.clientX - box.left) / box.width) * 2 - 1, 1 - ((e.clientY - box.top) / box.height) * 2), this.camera);
		return ray;
	}
	/** What can be put or dragged by the pointer now; nothing where the plan is only looked at. */
	point(asked: Asked | undefined) {
		this.pointing.ask(asked);
	}
	/** What was taken hold of goes back. */
	letGo() {
		this.pointing.letGo();
	}
	private pointingAt(): Pointing {
		return new Pointing({
			camera: this.camera,
			canvas: this.canvas,
			// what the stock came with is nobody's work, and what is not shown is not pointed at
			seams: () => (this.geometry?.seams ?? []).filter((s) => !this.plan || this.isPointedAt(this.plan, s.joint)),
			onSeam: (s, station) => this.onSeam(s, station, (this.size / 190) * 1.2),
			onPart: (id, at) => {
				const part = this.plan?.parts.find((p) => p.id === id);
				return part && new THREE.Vector3(...placeOn(part, [...at]).at);
			},
			under: (e) => {
				const hit = this.met(this.rayAt(e));
				const on = hit && this.partAt(hit);
				return on?.at && this.plan ? { part: this.plan.parts[Number(on.id)].id, at: on.at } : undefined;
			},
			part: (id) => this.plan?.parts.find((p) => p.id === id),
			unit: () => this.size / 190,
			turns: (on) => (this.controls.enabled = on),
			draw: () => this.draw()
		});
	}
	/** The first of the sheet that is there to be seen: not what a section has cut away. */
	private met(ray: THREE.Raycaster): THREE.Intersection | undefined {
		return this.sheet && ray.intersectObject(this.sheet).find((hit) => !this.isCut || this.plane.distanceToPoint(hit.point) >= 0);
	}

	/** Which part was met, and where on its flat layout. */
	private partAt({ faceIndex, barycoord }: THREE.Intersection): Picked | undefined {
		const { geometry: g, shape } = this;
		if (!g || !shape || faceIndex == null) return undefined;
		const corners = [0, 1, 2].map((i) => shape.source(3 * faceIndex + i));
		const shares = barycoord ? [barycoord.x, barycoord.y, barycoord.z] : [1, 0, 0];
		const at = [0, 1].map((d) => corners.reduce((s, c, i) => s + shares[i] * g.layout[2 * g.tri[c] + d], 0)) as [number, number];
		return { kind: 'part', id: String(g.triPart[Math.floor(corners[0] / 3)]), at };
	}

	resize(width: number, height: number) {
		if (width < 2 || height < 2) return;
		this.renderer.setSize(width, height, false);
		this.camera.aspect = width / height;
		this.camera.updateProjectionMatrix();
		this.draw();
	}

	/** @param thickness mm of each part, in the drawing's order */
	setGeometry(g: Geometry, thickness: readonly number[]) {
		const first = !this.geometry;
		this.geometry = g;
		this.displaced = g.xyz.slice();
		this.away = undefined;
		for (const old of [this.sheet, this.edges, this.ghost])
			if (old) {
				old.geometry.dispose();
				this.scene.remove(old);
			}
		this.shape = new SheetShape(g, (part) => thickness[part] ?? 1);
		const solid = new THREE.BufferGeometry();
		for (const name of ['position', 'normal', 'color'])
			solid.setAttribute(name, new THREE.BufferAttribute(new Float32Array(3 * this.shape.corners), 3));
		this.sheet = new THREE.Mesh(
			solid,
			new THREE.MeshLambertMaterial({
				vertexColors: true,
				side: THREE.DoubleSide,
				polygonOffset: true,
				polygonOffsetFactor: 1,
				polygonOffsetUnits: 1
			})
		);
		const lines = (colour: string, opacity: number) => {
			const geometry = new THREE.BufferGeometry();
			geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(this.shape!.lines.length * 3), 3));
			return new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: colour, transparent: opacity < 1, opacity }));
		};
		this.edges = lines('#4d5963', 1);
		// the drawing, behind what it has become
		this.ghost = lines('#2a5d86', 0.45);
		this.putLines(this.ghost, g.xyz);
		this.ghost.visible = false;
		this.partOfNode = new Uint16Array(g.xyz.length / 3);
		g.tri.forEach((n, k) => (this.partOfNode[n] = g.triPart[Math.floor(k / 3)]));
		this.scene.add(this.sheet, this.edges, this.ghost);
		this.glaze();
		this.clip();
		const box = new THREE.Box3().setFromArray(Array.from(g.xyz));
		this.size = box.getSize(new THREE.Vector3()).length();
		if (first) this.fit();
		this.place();
	}

	/** Parts that are not shown, by index; what lies on them or between two of them is not either. */
	setHidden(parts: ReadonlySet<number>) {
		this.hidden = parts;
	}
	private apart = 0;
	private away?: Float32Array;
	/** How far the parts are drawn from one another, 0 to 1: what lies on seams is not drawn meanwhile. Before setShape and setMarks. */
	setApart(share: number) {
		this.apart = share;
	}
	private isSeenThrough = false;
	seeThrough(on: boolean) {
		this.isSeenThrough = on;
		this.glaze();
		this.draw();
	}
	private glaze() {
		const material = this.sheet?.material as THREE.MeshLambertMaterial | undefined;
		if (!material) return;
		material.transparent = this.isSeenThrough;
		material.opacity = this.isSeenThrough ? GLASS : 1;
		material.depthWrite = !this.isSeenThrough;
		material.needsUpdate = true;
	}
	private isCut = false;
	/** Cut by a plane square to an axis: what lies before that share of the piece is taken off. Nothing for the whole piece. */
	section(axis: CutAxis, share: number | undefined) {
		this.isCut = share !== undefined;
		this.renderer.localClippingEnabled = this.isCut;
		if (share !== undefined && this.geometry) {
			const box = new THREE.Box3().setFromArray(Array.from(this.geometry.xyz));
			const normal = new THREE.Vector3();
			normal[axis] = 1;
			this.plane.set(normal, -(box.min[axis] + share * (box.max[axis] - box.min[axis])));
		}
		this.clip();
		this.draw();
	}
	private clip() {
		const planes = this.isCut ? [this.plane] : null;
		for (const m of [this.sheet?.material, this.edges?.material, this.ghost?.material]) if (m && !Array.isArray(m)) m.clippingPlanes = planes;
		// what lies on the part that is cut away goes with it
		this.marks.traverse((o) => {
			const m = (o as THREE.Mesh).material as THREE.Material | undefined;
			if (m) m.clippingPlanes = planes;
		});
	}
	/** From where the piece is looked at. */
	view(): View {
		const [right, up, eye] = [0, 1, 2].map((k) => new THREE.Vector3().setFromMatrixColumn(this.camera.matrixWorld, k).toArray() as Vec3);
		return { eye, right, up };
	}
	/** What is on the screen now, as a PNG. */
	picture(): string {
		this.labels.sort(this.canvas.clientHeight);
		this.renderer.render(this.scene, this.camera);
		return this.canvas.toDataURL('image/png');
	}

	private putLines(lines: THREE.LineSegments, xyz: ArrayLike<number>) {
		const position = lines.geometry.getAttribute('position') as THREE.BufferAttribute;
		this.shape!.lines.forEach((n, k) => {
			// a line of no length is not drawn
			const at = this.hidden.has(this.partOfNode[n]) ? this.shape!.lines[0] : n;
			position.setXYZ(k, xyz[3 * at], xyz[3 * at + 1], xyz[3 * at + 2]);
		});
		position.needsUpdate = true;
		lines.geometry.computeBoundingSphere();
	}

	/** The whole piece, from one of the standard sides. */
	fit(from: Side = 'corner') {
		if (!this.geometry) return;
		const box = new THREE.Box3().setFromArray(Array.from(this.geometry.xyz));
		const middle = box.getCenter(new THREE.Vector3());
		const reach = (this.size / 2 / Math.tan((this.camera.fov * Math.PI) / 360)) * (this.camera.aspect < 1 ? 1 / this.camera.aspect : 1);
		this.controls.target.copy(middle);
		this.camera.position.copy(middle).add(new THREE.Vector3(...SIDES[from]).normalize().multiplyScalar(reach));
		this.camera.near = reach / 100;
		this.camera.far = reach * 20;
		this.camera.updateProjectionMatrix();
		this.controls.update();
		this.draw();
	}
	zoom(factor: number) {
		this.camera.position.sub(this.controls.target).multiplyScalar(factor).add(this.controls.target);
		this.controls.update();
		this.draw();
	}
	orbit(azimuth: number, polar: number) {
		const s = new THREE.Spherical().setFromVector3(
			this.camera.position
				.clone()
				.sub(this.controls.target)
				.applyAxisAngle(new THREE.Vector3(1, 0, 0), -Math.PI / 2)
		);
		s.theta += azimuth;
		s.phi = Math.max(0.05, Math.min(Math.PI - 0.05, s.phi + polar));
		this.camera.position
			.copy(new THREE.Vector3().setFromSpherical(s).applyAxisAngle(new THREE.Vector3(1, 0, 0), Math.PI / 2))
			.add(this.controls.target);
		this.controls.update();
		this.draw();
	}

	/** @param u displacement, 3 per node, or undefined for the drawing; @param factor exaggeration; @param scaleMm colour scale, 0 for plain sheet */
	setShape(u: Float32Array | undefined, factor: number, scaleMm: number, selectedPart: number) {
		const { geometry: g, shape, sheet } = this;
		if (!g || !shape || !sheet || !this.edges || !this.ghost) return;
		if (this.apart) this.away ??= awayFromMiddle(g);
		for (let i = 0; i < g.xyz.length; i++) this.displaced[i] = g.xyz[i] + (u ? factor * u[i] : 0) + (this.apart ? this.apart * this.away![i] : 0);
		const [position, normal, colour] = ['position', 'normal', 'color'].map((name) => sheet.geometry.getAttribute(name) as THREE.BufferAttribute);
		shape.fill(this.displaced, position.array as Float32Array, normal.array as Float32Array);
		for (let k = 0; k < shape.corners; k++) {
			const source = shape.source(k);
			const e = Math.floor(source / 3);
			const part = g.triPart[e];
			if (this.hidden.has(part)) position.setXYZ(k, 0, 0, 0);
			if (u && scaleMm > 0) {
				// deviation square to the triangle it is on, towards its front positive
				const c = diverging(this.normalMove(e, g.tri[source], u) / scaleMm);
				colour.setXYZ(k, c[0], c[1], c[2]);
			} else if (part === selectedPart) colour.setXYZ(k, 0.97, 0.86, 0.6);
			else colour.setXYZ(k, 0.8 - 0.025 * (part % 4), 0.83 - 0.025 * (part % 4), 0.85 - 0.02 * (part % 4));
		}
		for (const attribute of [position, normal, colour]) attribute.needsUpdate = true;
		sheet.geometry.computeBoundingSphere();
		this.putLines(this.edges, this.displaced);
		this.putLines(this.ghost, g.xyz);
		this.ghost.visible = u !== undefined && factor > 0 && !this.apart;
		this.draw();
	}

	private normalMove(e: number, node: number, u: Float32Array): number {
		const g = this.geometry!;
		const p = [0, 1, 2].map((i) => 3 * g.tri[3 * e + i]);
		const a = [0, 1, 2].map((d) => g.xyz[p[1] + d] - g.xyz[p[0] + d]);
		const b = [0, 1, 2].map((d) => g.xyz[p[2] + d] - g.xyz[p[0] + d]);
		const n = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
		return (n[0] * u[3 * node] + n[1] * u[3 * node + 1] + n[2] * u[3 * node + 2]) / (Math.hypot(...n) || 1);
	}

	/** A place on a seam as it now lies: station mm from the datum, lifted off the sheet. */
	private onSeam(s: SeamLine, station: number, lift: number): THREE.Vector3 {
		let i = 1;
		while (i < s.stations.length - 1 && s.stations[i] < station) i++;
		const f = Math.min(1, Math.max(0, (station - s.stations[i - 1]) / Math.max(1e-9, s.stations[i] - s.stations[i - 1])));
		const v = (k: number, d: number) => this.displaced[3 * s.nodes[k] + d] + lift * s.side[3 * k + d];
		return new THREE.Vector3(...([0, 1, 2].map((d) => v(i - 1, d) + f * (v(i, d) - v(i - 1, d))) as [number, number, number]));
	}

	/** Seams as bands with station ticks, tacks as dots, runs as numbered arrows, hold-downs as solids. */
	setMarks(
		plan: PlanDocument,
		selected: { kind: string; id: string } | undefined,
		show: { tacks: boolean; runs: boolean; holds: boolean },
		upToRun: number
	) {
		this.marks.traverse((o) => {
			const m = o as THREE.Mesh;
			m.geometry?.dispose();
			const material = m.material as THREE.Material & { map?: THREE.Texture };
			material?.map?.dispose();
			material?.dispose?.();
		});
		this.marks.clear();
		this.plan = plan;
		this.pointing.knobs();
		this.seams = [];
		this.labels.clear();
		const g = this.geometry;
		if (!g || this.apart) return this.draw();
		const r = this.size / 190;
		const letters = seamLetters(plan.joints);
		// a seam between parts that are not shown is not shown either, with all that is on it
		const shown = g.seams.filter((s) => !this.isBetweenHidden(plan, s.joint));
		for (const s of shown) {
			const chosen = selected?.kind === 'joint' && selected.id === s.joint;
			const points = s.stations.map((x) => this.onSeam(s, x, r * 0.4));
			if (points.length < 2) continue;
			const band = tube(points, chosen ? r * 1.5 : r, chosen ? '#d9a441' : '#66747f');
			band.userData.joint = s.joint;
			this.seams.push(band);
			this.marks.add(band);
			const step = s.lengthMm > 900 ? 100 : 50;
			const ticks: THREE.Vector3[] = [];
			for (let x = step; x < s.lengthMm - 1; x += step) ticks.push(this.onSeam(s, x, 0), this.onSeam(s, x, r * 3.2));
			if (ticks.length)
				this.marks.add(new THREE.LineSegments(new THREE.BufferGeometry().setFromPoints(ticks), new THREE.LineBasicMaterial({ color: '#29323a' })));
			const letter = letters.get(s.joint);
			// a seam that the stock came with has no letter and is nobody's work
			if (!letter && !chosen) continue;
			const name = plan.joints.find((j) => j.id === s.joint)?.name ?? s.joint;
			this.labels.add(this.marks, [letter, chosen ? name : ''].filter(Boolean).join('  '), '#192026', this.onSeam(s, s.lengthMm / 2, r * 12), chosen);
			const datum = new THREE.Mesh(new THREE.ConeGeometry(r * 1.6, r * 3.4, 4), new THREE.MeshLambertMaterial({ color: '#29323a' }));
			datum.position.copy(this.onSeam(s, 0, r * 2));
			this.marks.add(datum);
		}
		const seamOf = (joint: string) => shown.find((s) => s.joint === joint);
		if (show.tacks)
			for (const t of plan.tacks) {
				const s = seamOf(t.joint);
				if (!s) continue;
				const dot = new THREE.Mesh(
					new THREE.SphereGeometry(r * (t.stage === 1 ? 1.7 : 1.2), 10, 8),
					new THREE.MeshLambertMaterial({ color: selected?.id === t.id ? '#d9a441' : t.stage === 1 ? '#29323a' : '#4d5963' })
				);
				dot.position.copy(this.onSeam(s, t.stationMm, r * 1.2));
				this.marks.add(dot);
			}
		if (show.runs)
			plan.runs.forEach((run, i) => {
				const s = seamOf(run.joint);
				if (!s || i > upToRun) return;
				const from = this.onSeam(s, run.fromMm, r * 2.6);
				const to = this.onSeam(s, run.toMm, r * 2.6);
				const colour = selected?.id === run.id ? '#b45309' : byWhen(plan.runs.length > 1 ? i / (plan.runs.length - 1) : 0);
				const along = to.clone().sub(from);
				const arrow = new THREE.ArrowHelper(
					along.clone().normalize(),
					from.clone().addScaledVector(along, 0.06),
					along.length() * 0.88,
					colour,
					Math.min(r * 6, along.length() * 0.45),
					r * 4.5
				);
				this.marks.add(arrow);
				this.labels.add(this.marks, String(i + 1), colour, this.onSeam(s, (run.fromMm + run.toMm) / 2, r * 10), selected?.id === run.id);
			});
		if (show.holds)
			for (const h of plan.holdDowns)
				for (const d of holdPage(h.kind).draw(h as never, plan)) this.drawHold(plan, d, r, selected?.id === h.id ? '#d9a441' : d.colour);
		this.clip();
		this.draw();
	}
	private isPointedAt(plan: PlanDocument, joint: string): boolean {
		return !plan.joints.find((x) => x.id === joint)?.stock && !this.isBetweenHidden(plan, joint);
	}
	private isBetweenHidden(plan: PlanDocument, joint: string): boolean {
		const j = plan.joints.find((x) => x.id === joint);
		const isHidden = (part: string) => this.hidden.has(plan.parts.findIndex((p) => p.id === part));
		return j !== undefined && isHidden(j.a.part) && isHidden(j.b.part);
	}

	private drawHold(plan: PlanDocument, d: HoldDrawing, r: number, colour: string) {
		const material = () => new THREE.MeshLambertMaterial({ color: colour });
		if (d.by === 'seam-line' || d.by === 'seam-block') {
			const s = this.geometry?.seams.find((x) => x.joint === d.joint);
			if (!s || this.isBetweenHidden(plan, d.joint)) return;
			if (d.by === 'seam-line') {
				const n = 8;
				const points = Array.from({ length: n + 1 }, (_, i) => this.onSeam(s, d.fromMm + ((d.toMm - d.fromMm) * i) / n, d.lift * r));
				this.marks.add(tube(points, r * d.thick, colour));
			} else {
				const block = new THREE.Mesh(new THREE.BoxGeometry(r * 5, r * 5, r * 9), material());
				block.position.copy(this.onSeam(s, d.stationMm, r * 5));
				this.marks.add(block);
			}
			return;
		}
		const place = (p: { part: string; at: [number, number] }, lift: number) => {
			const part = plan.parts.find((x) => x.id === p.part);
			if (!part || this.hidden.has(plan.parts.indexOf(part))) return undefined;
			const { at, normal } = placeOn(part, p.at);
			return { at: new THREE.Vector3(...at).addScaledVector(new THREE.Vector3(...normal), lift), normal: new THREE.Vector3(...normal) };
		};
		if (d.by === 'top') {
			const parts = plan.parts.filter((p) => d.parts.includes(p.id));
			if (parts.length) this.marks.add(tableTop(parts, d.thickMm, r * 6, material()));
			return;
		}
		if (d.by === 'line') {
			const points = d.ends.flatMap((e) => place(e, d.liftMm)?.at ?? []);
			if (points.length > 1) this.marks.add(tube(points, r * d.thick, colour));
			return;
		}
		for (const p of d.places) {
			const on = place(p, d.lift * r);
			if (!on) continue;
			const m = new THREE.Mesh(PLACE_SHAPES[d.shape](r), material());
			m.quaternion.setFromUnitVectors(new THREE.Vector3(0, 1, 0), on.normal);
			m.position.copy(on.at);
			this.marks.add(m);
		}
	}

	private place() {
		this.setShape(undefined, 0, 0, -1);
	}

	draw() {
		clearTimeout(this.rest);
		this.rest = setTimeout(() => {
			if (this.sheet && !this.isSeenThrough) this.labels.lookBehind(this.sheet, this.size / 100);
			this.render();
		}, REST_MS);
		this.render();
	}

	private render() {
		if (this.frame) return;
		this.frame = requestAnimationFrame(() => {
			this.frame = 0;
			this.labels.sort(this.canvas.clientHeight);
			this.renderer.render(this.scene, this.camera);
			this.onDrawn();
		});
	}

	dispose() {
		cancelAnimationFrame(this.frame);
		clearTimeout(this.rest);
		this.controls.dispose();
		this.canvas.removeEventListener('pointerdown', this.pressed, { capture: true });
		this.canvas.removeEventListener('pointerup', this.released);
		this.canvas.removeEventListener('pointermove', this.moved);
		this.canvas.removeEventListener('pointerleave', this.left);
		this.canvas.removeEventListener('pointercancel', this.cancelled);
		clearTimeout(this.hovering);
		this.renderer.dispose();
	}
}

function tube(points: THREE.Vector3[], radius: number, colour: string): THREE.Mesh {
	return new THREE.Mesh(
		new THREE.TubeGeometry(new THREE.CatmullRomCurve3(points, false, 'catmullrom', 0), Math.max(1, points.length * 2), radius, 6),
		new THREE.MeshLambertMaterial({ color: colour })
	);
}
