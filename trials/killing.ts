/** Server, worker and database are killed while four tablets tap on: what was acknowledged is there, once, in order, under its person. */
import { randomUUID } from 'node:crypto';
import { dice, sleep, type Shop } from './shop';

export interface KillCounts {
	server: number;
	database: number;
	worker: number;
}
export interface KillReport {
	taps: number;
	/** acknowledged and not stored, stored twice, out of order, under somebody else */
	lost: number;
	twice: number;
	disordered: number;
	misnamed: number;
	/** longest until a page that needs the database was answered again, ms, by what was killed */
	backMs: KillCounts;
}

const TABLETS = 4;

export async function killing(shop: Shop, counts: KillCounts, seed = 1): Promise<KillReport> {
	const random = dice(seed);
	const [planner] = await shop.people(1, ['planner', 'admin'], 'Planner');
	const tablets = await shop.people(TABLETS, ['welder'], 'Tablet');
	const { pieces } = await shop.issuedJob(planner.visitor, 'Killed under the work', TABLETS);
	const acknowledged: string[][] = tablets.map(() => []);
	let isOver = false;
	const tapping = tablets.map(async ({ visitor }, i) => {
		for (let n = -1; !isOver; n++) {
			const event = {
				clientId: randomUUID(),
				kind: n < 0 ? 'started' : 'note',
				...(n < 0 ? {} : { step: 's', note: `n${n}` }),
				happenedAt: new Date().toISOString()
			};
			// as a tablet does: the same tap again until it is acknowledged
			while ((await visitor.post(`/api/pieces/${pieces[i]}/events`, { events: [event] })).status !== 200) {
				if (isOver) return;
				await sleep(100);
			}
			acknowledged[i].push(event.clientId);
			await sleep(20 + 60 * random());
		}
	});
	const victims = Object.entries(counts).flatMap(([kind, n]) => Array.from({ length: n }, () => kind as keyof KillCounts));
	victims.sort(() => random() - 0.5);
	const backMs: KillCounts = { server: 0, database: 0, worker: 0 };
	await sleep(500);
	for (const kind of victims) {
		for (let i = 0; !shop.kill(kind) && i < 100; i++) await sleep(100);
		await sleep(30);
		backMs[kind] = Math.max(backMs[kind], await shop.until(planner.visitor));
		await sleep(200 + 600 * random());
	}
	isOver = true;
	await Promise.all(tapping);
	const report: KillReport = { taps: 0, lost: 0, twice: 0, disordered: 0, misnamed: 0, backMs };
	for (const [i, piece] of pieces.entries()) {
		const rows = await shop.query<{ client_id: string; name: string }>(
			'select e.client_id, p.name from bench_events e join people p on p.id = e.person_id where piece_id = $1 order by seq',
			[piece]
		);
		const stored = rows.map((r) => r.client_id);
		const known = new Set(stored);
		report.taps += acknowledged[i].length;
		report.lost += acknowledged[i].filter((id) => !known.has(id)).length;
		report.twice += stored.length - known.size;
		const order = stored.filter((id) => acknowledged[i].includes(id));
		report.disordered += order.filter((id, k) => id !== acknowledged[i][k]).length;
		report.misnamed += rows.filter((r) => r.name !== tablets[i].name).length;
	}
	return report;
}

/** Small, so that many tasks fit into a minute. */
const SMALL_PANEL = { kind: 'butt-panel', parameters: { widthsMm: [60, 60], lengthMm: 160, thicknessMm: 1.5, material: '1.4301' } };

export interface TaskReport {
	made: number;
	done: number;
	/** until an idle worker has begun a new task, ms */
	takenMs: number;
}

/** Tasks with the worker killed under them: none is lost, and an idle worker is at a new one soon. */
export async function killedTasks(shop: Shop, count: number, kills: number): Promise<TaskReport> {
	const [planner] = await shop.people(1, ['planner'], 'Asker');
	const { job } = await shop.issuedJob(planner.visitor, 'Asked for much', 1, SMALL_PANEL);
	const { plan } = (await planner.visitor.get(`/api/jobs/${job}/plan`)).body;
	const ask = async (weight: number) =>
		(
			await planner.visitor.post(`/api/jobs/${job}/tasks`, {
				revision: plan.revision,
				version: plan.version,
				kind: 'presets',
				goals: { weights: [], time: weight, heat: 1, flip: 1, mayReverse: false, restarts: 0 }
			})
		).body.task?.id as string;
	const ids: string[] = [];
	for (let i = 0; i < count; i++) ids.push(await ask(1 + i / 100));
	const states = async () =>
		(await shop.query<{ state: string; n: string }>('select state, count(*) as n from tasks where id = any($1) group by state', [ids])).reduce<
			Record<string, number>
		>((all, r) => ({ ...all, [r.state]: Number(r.n) }), {});
	for (let k = 0; k < kills; k++) {
		for (let i = 0; !(await states()).running && i < 300; i++) await sleep(100);
		shop.kill('worker');
		await sleep(1500);
	}
	// each takes some ten seconds of a worker; given up after twenty minutes
	for (let i = 0; i < 4800; i++) {
		const s = await states();
		if ((s.done ?? 0) + (s.failed ?? 0) + (s.cancelled ?? 0) === count) break;
		await sleep(250);
	}
	const done = (await states()).done ?? 0;
	await sleep(3000);
	const last = await ask(50);
	let takenMs = Infinity;
	for (let i = 0; i < 200 && takenMs === Infinity; i++) {
		const [row] = await shop.query<{ ms: string | null }>(
			'select extract(epoch from started_at - created_at) * 1000 as ms from tasks where id = $1',
			[last]
		);
		if (row?.ms) takenMs = Number(row.ms);
		await sleep(100);
	}
	ids.push(last);
	for (let i = 0; i < 240 && (await states()).running; i++) await sleep(250);
	return { made: ids.length - 1, done, takenMs };
}
