import { json } from '@sveltejs/kit';
import { answer, auditOf } from '$lib/server/api';
import { nightlyBackup } from '$store/nightly';
import { getDb } from '$store/database';

/** A backup now, where those of the night lie. */
export const POST = (event) => answer(async () => json({ file: await nightlyBackup(getDb(), auditOf(event)) }, { status: 201 }));
