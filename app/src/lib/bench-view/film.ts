/** The welding as a film or as a strip of pictures: what is on the canvas while the steps go by, by the browser's own recorder. */

const TYPES = ['video/webm;codecs=vp9', 'video/webm;codecs=vp8', 'video/webm'];
/** The last picture stays for so long, ms. */
const LAST_MS = 900;
const wait = (ms: number) => new Promise<void>((go) => setTimeout(go, ms));

/** @param play shows the steps one after the other @throws Error where this browser records nothing */
export async function recordFilm(canvas: HTMLCanvasElement, play: () => Promise<void>): Promise<Blob> {
	const type = typeof MediaRecorder === 'undefined' ? undefined : TYPES.find((t) => MediaRecorder.isTypeSupported(t));
	if (!type || typeof canvas.captureStream !== 'function') throw new Error('This browser records no film: take the strip of pictures.');
	const stream = canvas.captureStream(25);
	const recorder = new MediaRecorder(stream, { mimeType: type });
	const chunks: Blob[] = [];
	recorder.ondataavailable = (e) => void (e.data.size && chunks.push(e.data));
	const over = new Promise<void>((go) => (recorder.onstop = () => go()));
	recorder.start(200);
	try {
		await play();
		await wait(LAST_MS);
	} finally {
		recorder.stop();
		for (const track of stream.getTracks()) track.stop();
	}
	await over;
	return new Blob(chunks, { type: 'video/webm' });
}

export interface Still {
	/** data URL */
	picture: string;
	label: string;
}

const WIDE = 420;
const LABEL = 34;
const ACROSS = 3;

/** Pictures side by side, three in a row, each with its words under it. @returns a PNG */
export async function stripOf(stills: readonly Still[]): Promise<Blob> {
	const images = await Promise.all(
		stills.map(async ({ picture }) => {
			const image = new Image();
			image.src = picture;
			await image.decode();
			return image;
		})
	);
	const tall = Math.round((WIDE * images[0].height) / images[0].width);
	const canvas = document.createElement('canvas');
	canvas.width = WIDE * Math.min(ACROSS, stills.length);
	canvas.height = (tall + LABEL) * Math.ceil(stills.length / ACROSS);
	const c = canvas.getContext('2d')!;
	c.fillStyle = '#ffffff';
	c.fillRect(0, 0, canvas.width, canvas.height);
	c.font = '500 17px "IBM Plex Sans", sans-serif';
	c.fillStyle = '#192026';
	stills.forEach(({ label }, i) => {
		const [x, y] = [WIDE * (i % ACROSS), (tall + LABEL) * Math.floor(i / ACROSS)];
		c.drawImage(images[i], x, y, WIDE, tall);
		c.fillText(`${i + 1}. ${label}`, x + 8, y + tall + 22, WIDE - 16);
	});
	return new Promise((go, no) => canvas.toBlob((b) => (b ? go(b) : no(new Error('The strip could not be made.'))), 'image/png'));
}

/** So many of the steps, evenly, the first and the last among them. */
export function evenly(count: number, most: number): number[] {
	if (count <= most) return Array.from({ length: count }, (_, i) => i);
	return Array.from({ length: most }, (_, i) => Math.round((i * (count - 1)) / (most - 1)));
}
