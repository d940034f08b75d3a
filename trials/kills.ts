/** `npm run test:kills`: 50 kills of the server, 10 of the database, 10 of the worker under four tablets; 33 tasks with three kills. */
import { killedTasks, killing } from './killing';
import { Shop } from './shop';

const shop = await Shop.open();
try {
	const r = await killing(shop, { server: 50, database: 10, worker: 10 });
	console.log(`${r.taps} taps acknowledged: ${r.lost} lost, ${r.twice} twice, ${r.disordered} out of order, ${r.misnamed} under somebody else`);
	console.log(`back at most after: server ${r.backMs.server} ms, database ${r.backMs.database} ms, worker ${r.backMs.worker} ms (asked for: 5000)`);
	const t = await killedTasks(shop, 33, 3);
	console.log(`${t.made} tasks with three kills: ${t.done} done; an idle worker begins a new one after ${t.takenMs.toFixed(0)} ms (asked for: 2000)`);
	const isGood =
		r.lost + r.twice + r.disordered + r.misnamed === 0 && Math.max(...Object.values(r.backMs)) < 5000 && t.done === t.made && t.takenMs < 2000;
	process.exitCode = isGood ? 0 : 1;
} finally {
	await shop.close();
}
process.exit();
