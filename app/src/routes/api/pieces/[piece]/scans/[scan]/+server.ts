import { answer, idOf } from '$lib/server/api';
import { getDb } from '$store/database';
import { shapeOf } from '$store/scans';

/** The shape of one scan: 32 bit floats, low byte first; of each node where it is drawn and how far it stood from there, x, y, z, mm. */
export const GET = ({ params }) =>
	answer(async () => {
		const shape = await shapeOf(getDb(), idOf(params.piece, 'This piece'), idOf(params.scan, 'This scan'));
		return new Response(new Uint8Array(shape), { headers: { 'content-type': 'application/octet-stream' } });
	});
