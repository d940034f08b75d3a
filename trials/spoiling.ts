/** Files and requests with something wrong in them: each is refused in words, none is a crash, none holds the server's thread. */
import { randomUUID } from 'node:crypto';
import http from 'node:http';
import { dice, Shop, sleep } from './shop';

export interface SpoilReport {
	files: number;
	requests: number;
	/** answers of 500 and more, and none at all */
	crashes: string[];
	/** files that were taken although changed: harmless changes are */
	taken: number;
	/** longest that an answer of no work waited, ms */
	stallMs: number;
	/** most that the server's own thread worked while such an answer waited, ms: how long it was held, and not how long others had the machine */
	heldMs: number;
	largestAnswer: number;
	/** requests that had no answer on a line the server had closed after refusing a large body unread, and one on a new line */
	cut: number;
}

const JUNK: unknown[] = [
	null,
	'',
	'x'.repeat(3000),
	-1,
	0,
	1e308,
	-1e-308,
	7.5,
	true,
	[],
	{},
	[[[[]]]],
	'\u0000',
	'\ud800',
	'<b>',
	{ __proto__: { a: 1 } },
	'constructor'
];

type Tree = Record<string, unknown>;
/** A copy with one place changed: a value replaced, a field gone, one more, a list doubled, or a bit of the text cut out. */
function spoilt(text: string, random: () => number): string {
	const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)];
	const kind = random();
	if (kind < 0.15) {
		const at = Math.floor(random() * text.length);
		return text.slice(0, at) + text.slice(at + 1 + Math.floor(random() * 40));
	}
	if (kind < 0.2) return text.slice(0, Math.floor(random() * text.length));
	const root = JSON.parse(text) as Tree;
	let at: Tree = root;
	for (;;) {
		const keys = Object.keys(at);
		if (!keys.length) break;
		const key = pick(keys);
		const inner = at[key];
		if (typeof inner === 'object' && inner !== null && random() < 0.8) {
			at = inner as Tree;
			continue;
		}
		const how = random();
		if (how < 0.6) at[key] = pick(JUNK);
		else if (how < 0.75) delete at[key];
		else if (how < 0.85) at[`x${Math.floor(random() * 9)}`] = pick(JUNK);
		else if (Array.isArray(inner)) at[key] = [...(inner as unknown[]), ...(inner as unknown[])];
		else if (typeof inner === 'number') at[key] = -inner * 10 ** Math.floor(random() * 12 - 3);
		else at[key] = [inner];
		break;
	}
	return JSON.stringify(root);
}

const onNewLine = (address: string) =>
	new Promise<void>((done) => {
		http
			.get(address, { agent: false }, (res) => {
				res.resume();
				res.on('close', done);
			})
			.on('error', () => done());
	});

