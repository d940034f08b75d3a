/**
 * A piece carried through by simulated people and devices while the server runs, to be watched on the bench board: issued, welded, read,
 * signed. `node build-node/demo-run.js --speed 20 --job "Seed germination tray"`, with SARTA_URL; `bin/start --demo-run` does it. In a shop
 * without demo data SARTA_PEOPLE names a planner, a welder and an inspector: `NAME:PIN,NAME:PIN,NAME:PIN` (one person may be all three).
 */
import 'reflect-metadata';
import { parseArgs } from 'node:util';
import { benchPlan } from '../core/weldout/benchPlan';
import { DEMO_PEOPLE } from '../store/pins';
import { FastClock, Hand, lastsFor } from './hand';
import { Visitor, type Reply } from './visitor';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { DEMO_SHOP, VirtualPiece } from '../core/practice/virtualShop';

const { values } = parseArgs({
	options: {
		speed: { type: 'string', default: '20' },
		job: { type: 'string', default: 'Seed germination tray' },
		/** the first that waits, where none is named */
		piece: { type: 'string' },
		seed: { type: 'string', default: '17' }
	}
});
const PEOPLE = process.env.SARTA_PEOPLE?.split(',').map((p) => ({ name: p.split(':')[0], pin: p.split(':')[1] ?? '' })) ?? DEMO_PEOPLE;
const base = process.env.SARTA_URL ?? 'http://127.0.0.1:4173';
const [speed, seed] = [Number(values.speed), Number(values.seed)];
if (!(speed >= 1 && speed <= 500) || !Number.isInteger(seed)) {
	console.error('Use: SARTA_URL=… node build-node/demo-run.js [--speed 1 to 500] [--job NAME] [--piece SERIAL] [--seed N]');
	process.exit(2);
}
const say = (line: string) => console.log(`  ${line}`);
const must = ({ status, body }: Reply, what: string) => {
	if (status === 0 || status >= 400) throw new Error(`${what}: ${status ? JSON.stringify(body) : 'no answer'}`);
	return body;
};

async function signIn(at: number): Promise<Visitor> {
	const { name, pin } = PEOPLE[Math.min(at, PEOPLE.length - 1)];
	const v = new Visitor(base);
	must(await v.post('/api/sign-in', { name, pin }), `${name} does not sign in: the demo run wants the demo data and its people, or SARTA_PEOPLE`);
	return v;
}

async function run() {
	const [planner, welder, inspector] = [await signIn(0), await signIn(1), await signIn(2)];
	const { jobs } = must(await planner.get('/api/jobs'), 'The jobs');
	const job = (jobs as { id: string; name: string }[]).find((j) => j.name === values.job);
	if (!job) throw new Error(`There is no job “${values.job}”: name one that is not archived`);
	const { plan: stored } = must(await planner.get(`/api/jobs/${job.id}/plan`), 'The plan');
	if (stored.state === 'draft')
		must(await planner.post(`/api/jobs/${job.id}/issue`, { revision: stored.revision, version: stored.version }), 'The issue');
	const { pieces } = must(await planner.get(`/api/jobs/${job.id}`), 'The job');
	const piece = (pieces as { id: string; serial: string; state: string }[]).find((p) =>
		values.piece ? p.serial === values.piece : p.state === 'waiting'
	);
	if (!piece || piece.state !== 'waiting')
		throw new Error(`${values.piece ?? 'Every piece'} of “${values.job}” is not there or begun already: bin/start --fresh --demo-run begins anew`);
	const plan = stored.document;
	const device = must(
		await planner.post('/api/devices', { kind: 'arc', name: `Arc log of the demo run, ${piece.serial}`, isSimulated: true }),
		'The arc log'
	);
	must(await planner.send('PATCH', `/api/devices/${device.id}`, { piece: piece.id }), 'The arc log at the piece');
	const lasts = lastsFor(plan, benchPlan(plan).steps);
	console.log(
		`Demo run: “${job.name}”, piece ${piece.serial}, ${speed} times as fast as in the shop: about ${Math.ceil(lasts / speed / 60)} minutes.`
	);
	console.log(`Watch it: ${base}/bench, or ${base}/jobs/${job.id}/weld-out?piece=${piece.id}`);
	say('The piece itself is worked out first: the virtual shop’s own metal.');
	const metal = new VirtualPiece(plan, DEMO_SHOP, { seed, kernel: kernelFactory(WebAssembly) });
	const work = {
		base,
		piece: piece.id,
		plan,
		metal,
		welder,
		inspector,
		arcToken: device.token as string,
		clock: new FastClock(speed, lasts),
		seed,
		say
	};
	await new Hand(work).weldOut();
	const signed = await inspector.post(`/api/pieces/${piece.id}/sign`, { accepted: true, statement: 'Simulated: read by the demo run.' });
	console.log(signed.status < 400 ? `Signed and handed over: ${base}/api/pieces/${piece.id}/record.pdf` : `Not signed: ${signed.body.message}`);
	console.log(`What it taught: ${base}/jobs/${job.id}/learn?piece=${piece.id}`);
}

try {
	await run();
} catch (e) {
	console.error(`The demo run stopped: ${(e as Error).message}`);
	process.exitCode = 1;
}
