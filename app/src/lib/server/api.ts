/** One shape for every answer that is not a success, and one way to read a body. */
import { json, type RequestEvent } from '@sveltejs/kit';
import { FaultError, type Fault } from '$core/document/faults';
import { isRefusal, Refusal as PlannersRefusal } from '$core/refusal/refusal';
import type { Person } from '$store/auth';
import { isAway } from '$store/away';
import { ConflictError, MissingError, StateError } from '$store/jobs';
import { log } from './log';
import { parseAs } from './parse';

export interface Refusal {
	message: string;
	faults: Fault[];
	/** what is stored now, when somebody else saved first */
	current?: unknown;
	reference?: string;
}

/** Ordinary bodies; an imported job file may be larger. */
export const BODY_LIMIT = 2_000_000;

export const refuse = (status: number, message: string, faults: Fault[] = [], current?: unknown) =>
	json({ message, faults, ...(current === undefined ? {} : { current }) } satisfies Refusal, { status });

/** A body that was not read to its end. */
class TooLargeError extends FaultError {
	constructor(limit: number) {
		super([{ field: 'body', value: `more than ${limit / 1e6} MB`, allowed: `at most ${limit / 1e6} MB` }]);
	}
}

export const readText = async (request: Request, limit: number) => Buffer.from(await readBytes(request, limit)).toString('utf8');

export async function readBytes(request: Request, limit: number): Promise<Uint8Array> {
	const tooLarge = () => new TooLargeError(limit);
	if (Number(request.headers.get('content-length') ?? 0) > limit) throw tooLarge();
	const reader = request.body?.getReader();
	if (!reader) return new Uint8Array();
	const chunks: Uint8Array[] = [];
	let size = 0;
	for (;;) {
		const { done, value } = await reader.read();
		if (done) break;
		size += value.byteLength;
		if (size > limit) {
			await reader.cancel();
			throw tooLarge();
		}
		chunks.push(value);
	}
	return new Uint8Array(Buffer.concat(chunks));
}

export async function readBody<T extends object>(request: Request, type: new () => T, limit = BODY_LIMIT): Promise<T> {
	return parseAs(type, await readText(request, limit));
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
/** An id from the address. @throws MissingError where it cannot be one */
export function idOf(value: string | undefined, what: string): string {
	if (!value || !UUID.test(value)) throw new MissingError(what);
	return value;
}

/** The signed-in person; the hook has already made sure of one. */
export function personOf(event: RequestEvent): Person {
	if (!event.locals.person) throw new Error('This route is reached without a session: its rule is wrong');
	return event.locals.person;
}

/** Who does it and from where, for the audit. */
export const auditOf = (event: RequestEvent) => ({ by: personOf(event).id, address: event.getClientAddress() });

/** Said while the database is waited for. */
export const AWAY = 'The database cannot be reached at this moment. Nothing is lost: this is tried again by itself.';

const UNIQUE_VIOLATION = '23505';
const pgCode = (e: unknown): string | undefined => {
	const inner = (e as { cause?: unknown }).cause ?? e;
	return (inner as { code?: string }).code;
};

/** Runs a route and turns every expected failure into the one shape. */
export async function answer(work: () => Promise<Response>): Promise<Response> {
	try {
		return await work();
	} catch (e) {
		if (isAway(e)) return refuse(503, AWAY);
		if (e instanceof FaultError) {
			const r = refuse(400, 'Some of this cannot be taken as it is.', e.faults);
			// the rest of it stands on the line still: whatever came behind on that line would wait for it
			if (e instanceof TooLargeError) r.headers.set('connection', 'close');
			return r;
		}
		if (e instanceof ConflictError) return refuse(409, e.message, [], e.current);
		if (e instanceof MissingError) return refuse(404, e.message);
		if (e instanceof StateError) return refuse(422, e.message, [{ field: e.field, value: '', allowed: e.message }]);
		if (e instanceof PlannersRefusal) {
			const { field, value = '', allowed } = e.about;
			return refuse(422, e.message, field ? [{ field, value, allowed: allowed ?? e.message }] : []);
		}
		if (isRefusal(e)) return refuse(422, e.message);
		if (pgCode(e) === UNIQUE_VIOLATION)
			return refuse(409, 'There is already one with this name.', [{ field: 'name', value: '', allowed: 'must not be in use already' }]);
		const reference = crypto.randomUUID().slice(0, 8);
		log.error({ reference, err: e }, 'request failed');
		return json({ message: `Something went wrong here. Nothing was changed. Reference ${reference}.`, faults: [], reference } satisfies Refusal, {
			status: 500
		});
	}
}
