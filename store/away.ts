/** A database that is away for a moment: restarted, or the line to it cut. It is waited for, and never taken for a fault of the program. */

/** Classes and codes of PostgreSQL for a lost or refused connection, and those of the socket under it. */
const CODES = /^(08\w{3}|57P0[123]|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN)$/;
const WORDS = /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/;

export function isAway(e: unknown): boolean {
	for (let at: unknown = e, depth = 0; at && depth < 5; at = (at as { cause?: unknown }).cause, depth++) {
		const { code, message, errors } = at as { code?: unknown; message?: unknown; errors?: unknown[] };
		if (typeof code === 'string' && CODES.test(code)) return true;
		if (typeof message === 'string' && WORDS.test(message)) return true;
		if (Array.isArray(errors) && errors.some(isAway)) return true;
	}
	return false;
}

const AGAIN_MS = 200;

/** Tries again while the database is away, for so long at most. Only for what may be done twice. */
export async function patiently<T>(work: () => Promise<T>, forMs = 5000): Promise<T> {
	const end = Date.now() + forMs;
	for (;;)
		try {
			return await work();
		} catch (e) {
			if (!isAway(e) || Date.now() > end) throw e;
			await new Promise((go) => setTimeout(go, AGAIN_MS));
		}
}
