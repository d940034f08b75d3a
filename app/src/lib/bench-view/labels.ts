/** Words on the drawing: of one size on the screen, never over one another, and not there where what they name is behind the sheet. */
import * as THREE from 'three';

/** How high a label is on the screen, however far it is. */
const LABEL_PX = 18;

export class Labels {
	/** the ones that matter most first */
	private list: THREE.Sprite[] = [];

	constructor(
		private readonly camera: THREE.PerspectiveCamera,
		private readonly sharpness: () => number
	) {}

	clear() {
		this.list = [];
	}

	/** @param isFirst it is shown whatever else would cover it, and in front of everything */
	add(to: THREE.Object3D, words: string, colour: string, at: THREE.Vector3, isFirst: boolean) {
		const label = this.text(words, colour, isFirst);
		label.position.copy(at);
		label.userData.anchor = at.clone();
		label.userData.isFirst = isFirst;
		if (isFirst) this.list.unshift(label);
		else this.list.push(label);
		to.add(label);
	}

	private text(words: string, colour: string, strong: boolean): THREE.Sprite {
		const canvas = document.createElement('canvas');
		const c = canvas.getContext('2d')!;
		const sharp = 2 * this.sharpness();
		const font = `600 ${0.74 * LABEL_PX * sharp}px Barlow, sans-serif`;
		c.font = font;
		const [w, h] = [Math.ceil(c.measureText(words).width + 0.6 * LABEL_PX * sharp), LABEL_PX * sharp];
		canvas.width = w;
		canvas.height = h;
		c.font = font;
		c.fillStyle = strong ? '#fdf8ec' : '#ffffff';
		c.fillRect(0, 0, w, h);
		c.fillStyle = colour;
		c.fillRect(0, h - 1.5 * sharp, w, 1.5 * sharp);
		c.fillStyle = '#192026';
		c.textBaseline = 'middle';
		c.fillText(words, 0.3 * LABEL_PX * sharp, 0.5 * h);
		const map = new THREE.CanvasTexture(canvas);
		map.colorSpace = THREE.SRGBColorSpace;
		// hidden whole where its place is behind the sheet, never cut by it
		const sprite = new THREE.Sprite(new THREE.SpriteMaterial({ map, depthTest: false }));
		sprite.renderOrder = 1;
		sprite.userData.wide = w / h;
		return sprite;
	}

	/** Of labels that would cover one another on the screen the one that matters more is shown. @param heightPx of the drawing */
	sort(heightPx: number) {
		const taken: { x: number; y: number; w: number; h: number }[] = [];
		const { aspect } = this.camera;
		const tall = 2 * Math.tan((this.camera.fov * Math.PI) / 360);
		this.camera.updateMatrixWorld();
		for (const label of this.list) {
			const anchor = label.userData.anchor as THREE.Vector3;
			const far = anchor.distanceTo(this.camera.position) * tall;
			const high = (LABEL_PX * far) / Math.max(1, heightPx);
			label.scale.set(high * (label.userData.wide as number), high, 1);
			const p = anchor.clone().project(this.camera);
			// half sizes in the same measure as the projected place
			const box = { x: p.x * aspect, y: p.y, w: label.scale.x / far, h: label.scale.y / far };
			label.visible = !label.userData.isBehind && !taken.some((t) => Math.abs(t.x - box.x) < t.w + box.w && Math.abs(t.y - box.y) < t.h + box.h);
			if (label.visible) taken.push(box);
		}
	}

	/** Asked when the view has come to rest, for on a large piece it takes a while. @param nearMm so far before its place a sheet hides nothing */
	lookBehind(sheet: THREE.Object3D, nearMm: number) {
		const ray = new THREE.Raycaster();
		for (const label of this.list) {
			const to = (label.userData.anchor as THREE.Vector3).clone().sub(this.camera.position);
			ray.far = to.length() - nearMm;
			ray.set(this.camera.position, to.normalize());
			label.userData.isBehind = !label.userData.isFirst && ray.intersectObject(sheet, false).length > 0;
		}
	}
}
