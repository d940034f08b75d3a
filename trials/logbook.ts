/** `npm run logbook`: 10,000 signed pieces, and how long the logbook takes to answer. On a quiet machine. */
import { dice, percentile, Shop } from './shop';

const JOBS = 250;
const PIECES = 40;
const REPEATS = 15;

const shop = await Shop.open();
try {
	const [planner] = await shop.people(1, ['planner', 'admin'], 'Planner');
	const welders = await shop.people(12, ['welder'], 'Welder');
	const { job } = await shop.issuedJob(planner.visitor, 'Logbook', 1);
	const people = await shop.query<{ id: string; name: string }>('select id, name from people where name = any($1)', [welders.map((w) => w.name)]);
	// the same plan again and again, in the metals a shop has
	await shop.query(
		`with made as (
			insert into jobs (name, customer, quantity, created_by, updated_by)
			select 'Tank ' || n, 'Customer ' || n % 40, $2, j.created_by, j.created_by from generate_series(1, $3::int) n, jobs j where j.id = $1 returning id
		)
		insert into plan_revisions (job_id, revision, state, document, document_version, family, material, thickness_mm, created_by, updated_by, issued_by, issued_at)
		select m.id, 1, 'issued', r.document, r.document_version, r.family, (array['1.4301', '1.4404', '1.4541'])[1 + floor(3 * random())::int],
			(array[1, 1.5, 2])[1 + floor(3 * random())::int], r.created_by, r.created_by, r.created_by, now()
		from made m, plan_revisions r where r.job_id = $1`,
		[job, PIECES, JOBS]
	);
	await shop.query(
		`insert into pieces (job_id, serial, state) select j.id, j.number || '-' || n, 'handed-over' from jobs j, generate_series(1, $1::int) n where j.name like 'Tank %'`,
		[PIECES]
	);
	const random = dice(11);
	const features = ['Mouth width', 'Rim straightness', 'Floor flatness', 'Wall to floor', 'Squareness'];
	const summary = () => ({
		outside: random() < 0.2 ? [features[Math.floor(5 * random())]] : [],
		unsure: [],
		problems: random() < 0.1 ? [{ note: `Burn-through ${Math.floor(6 * random())}`, decided: 'reworked' }] : [],
		corrections: random() < 0.2 ? [{ way: 'pressed', feature: 'Mouth width', gave: random() - 0.2 }] : [],
		waitS: 2000 * random(),
		reworkMin: 20 * random(),
		welders: [people[Math.floor(people.length * random())]],
		joints: ['corner-edge', ...(random() < 0.5 ? ['tee'] : [])]
	});
	const ids = await shop.query<{ id: string }>(`select p.id from pieces p join jobs j on j.id = p.job_id where j.name like 'Tank %'`);
	await shop.query(
		`insert into signatures (piece_id, plan_revision_id, statement, accepted, summary, signed_by, signed_at)
		select p.id, r.id, 'Seen.', random() < 0.95, s.summary, $3, now() - random() * interval '700 days'
		from unnest($1::uuid[], $2::jsonb[]) s (id, summary) join pieces p on p.id = s.id join plan_revisions r on r.job_id = p.job_id`,
		[ids.map((p) => p.id), ids.map(() => JSON.stringify(summary())), people[0].id]
	);
	console.log(`${ids.length} signed pieces of ${JOBS} jobs`);
	for (const [what, query] of [
		['as it opens', ''],
		['searched', '?search=burn-through'],
		['one welder, one metal', `?welder=${people[3].id}&material=1.4404`],
		['a joint and a year', '?joint=tee&from=2026-01-01&to=2026-12-31'],
		['right first time', '?outcome=right'],
		['its last page', '?page=200']
	] as const) {
		const times: number[] = [];
		for (let i = 0; i < REPEATS; i++) {
			const began = performance.now();
			const r = await planner.visitor.get(`/logbook${query}`);
			if (r.status !== 200) throw new Error(`${what}: ${r.status}`);
			times.push(performance.now() - began);
		}
		console.log(`${what.padEnd(24)} middle ${percentile(times, 0.5).toFixed(0)} ms, slowest ${percentile(times, 1).toFixed(0)} ms`);
	}
	const began = performance.now();
	const csv = await planner.visitor.get('/api/logbook.csv');
	console.log(`CSV of all               ${(performance.now() - began).toFixed(0)} ms, ${(csv.bytes / 1e6).toFixed(1)} MB, ${csv.status}`);
} finally {
	await shop.close();
}
