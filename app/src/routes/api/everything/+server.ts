import { once } from 'node:events';
import { Readable } from 'node:stream';
import { ZipArchive } from 'archiver';
import { answer, auditOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { log } from '$lib/server/log';
import { writeAudit } from '$store/audit';
import { getDb } from '$store/database';
import { everything } from '$store/everything';

/** Every job with its record, people, library, factors and audit: open files in one archive, written while it is sent. */
export const GET = (event) =>
	answer(async () => {
		const db = getDb();
		const files = everything(db, async (r) => (await benchPlanOf(r)).steps);
		// the first is made before the answer begins: what fails at once is said in words
		const first = await files.next();
		await writeAudit(db, 'exported', { ...auditOf(event), about: 'everything' });
		const zip = new ZipArchive();
		const gone = new AbortController();
		zip.once('close', () => gone.abort());
		const fill = async () => {
			for (let at = first; !at.done; at = await files.next()) {
				zip.append(at.value.text, { name: at.value.name });
				await once(zip, 'entry', { signal: gone.signal });
			}
			await zip.finalize();
		};
		fill().catch((e: unknown) => {
			// whoever asked has gone: nobody waits for the rest
			if (gone.signal.aborted) return;
			log.error({ err: e }, 'the export of everything broke off');
			zip.destroy(e as Error);
		});
		return new Response(Readable.toWeb(zip) as ReadableStream<Uint8Array>, {
			headers: {
				'content-type': 'application/zip',
				'content-disposition': `attachment; filename="sarta-everything-${new Date().toISOString().slice(0, 10)}.zip"`
			}
		});
	});
