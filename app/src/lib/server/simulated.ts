/** The small programs that stand in for devices, as this server has started them: each sends as a real one would, and ends with the server. */
import type { DeviceKind } from '$core/document/words';
import { spawn, type ChildProcess } from 'node:child_process';
import { resolve } from 'node:path';
import { StateError } from '$store/jobs';
import { log } from './log';

/** Enough for a shop to try with; each is a process of its own. */
const MOST = 10;
const running = new Map<string, ChildProcess>();

export const isSimulating = (id: string) => running.has(id);

/** Where this server answers on its own machine. */
function own(): string {
	const { HOST = '127.0.0.1', PORT = '3000' } = process.env;
	return `http://${['0.0.0.0', '::'].includes(HOST) ? '127.0.0.1' : HOST}:${PORT}`;
}

/** @param token that it sends with, which no other knows */
export function startSimulated({ id, kind, name }: { id: string; kind: DeviceKind; name: string }, token: string): void {
	stopSimulated(id);
	if (running.size >= MOST) throw new StateError('device', `${MOST} simulated devices run already: stop one first`);
	const child = spawn(process.execPath, [resolve(process.env.SARTA_NODE_BUILD_DIR || 'build-node', 'device.js'), kind], {
		// the token stands in no list of processes; it is told nothing else of this server
		env: { PATH: process.env.PATH, SARTA_DEVICE_URL: own(), SARTA_DEVICE_TOKEN: token, SARTA_DEVICE_CHILD: '1' },
		stdio: ['pipe', 'ignore', 'pipe']
	});
	running.set(id, child);
	child.stderr.on('data', (d: Buffer) => log.warn({ device: name }, d.toString('utf8').trim().slice(0, 300)));
	child.on('error', (err) => log.warn({ err, device: name }, 'a simulated device did not start'));
	child.on('exit', () => running.get(id) === child && running.delete(id));
}
export function stopSimulated(id: string): void {
	running.get(id)?.kill();
	running.delete(id);
}
/** Its switch. @throws StateError while it does not run */
export function pressSimulated(id: string): void {
	const child = running.get(id);
	if (!child?.stdin?.writable) throw new StateError('device', 'It does not run: start it first');
	child.stdin.write('down\n');
}
export function stopAllSimulated(): void {
	for (const id of [...running.keys()]) stopSimulated(id);
}
