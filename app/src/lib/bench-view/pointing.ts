/**
 * Things put and dragged on the drawing: which grip is under the pointer, where along a seam or on a part the pointer is, and the ghost
 * that shows where it would go. What may move and what that changes is `grips.ts`.
 */
import * as THREE from 'three';
import type { SeamLine } from '$lib/quick/protocol';
import { snapPlace, snapStation, type Grip, type Pointed } from './grips';
import type { Part } from '$core/document/schema';

export interface Drawing {
	camera: THREE.Camera;
	canvas: HTMLCanvasElement;
	seams(): readonly SeamLine[];
	/** a place on a seam as it is drawn, lifted off the sheet */
	onSeam(s: SeamLine, station: number): THREE.Vector3;
	/** a place on a part as it is drawn */
	onPart(part: string, at: readonly [number, number]): THREE.Vector3 | undefined;
	/** what of the sheet is under the pointer */
	under(e: PointerEvent): { part: string; at: [number, number] } | undefined;
	part(id: string): Part | undefined;
	/** the drawing's own unit of line, mm */
	unit(): number;
	/** the view is turned by the pointer, or not while it drags something */
	turns(on: boolean): void;
	draw(): void;
}
export interface Asked {
	/** what can be taken hold of */
	grips: readonly Grip[];
	/** what the next click puts on, if anything */
	put?: 'seam' | 'part';
	/** places that stay marked, the first joined to the second */
	marked?: readonly Pointed[];
	/** where it would go, or nothing any more */
	onpoint(to: Pointed | undefined, grip?: Grip): void;
	ondrop(grip: Grip, to: Pointed): void;
	onput(to: Pointed): void;
	/** one was pressed and let go without being moved */
	onpick(grip: Grip): void;
}

/** How near the pointer must be to take hold, and to a seam to mean it, px; a finger is wider. */
const NEAR = { mouse: 12, touch: 26 };
const NEAR_SEAM = 40;
/** A pointer that has moved this far drags, px. */
const DRAGS = 3;
/** Snapped within so many px. */
const SNAP = 5;
const SAMPLES = 160;

export class Pointing {
	readonly group = new THREE.Group();
	private asked?: Asked;
	private held?: { grip: Grip; x: number; y: number; isMoved: boolean; to?: Pointed };

	constructor(private readonly d: Drawing) {}

	/** What can be done by pointing now. */
	ask(asked: Asked | undefined) {
		this.asked = asked;
		if (!asked?.put) this.showAt(undefined);
		this.d.canvas.style.cursor = asked?.put ? 'crosshair' : '';
		this.knobs();
		this.showMarked();
	}
	private readonly marked = new THREE.Group();
	private showMarked() {
		this.marked.traverse((o) => (o as THREE.Mesh).geometry?.dispose());
		this.marked.clear();
		this.group.add(this.marked);
		const places = (this.asked?.marked ?? []).flatMap((to) => this.placeIn(to) ?? []);
		const material = { color: '#192026', depthTest: false };
		for (const at of places) {
			const ball = new THREE.Mesh(new THREE.SphereGeometry(this.d.unit() * 1.6, 12, 8), new THREE.MeshBasicMaterial(material));
			ball.position.copy(at);
			this.marked.add(ball);
		}
		if (places.length > 1) this.marked.add(new THREE.Line(new THREE.BufferGeometry().setFromPoints(places), new THREE.LineBasicMaterial(material)));
	}
	private placeIn(to: Pointed): THREE.Vector3 | undefined {
		if (to.on === 'part') return this.d.onPart(to.part, to.at);
		const s = this.d.seams().find((x) => x.joint === to.joint);
		return s && this.d.onSeam(s, to.stationMm);
	}
	get isHolding() {
		return this.held !== undefined;
	}
	get isPutting() {
		return this.asked?.put !== undefined;
	}

	/** @returns whether the pointer took hold of something, and the view must not turn */
	press(e: PointerEvent): boolean {
		const grip = this.gripAt(e);
		if (!grip || this.isPutting) return false;
		this.held = { grip, x: e.clientX, y: e.clientY, isMoved: false };
		this.d.turns(false);
		this.d.canvas.setPointerCapture(e.pointerId);
		return true;
	}
	/** @returns whether this move was ours */
	move(e: PointerEvent): boolean {
		const { asked, held } = this;
		if (!asked) return false;
		if (held) {
			if (Math.hypot(e.clientX - held.x, e.clientY - held.y) > DRAGS) held.isMoved = true;
			if (!held.isMoved) return true;
			held.to = this.placeOf(e, held.grip) ?? held.to;
			this.showAt(held.to);
			asked.onpoint(held.to, held.grip);
			return true;
		}
		if (asked.put && !e.buttons) {
			const to = this.placeFor(e, asked.put);
			this.showAt(to);
			asked.onpoint(to);
			return true;
		}
		if (!e.buttons) this.d.canvas.style.cursor = this.gripAt(e) ? 'grab' : '';
		return false;
	}
	/** @returns whether this was ours: not a click on the piece */
	release(e: PointerEvent): boolean {
		const { asked, held } = this;
		if (!asked) return false;
		if (held) {
			this.letGo();
			if (held.isMoved && held.to) asked.ondrop(held.grip, held.to);
			else asked.onpick(held.grip);
			return true;
		}
		if (!asked.put) return false;
		const to = this.placeFor(e, asked.put);
		if (to) asked.onput(to);
		return true;
	}
	/** What was taken hold of goes back to where it was. */
	letGo() {
		this.held = undefined;
		this.d.turns(true);
		this.showAt(undefined);
		this.asked?.onpoint(undefined);
	}

