/** Calls to the server: an answer, or a refusal in the one shape every route uses. */
import { heardDate } from '$lib/desk/clock';
import type { Fault } from '$core/document/faults';

export interface Refusal {
	status: number;
	message: string;
	faults: Fault[];
	current?: unknown;
}
export type Answer<T> = { ok: true; data: T } | { ok: false; refusal: Refusal };

/** @param raw sent as it is, instead of a body: text of a file, or a picture */
export async function call<T>(method: 'GET' | 'POST' | 'PUT' | 'PATCH', path: string, body?: unknown, raw?: string | Blob): Promise<Answer<T>> {
	let response: Response;
	try {
		response = await fetch(path, {
			method,
			headers: { 'content-type': typeof raw === 'object' ? 'application/octet-stream' : 'application/json' },
			body: raw ?? (body === undefined ? undefined : JSON.stringify(body))
		});
	} catch {
		return {
			ok: false,
			refusal: { status: 0, message: 'The server cannot be reached. What is on this page stays here: try again when it is back.', faults: [] }
		};
	}
	heardDate(response.headers.get('date'));
	const data = (await response.json().catch(() => ({}))) as Record<string, unknown>;
	if (response.ok) return { ok: true, data: data as T };
	return {
		ok: false,
		refusal: {
			status: response.status,
			message: typeof data.message === 'string' ? data.message : `The server answered ${response.status}.`,
			faults: Array.isArray(data.faults) ? (data.faults as Fault[]) : [],
			current: data.current
		}
	};
}
