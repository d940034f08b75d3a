/** For tests of what pages keep: a server whose answers are set one by one, and a browser's store. */
import { afterEach, beforeEach, vi } from 'vitest';

export interface Call {
	method: string;
	path: string;
	body: unknown;
}

/** Answers are given in the order they were set; status 0 is a server that cannot be reached. A call with none waits for ever. */
export function atServer() {
	const calls: Call[] = [];
	const answers: (() => Promise<Response>)[] = [];
	const reply = (status: number, body: unknown) =>
		status === 0 ? Promise.reject(new TypeError('fetch failed')) : Promise.resolve(new Response(JSON.stringify(body), { status }));
	vi.stubGlobal('fetch', (path: string, init: { method: string; body?: string | Blob }) => {
		calls.push({ method: init.method, path, body: typeof init.body === 'string' ? JSON.parse(init.body) : init.body });
		return (answers.shift() ?? (() => new Promise<Response>(() => {})))();
	});
	return {
		calls,
		answer: (status: number, body: unknown) => void answers.push(() => reply(status, body)),
		/** the next call is answered when the returned function is called */
		hold() {
			let give!: (status: number, body: unknown) => void;
			const promise = new Promise<Response>((resolve, reject) => (give = (status, body) => void reply(status, body).then(resolve, reject)));
			answers.push(() => promise);
			return give;
		}
	};
}

/** localStorage and sessionStorage as one map. @param isFull every write is refused */
export function keptInBrowser(isFull = false): Map<string, string> {
	const map = new Map<string, string>();
	const store = {
		getItem: (k: string) => map.get(k) ?? null,
		setItem: (k: string, v: string) => {
			if (isFull) throw new DOMException('full', 'QuotaExceededError');
			map.set(k, v);
		},
		removeItem: (k: string) => void map.delete(k)
	};
	vi.stubGlobal('localStorage', store);
	vi.stubGlobal('sessionStorage', store);
	return map;
}

/** Before each test of a file a server and a browser of its own, with the clock stopped. */
export function freshPage() {
	const now = {} as { server: ReturnType<typeof atServer>; browser: Map<string, string> };
	beforeEach(() => {
		vi.useFakeTimers();
		now.server = atServer();
		now.browser = keptInBrowser();
	});
	afterEach(() => {
		vi.useRealTimers();
		vi.unstubAllGlobals();
	});
	return now;
}
