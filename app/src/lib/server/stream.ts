import { Listening } from '$store/listening';

/** The one line of this server to the database's notices. */
export const listening = new Listening(() => process.env.DATABASE_URL);

const BEAT_MS = 15_000;

/** Streams have no end of their own: a server that is told to stop ends them, or it would wait for them. */
const open = new Set<() => void>();
let isHeard = false;
function endWithServer(end: () => void) {
	open.add(end);
	if (isHeard) return;
	isHeard = true;
	for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => [...open].forEach((e) => e()));
}

/** Server-sent events: the id of each piece whose log grew; an empty one where any may have. @param piece only this one; all of them when absent */
export function benchStream(signal: AbortSignal, piece?: string): Response {
	const text = new TextEncoder();
	let stop = () => {};
	const body = new ReadableStream<Uint8Array>({
		start(controller) {
			const send = (words: string) => {
				try {
					controller.enqueue(text.encode(words));
				} catch {
					stop();
				}
			};
			send('retry: 2000\n\n');
			const unfollow = listening.follow((id) => (!piece || !id || id === piece) && send(`data: ${id}\n\n`));
			// a line without a word for long is cut by what stands between
			const beat = setInterval(() => send(': here\n\n'), BEAT_MS);
			const end = () => {
				stop();
				try {
					controller.close();
				} catch {
					// whoever followed has gone already
				}
			};
			stop = () => {
				clearInterval(beat);
				unfollow();
				open.delete(end);
			};
			endWithServer(end);
			signal.addEventListener('abort', stop, { once: true });
		},
		cancel: () => stop()
	});
	return new Response(body, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' } });
}
