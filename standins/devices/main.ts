/**
 * One simulated device: `node build-node/device.js KIND`, with SARTA_DEVICE_URL and SARTA_DEVICE_TOKEN. Sends by the open protocol of
 * docs/devices.md; a line on its standard input presses its switch. `--hotter 1.3 --slower 1.2` make an arc log that is not as planned.
 */
import 'reflect-metadata';
import { DEVICE_KINDS, type DeviceKind } from '../../core/document/words';
import { randomUUID } from 'node:crypto';
import { createInterface } from 'node:readline';
import { parseArgs } from 'node:util';
import type { Bench, Values } from './device';
import { arc, SIMULATED } from './kinds';

const { values, positionals } = parseArgs({
	allowPositionals: true,
	options: { hotter: { type: 'string', default: '1' }, slower: { type: 'string', default: '1' }, seed: { type: 'string', default: '1' } }
});
const kind = DEVICE_KINDS.find((k) => k === positionals[0]);
const { SARTA_DEVICE_URL: url, SARTA_DEVICE_TOKEN: token } = process.env;
const [hotter, slower, seed] = [Number(values.hotter), Number(values.slower), Number(values.seed)];
if (!kind || !url || !token || ![hotter, slower, seed].every((n) => n > 0)) {
	console.error(
		`Use: SARTA_DEVICE_URL=… SARTA_DEVICE_TOKEN=… node build-node/device.js ${DEVICE_KINDS.join('|')} [--hotter N] [--slower N] [--seed N]`
	);
	process.exit(2);
}

const device = kind === 'arc' ? arc(seed, hotter, slower) : SIMULATED[kind satisfies DeviceKind](seed);
let bench: Bench | null = null;
/** what could not be sent yet, oldest first */
let waiting: string[] = [];
const KEPT = 2000;
const line = (v: Values) => JSON.stringify({ id: randomUUID(), at: new Date().toISOString(), ...v });

async function send() {
	const batch = waiting.slice(0, 200);
	const r = await fetch(`${url}/api/devices/readings?bench`, {
		method: 'POST',
		headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson' },
		body: batch.join('\n')
	});
	// its token was renewed, or the device put away: nobody will hear it again
	if (r.status === 401) process.exit(0);
	const said = (await r.json().catch(() => ({}))) as { bench?: Bench | null; message?: string };
	// standing at no piece it waits; what it read meanwhile is of nothing
	if (r.ok || r.status === 409) waiting = waiting.slice(batch.length);
	bench = r.ok ? (said.bench ?? null) : null;
}

let isBusy = false;
async function turn() {
	waiting.push(...device.read(Date.now(), bench).map(line));
	if (waiting.length > KEPT) waiting = waiting.slice(-KEPT);
	if (isBusy) return;
	isBusy = true;
	// a server that is away is tried again at the next turn
	await send().catch(() => undefined);
	isBusy = false;
}
const input = createInterface({ input: process.stdin }).on('line', () => waiting.push(...(device.press?.() ?? []).map(line)));
// whoever started it is gone, however it ended
if (process.env.SARTA_DEVICE_CHILD) input.on('close', () => process.exit(0));
setInterval(() => void turn(), device.everyMs);
