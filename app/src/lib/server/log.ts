import pino from 'pino';

/** A lost connection's error carries the whole client, four thousand letters of it: the words and the place are enough. */
function briefly(error: Error & { client?: unknown }) {
	const { client: _, ...rest } = pino.stdSerializers.err(error) as { client?: unknown };
	return rest;
}

export const log = pino({ level: process.env.LOG_LEVEL ?? 'info', redact: ['pin', '*.pin', 'token'], serializers: { err: briefly } });