	private screen(v: THREE.Vector3): { x: number; y: number; depth: number } {
		const box = this.d.canvas.getBoundingClientRect();
		const p = v.clone().project(this.d.camera);
		return { x: box.left + ((p.x + 1) / 2) * box.width, y: box.top + ((1 - p.y) / 2) * box.height, depth: p.z };
	}
	private whereIs(grip: Grip): THREE.Vector3 | undefined {
		if (grip.on === 'part') return this.d.onPart(grip.part, grip.at);
		const s = this.d.seams().find((x) => x.joint === grip.joint);
		return s && this.d.onSeam(s, grip.atMm);
	}
	/** The grip under the pointer; of several the one in front. */
	private gripAt(e: PointerEvent): Grip | undefined {
		const near = e.pointerType === 'touch' ? NEAR.touch : NEAR.mouse;
		let best: { grip: Grip; depth: number } | undefined;
		for (const grip of this.asked?.grips ?? []) {
			const v = this.whereIs(grip);
			const p = v && this.screen(v);
			if (p && Math.hypot(p.x - e.clientX, p.y - e.clientY) <= near && (!best || p.depth < best.depth)) best = { grip, depth: p.depth };
		}
		return best?.grip;
	}

	/** The nearest place of a seam to the pointer, how far off it is (px), and how many mm a pixel is there. */
	private nearestOn(s: SeamLine, e: PointerEvent): { station: number; away: number; mmPerPx: number } {
		let best = { station: 0, away: Infinity, mmPerPx: 1 };
		let last: { x: number; y: number } | undefined;
		for (let i = 0; i <= SAMPLES; i++) {
			const station = (s.lengthMm * i) / SAMPLES;
			const p = this.screen(this.d.onSeam(s, station));
			if (last) {
				// the foot on this little way, in px
				const [dx, dy] = [p.x - last.x, p.y - last.y];
				const long = dx * dx + dy * dy || 1e-9;
				const f = Math.max(0, Math.min(1, ((e.clientX - last.x) * dx + (e.clientY - last.y) * dy) / long));
				const away = Math.hypot(last.x + f * dx - e.clientX, last.y + f * dy - e.clientY);
				if (away < best.away)
					best = { station: (s.lengthMm * (i - 1 + f)) / SAMPLES, away, mmPerPx: s.lengthMm / SAMPLES / Math.max(0.2, Math.sqrt(long)) };
			}
			last = p;
		}
		return best;
	}
	private placeOf(e: PointerEvent, grip: Grip): Pointed | undefined {
		if (grip.on === 'part') {
			const to = this.onPart(e);
			return to?.on === 'part' && (!grip.stays || to.part === grip.part) ? to : undefined;
		}
		const s = this.d.seams().find((x) => x.joint === grip.joint);
		if (!s) return undefined;
		const { station, mmPerPx } = this.nearestOn(s, e);
		const stationMm = Math.max(grip.range[0], Math.min(grip.range[1], snapStation(station, s.lengthMm, SNAP * mmPerPx)));
		return { on: 'seam', joint: grip.joint, stationMm };
	}
	private placeFor(e: PointerEvent, on: 'seam' | 'part'): Pointed | undefined {
		if (on === 'part') return this.onPart(e);
		const found = this.d.seams().map((s) => ({ s, ...this.nearestOn(s, e) }));
		const best = found.reduce<(typeof found)[number] | undefined>((p, q) => (!p || q.away < p.away ? q : p), undefined);
		if (!best || best.away > NEAR_SEAM) return undefined;
		return { on: 'seam', joint: best.s.joint, stationMm: snapStation(best.station, best.s.lengthMm, SNAP * best.mmPerPx) };
	}
	private onPart(e: PointerEvent): Pointed | undefined {
		const hit = this.d.under(e);
		const part = hit && this.d.part(hit.part);
		return hit && part && { on: 'part', part: hit.part, at: [...snapPlace(part, hit.at, 2 * this.d.unit())] };
	}

	private ghost?: THREE.Mesh;
	private showAt(to: Pointed | undefined) {
		if (this.ghost) {
			this.group.remove(this.ghost);
			this.ghost.geometry.dispose();
			this.ghost = undefined;
		}
		const at = to && this.placeIn(to);
		if (at) {
			this.ghost = new THREE.Mesh(
				new THREE.SphereGeometry(this.d.unit() * 3.2, 14, 10),
				new THREE.MeshBasicMaterial({ color: '#b45309', transparent: true, opacity: 0.65, depthTest: false })
			);
			this.ghost.position.copy(at);
			this.group.add(this.ghost);
		}
		this.d.draw();
	}
	private readonly rings: THREE.Mesh[] = [];
	/** A ring round each thing that can be taken hold of; tacks are many, and their dots are enough. */
	knobs() {
		for (const r of this.rings.splice(0)) {
			this.group.remove(r);
			r.geometry.dispose();
			(r.material as THREE.Material).dispose();
		}
		for (const grip of this.asked?.grips ?? []) {
			const at = grip.of === 'tack' ? undefined : this.whereIs(grip);
			if (!at) continue;
			const ring = new THREE.Mesh(
				new THREE.SphereGeometry(this.d.unit() * 2.2, 12, 8),
				new THREE.MeshBasicMaterial({ color: '#b45309', wireframe: true, transparent: true, opacity: 0.55 })
			);
			ring.position.copy(at);
			this.rings.push(ring);
			this.group.add(ring);
		}
		this.d.draw();
	}
}
