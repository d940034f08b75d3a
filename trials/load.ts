/**
 * `npm run load`: 200 signed-in people at the pace of a shop, run sheets included; how long taps and pages take, and what each kind of
 * request costs the server's own thread. On a quiet machine.
 */
import { randomUUID } from 'node:crypto';
import type { Visitor } from '../standins/visitor';
import { dice, percentile, Shop, sleep } from './shop';

const PEOPLE = 200;
const SECONDS = 60;
/** Between two things a person does, s: half to one and a half times. */
const PACE_S = 12;
const REPEATS = 20;

interface Ask {
	kind: string;
	share: number;
	run: (v: Visitor, job: string, piece: string) => Promise<{ status: number }>;
}
const tap = (v: Visitor, piece: string) =>
	v.post(`/api/pieces/${piece}/events`, {
		events: [{ clientId: randomUUID(), kind: 'note', step: 's', note: 'seen', happenedAt: new Date().toISOString() }]
	});
const ASKS: Ask[] = [
	{ kind: 'tap', share: 0.5, run: (v, _, piece) => tap(v, piece) },
	{ kind: 'run screen', share: 0.2, run: (v, job, piece) => v.get(`/jobs/${job}/weld-out?piece=${piece}`) },
	{ kind: 'jobs', share: 0.1, run: (v) => v.get('/jobs') },
	{ kind: 'measure', share: 0.08, run: (v, job, piece) => v.get(`/jobs/${job}/measure?piece=${piece}`) },
	{ kind: 'hand-over', share: 0.06, run: (v, job, piece) => v.get(`/jobs/${job}/hand-over?piece=${piece}`) },
	{ kind: 'run sheet', share: 0.04, run: (v, job) => v.get(`/api/jobs/${job}/run-sheet.pdf`) },
	{ kind: 'traveller', share: 0.01, run: (v, job) => v.get(`/api/jobs/${job}/traveller.pdf`) },
	{ kind: 'learn', share: 0.01, run: (v, _, piece) => v.get(`/api/pieces/${piece}/learn`) }
];

const shop = await Shop.open();
try {
	const random = dice(3);
	const [planner] = await shop.people(1, ['planner', 'admin'], 'Planner');
	const jobs: { job: string; pieces: string[] }[] = [];
	for (let i = 0; i < 10; i++) jobs.push(await shop.issuedJob(planner.visitor, `Load ${i + 1}`, PEOPLE / 10));
	const people = await shop.people(PEOPLE, ['welder', 'planner'], 'Person');
	const places = people.map((p, i) => ({ ...p, job: jobs[i % 10].job, piece: jobs[i % 10].pieces[Math.floor(i / 10)] }));
	for (const p of places)
		await p.visitor.post(`/api/pieces/${p.piece}/events`, {
			events: [{ clientId: randomUUID(), kind: 'started', happenedAt: new Date().toISOString() }]
		});
	for (const j of jobs) await planner.visitor.get(`/api/jobs/${j.job}/run-sheet.pdf`);

	const times = new Map<string, number[]>();
	let failed = 0;
	const end = Date.now() + 1000 * SECONDS;
	await Promise.all(
		places.map(async ({ visitor, job, piece }) => {
			await sleep(1000 * PACE_S * random());
			while (Date.now() < end) {
				let dart = random();
				const ask = ASKS.find((a) => (dart -= a.share) < 0) ?? ASKS[0];
				const began = Date.now();
				const r = await ask.run(visitor, job, piece);
				if (r.status !== 200) failed++;
				times.set(ask.kind, [...(times.get(ask.kind) ?? []), Date.now() - began]);
				await sleep(1000 * PACE_S * (0.5 + random()));
			}
		})
	);
	console.log(`${PEOPLE} people, ${SECONDS} s, something every ${PACE_S} s each; ${failed} failed`);
	console.log('kind          count   median     p95     CPU of the server’s thread');
	for (const { kind, run } of ASKS) {
		const t = times.get(kind) ?? [];
		const before = shop.cpuMs();
		for (let i = 0; i < REPEATS; i++) await run(places[i].visitor, places[i].job, places[i].piece);
		const cpu = (shop.cpuMs() - before) / REPEATS;
		const figure = (x: number | undefined) => `${x === undefined ? '-' : x.toFixed(0)} ms`.padStart(8);
		console.log(
			`${kind.padEnd(12)}${String(t.length).padStart(7)} ${figure(percentile(t, 0.5))} ${figure(percentile(t, 0.95))}     ${cpu.toFixed(1)} ms`
		);
	}
	const all = [...times.values()].flat();
	console.log(`all: p95 ${percentile(all, 0.95)} ms (asked for taps and pages: under 500)`);
} finally {
	await shop.close();
}
process.exit();
