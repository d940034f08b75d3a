/** Somebody with a browser, as far as the server can tell: signs in, keeps its cookies, sends and is answered. */
export interface Reply {
	status: number;
	// eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers of many shapes
	body: any;
	bytes: number;
}

/** Whoever is signed in and can send: a visitor, or a test's own. */
export interface Sender {
	get(route: string): Promise<Pick<Reply, 'status' | 'body'>>;
	post(route: string, body?: unknown): Promise<Pick<Reply, 'status' | 'body'>>;
}

const PATIENCE_MS = 60_000;

export class Visitor implements Sender {
	private readonly cookies = new Map<string, string>();
	constructor(private readonly base: string) {}
	/** Status 0: no answer. */
	async send(method: string, route: string, body?: unknown): Promise<Reply> {
		try {
			const r = await fetch(this.base + route, {
				method,
				redirect: 'manual',
				headers: {
					origin: this.base,
					...(body === undefined ? {} : { 'content-type': 'application/json' }),
					...(this.cookies.size ? { cookie: [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; ') } : {})
				},
				body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
				signal: AbortSignal.timeout(PATIENCE_MS)
			});
			for (const set of r.headers.getSetCookie()) {
				const [name, value] = set.split(';')[0].split('=');
				this.cookies.set(name, value);
			}
			const text = await r.text();
			let parsed: unknown = text;
			try {
				parsed = JSON.parse(text);
			} catch {
				// a page or a sheet
			}
			return { status: r.status, body: parsed, bytes: text.length };
		} catch {
			return { status: 0, body: undefined, bytes: 0 };
		}
	}
	get = (route: string) => this.send('GET', route);
	post = (route: string, body: unknown = {}) => this.send('POST', route, body);
}
