import type { RequestEvent } from '@sveltejs/kit';
import { getDb } from '$store/database';
import { currentPlan, getJob } from '$store/jobs';
import { answer, idOf, personOf } from './api';
import { benchPlanOf, sheetInThread } from './compute';
import type { SheetHead } from './pdf';

/** The plan a sheet is printed from, and what stands at its top. */
export async function sheetOf(event: RequestEvent, title: string) {
	const person = personOf(event);
	const job = await getJob(getDb(), idOf(event.params.job, 'This job'));
	const r = await currentPlan(getDb(), job.id);
	const head: SheetHead = { title, job: `${job.number} ${job.name}`, revision: r.revision, state: r.state, printedBy: person.name };
	return { head, plan: r.document, stored: r, quantity: job.quantity, unit: person.units };
}

/** A route for one of the sheets that are made from the bench steps. */
export const benchSheet = (sheet: 'run-sheet' | 'fit-up-sheet' | 'hold-sheet' | 'marks-sheet', title: string) => (event: RequestEvent) =>
	answer(async () => {
		const { head, plan, stored, unit } = await sheetOf(event, title);
		return asPdf(await sheetInThread({ sheet, head, plan, bench: await benchPlanOf(stored), unit }), sheet);
	});

export const asPdf = (bytes: Uint8Array<ArrayBuffer>, name: string) =>
	new Response(bytes, { headers: { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${name}.pdf"` } });

export const asJpeg = (bytes: Buffer) => new Response(new Uint8Array(bytes), { headers: { 'content-type': 'image/jpeg' } });

/** A file to keep. @param name without anything an address or a header could take amiss */
export const asFile = (body: string, type: string, name: string) =>
	new Response(body, { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` } });

export const fileName = (name: string) =>
	name
		.replace(/[^A-Za-z0-9 _-]/g, '')
		.trim()
		.replace(/ +/g, '-') || 'job';
