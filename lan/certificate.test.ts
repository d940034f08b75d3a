/** The certificate for tablets, held against Node's own TLS: a client that trusts the shop's authority connects, and no other does. */
import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import https from 'node:https';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { certificates, namesOfMachine, outwards, stillGood } from './certificate';

const made: string[] = [];
const folder = () => {
	const dir = mkdtempSync(path.join(os.tmpdir(), 'sarta-lan-'));
	made.push(dir);
	return dir;
};
afterAll(() => made.forEach((d) => rmSync(d, { recursive: true })));
const NAMES = { dns: ['localhost', 'bench-machine'], ip: ['127.0.0.1', '192.168.77.5'] };
const DAY = 86_400_000;

/** What a client gets that trusts this authority, or nobody's but the system's. */
async function ask(pem: { key: string; cert: string }, ca: string | undefined, host = 'localhost'): Promise<string> {
	const server = https.createServer(pem, (_, res) => res.end('here')).listen(0, '127.0.0.1');
	await new Promise((r) => server.once('listening', r));
	const { port } = server.address() as AddressInfo;
	try {
		return await new Promise<string>((resolve, reject) =>
			https
				.get({ host: '127.0.0.1', port, ca, servername: host }, (res) => res.on('data', (d: Buffer) => resolve(d.toString())))
				.on('error', (e: Error & { code?: string }) => reject(new Error(e.code ?? e.message)))
		);
	} finally {
		server.close();
	}
}

describe('the certificate for tablets', () => {
	it('is taken by who trusts the shop’s authority, for each name of the machine, and by nobody else', async () => {
		const { authority, server } = await certificates(folder(), NAMES);
		expect(await ask(server, authority)).toBe('here');
		expect(await ask(server, authority, 'bench-machine')).toBe('here');
		await expect(ask(server, authority, 'other-machine')).rejects.toThrow(/ALTNAME/);
		await expect(ask(server, undefined)).rejects.toThrow(/UNABLE_TO|SELF_SIGNED/);
		const cert = new X509Certificate(server.cert);
		expect([cert.checkIP('192.168.77.5'), cert.checkIP('192.168.77.6'), cert.ca]).toEqual(['192.168.77.5', undefined, false]);
		expect(new X509Certificate(authority).ca).toBe(true);
		// no tablet takes one that lasts longer
		expect((Date.parse(cert.validTo) - Date.parse(cert.validFrom)) / DAY).toBeLessThanOrEqual(398.01);
	});
	it('is kept, with its keys for nobody else’s eyes; another address makes it anew under the same authority', async () => {
		const dir = folder();
		const one = await certificates(dir, NAMES);
		expect(await certificates(dir, NAMES)).toEqual(one);
		for (const f of ['authority-key.pem', 'server-key.pem']) expect(statSync(path.join(dir, f)).mode & 0o077).toBe(0);
		const moved = await certificates(dir, { ...NAMES, ip: ['127.0.0.1', '10.0.0.9'] });
		expect([moved.authority === one.authority, moved.server.cert === one.server.cert]).toEqual([true, false]);
		expect(await ask(moved.server, one.authority)).toBe('here');
	});
	it('is made anew before it runs out, and where another authority signed it', async () => {
		const dir = folder();
		const { authority, server } = await certificates(dir, NAMES);
		expect(stillGood(server.cert, authority, NAMES)).toBe(true);
		expect(stillGood(server.cert, authority, NAMES, Date.now() + 370 * DAY)).toBe(false);
		const stranger = await certificates(folder(), NAMES);
		writeFileSync(path.join(dir, 'server-cert.pem'), stranger.server.cert);
		writeFileSync(path.join(dir, 'server-key.pem'), stranger.server.key);
		const again = await certificates(dir, NAMES);
		expect(await ask(again.server, authority)).toBe('here');
		expect(readFileSync(path.join(dir, 'server-cert.pem'), 'utf8')).toBe(again.server.cert);
	});
	it('names this machine: by its own name and by what others reach it by', () => {
		const names = namesOfMachine();
		expect(names.dns).toContain('localhost');
		expect(names.ip).toContain('127.0.0.1');
		expect(outwards({ dns: [], ip: ['127.0.0.1', '192.168.1.4', '10.1.1.1'] })).toEqual(['192.168.1.4', '10.1.1.1']);
	});
});
