import type { Person } from '$store/auth';
import { getDb } from '$store/database';
import { currentPlan, getJob } from '$store/jobs';
import type { SheetHead } from './pdf';

/** The plan a sheet is printed from, and what stands at its top. */
export async function sheetOf(jobId: string, title: string, person: Person) {
	const job = await getJob(getDb(), jobId);
	const r = await currentPlan(getDb(), jobId);
	const head: SheetHead = { title, job: `${job.number} ${job.name}`, revision: r.revision, state: r.state, printedBy: person.name };
	return { head, plan: r.document, stored: r, quantity: job.quantity };
}

export const asPdf = (bytes: Uint8Array<ArrayBuffer>, name: string) =>
	new Response(bytes, { headers: { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${name}.pdf"` } });
