/** A photograph as a camera gives it, made fit to keep: upright, of a size to look at, without what the camera wrote beside it. */
import sharp from 'sharp';
import { FaultError } from '$core/document/faults';

/** Bytes of one as it arrives. */
export const PHOTOGRAPH_LIMIT = 10_000_000;
/** The longer edge, px: a crater is still seen. */
const LONGEST_PX = 1600;
const SMALL_PX = 360;
/** A file of few bytes can ask for a wall of memory; no tablet's camera has more, px. */
const MOST_PX = 120e6;
const KIND_WORDS = 'must be a JPEG, PNG or WebP picture';

// one thread: pages are answered beside it
sharp.concurrency(1);

export interface Kept {
	picture: Buffer;
	small: Buffer;
	widthPx: number;
	heightPx: number;
}

const refuse = (value: string, allowed: string) => new FaultError([{ field: 'photograph', value, allowed }]);

/** What a browser's camera or a file of one gives, by its first bytes, whatever the file is called: nothing else is given to a decoder, for it would know dozens. */
function kindOf(bytes: Uint8Array): string | undefined {
	const starts = (at: number, ...of: number[]) => of.every((b, i) => bytes[at + i] === b);
	if (starts(0, 0xff, 0xd8, 0xff)) return 'jpeg';
	if (starts(0, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
	if (starts(0, 0x52, 0x49, 0x46, 0x46) && starts(8, 0x57, 0x45, 0x42, 0x50)) return 'webp';
	return undefined;
}

/** @throws FaultError where it is no picture, or one that cannot be read to its end */
export async function keptPhotograph(bytes: Uint8Array): Promise<Kept> {
	if (!bytes.length) throw refuse('nothing', KIND_WORDS);
	const kind = kindOf(bytes);
	if (!kind) throw refuse('something else', KIND_WORDS);
	try {
		// what the camera wrote beside the picture, place and owner among it, is not carried over
		const { data: picture, info } = await sharp(bytes, { failOn: 'error', limitInputPixels: MOST_PX, animated: false })
			.autoOrient()
			.resize({ width: LONGEST_PX, height: LONGEST_PX, fit: 'inside', withoutEnlargement: true })
			.flatten({ background: '#ffffff' })
			.jpeg({ quality: 80 })
			.toBuffer({ resolveWithObject: true });
		const small = await sharp(picture)
			.resize({ width: SMALL_PX, height: SMALL_PX, fit: 'inside', withoutEnlargement: true })
			.jpeg({ quality: 70 })
			.toBuffer();
		return { picture, small, widthPx: info.width, heightPx: info.height };
	} catch {
		throw refuse(`a ${kind} file that cannot be read`, 'must be a whole picture: take it again');
	}
}
