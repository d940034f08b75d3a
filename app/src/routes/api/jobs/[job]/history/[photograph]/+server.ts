import { answer, idOf } from '$lib/server/api';
import { asJpeg } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { importedPictureOf } from '$store/record';

/** A photograph of the record that a job came with. */
export const GET = ({ params }) =>
	answer(async () => asJpeg(await importedPictureOf(getDb(), idOf(params.job, 'This job'), idOf(params.photograph, 'This photograph'))));