export async function spoiling(shop: Shop, files: number, requests: number, seed = 5): Promise<SpoilReport> {
	const random = dice(seed);
	const [admin] = await shop.people(1, ['planner', 'welder', 'inspector', 'admin'], 'Spoiler');
	const { visitor } = admin;
	const { job, pieces } = await shop.issuedJob(visitor, 'To be spoilt', 2);
	await visitor.post(`/api/pieces/${pieces[0]}/events`, {
		events: [{ clientId: randomUUID(), kind: 'started', happenedAt: new Date().toISOString() }]
	});
	const whole = JSON.stringify((await visitor.get(`/api/jobs/${job}/export`)).body);
	const record = JSON.stringify((await visitor.get(`/api/jobs/${job}/record`)).body);
	const { plan } = (await visitor.get(`/api/jobs/${job}/plan`)).body;
	const report: SpoilReport = { files, requests, crashes: [], taken: 0, stallMs: 0, heldMs: 0, largestAnswer: 0, cut: 0 };
	let isOver = false;
	const before = shop.restarts;
	// somebody who is not signed in asks for what needs no work, on a line of its own each time: how long that waits is how long the thread
	// was held, and not how long a kept line stood behind a large body
	const server = shop.pid('server')!;
	const probe = (async () => {
		while (!isOver && shop.restarts === before) {
			const began = performance.now();
			const worked = shop.cpuOf(server);
			await onNewLine(`${shop.base}/api/jobs`);
			const waited = performance.now() - began;
			report.stallMs = Math.max(report.stallMs, waited);
			report.heldMs = Math.max(report.heldMs, Math.min(waited, shop.cpuOf(server) - worked));
			await sleep(20);
		}
	})();
	const tell = (what: string, r: { status: number; body: unknown; bytes: number }) => {
		report.largestAnswer = Math.max(report.largestAnswer, r.bytes);
		if (r.status === 0 || r.status >= 500) report.crashes.push(`${r.status} ${what}`.slice(0, 300));
	};
	const BATCH = 8;
	for (let i = 0; i < files; i += BATCH)
		await Promise.all(
			Array.from({ length: Math.min(BATCH, files - i) }, async () => {
				const text = spoilt(random() < 0.85 ? whole : record, random);
				const r = await visitor.send('POST', '/api/jobs/import', text);
				if (r.status === 201) report.taken++;
				tell(`import ${text.slice(0, 200)}`, r);
			})
		);
	const reading = {
		clientId: randomUUID(),
		feature: 'mouth-width',
		method: 'tape',
		moment: 'cold',
		posture: 'three-points',
		instrument: 'Tape',
		readings: [140]
	};
	const event = { clientId: randomUUID(), kind: 'note', step: 's', note: 'x', happenedAt: new Date().toISOString() };
	const asks: [string, string, unknown][] = [
		['POST', '/api/sign-in', { name: 'Nobody', pin: '7391' }],
		['POST', '/api/jobs', { name: 'x', quantity: 1, family: { kind: 'open-trough', parameters: {} } }],
		['PATCH', `/api/jobs/${job}`, { version: 1, name: 'y', quantity: 2, notes: 'z' }],
		['PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: plan.version, plan: plan.document }],
		['POST', `/api/jobs/${job}/issue`, { revision: 1, version: 1 }],
		['POST', `/api/jobs/${job}/duplicate`, { name: 'copy' }],
		['POST', `/api/pieces/${pieces[0]}/events`, { events: [event] }],
		['POST', `/api/pieces/${pieces[0]}/measurements`, reading],
		['POST', `/api/pieces/${pieces[1]}/sign`, { accepted: true, statement: 'x' }],
		['POST', '/api/people', { name: `P ${randomUUID()}`, pin: '7391', roles: ['welder'] }],
		['PATCH', '/api/me', { units: 'mm' }],
		['PATCH', '/api/settings', { inspectorMayWeld: 'alone' }],
		['POST', '/api/heats', { heat: 'h', materialId: '1.4301', thicknessMm: 1.5 }]
	];
	/** as large as a body may be, and as awkward */
	const heavy = [
		`[${'[],'.repeat(600_000)}[]]`,
		`{"plan":{"parts":[${'{},'.repeat(400_000)}{}]}}`,
		`{"a":${'{"a":'.repeat(900)}1${'}'.repeat(900)}}`,
		JSON.stringify({ events: Array.from({ length: 5000 }, () => ({ x: 'y'.repeat(300) })) })
	];
	for (let i = 0; i < requests; i++) {
		const [method, route, body] = asks[Math.floor(random() * asks.length)];
		const text = random() < 0.01 ? heavy[Math.floor(random() * heavy.length)] : spoilt(JSON.stringify(body), random);
		const address =
			random() < 0.1
				? route.replace(/[0-9a-f]{8}-[0-9a-f-]+/, () => ['%00', '..%2f..', 'x'.repeat(2000), "'; drop"][Math.floor(random() * 4)])
				: route;
		let r = await visitor.send(method, address, text);
		// as a browser does: a kept line that turns out to be closed is no answer, and the request goes again on a new one
		if (r.status === 0 && shop.restarts === before) {
			report.cut++;
			r = await visitor.send(method, address, text);
		}
		tell(`${method} ${address.slice(0, 80)} ${text.slice(0, 160)}`, r);
	}
	isOver = true;
	await probe;
	if (shop.restarts > before) report.crashes.push(`a process ended ${shop.restarts - before} times`);
	return report;
}
