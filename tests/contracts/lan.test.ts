/** Tablets over https: the shop's certificate, a secure session, forms from that address and no other. Its own server beside the one under test. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import https from 'node:https';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { BASE, personOf, TEST_PIN } from './client';

const data = mkdtempSync(path.join(os.tmpdir(), 'sarta-lan-'));
let server: ChildProcess;
let port = 0;
let ca = '';
let said = '';

const freePort = () =>
	new Promise<number>((resolve) => {
		const s = createServer().listen(0, '127.0.0.1', () => {
			const { port } = s.address() as { port: number };
			s.close(() => resolve(port));
		});
	});

interface Answer {
	status: number;
	body: string;
	cookies: string[];
}
/** As a tablet asks that trusts the shop's authority and no other. */
const ask = (method: string, where: string, { body, origin, cookie }: { body?: object; origin?: string; cookie?: string } = {}) =>
	new Promise<Answer>((resolve, reject) => {
		const headers = { ...(origin ? { origin } : {}), ...(cookie ? { cookie } : {}), ...(body ? { 'content-type': 'application/json' } : {}) };
		const req = https.request({ host: '127.0.0.1', port, path: where, method, ca, headers }, (res) => {
			let text = '';
			res.on('data', (d: Buffer) => (text += d.toString()));
			res.on('end', () => resolve({ status: res.statusCode!, body: text, cookies: res.headers['set-cookie'] ?? [] }));
		});
		req.on('error', reject);
		req.end(body ? JSON.stringify(body) : undefined);
	});

beforeAll(async () => {
	await personOf('welder');
	const [inner, outer] = [await freePort(), await freePort()];
	port = outer;
	const { ORIGIN: _, ...env } = process.env;
	server = spawn('node', [path.join(process.env.SARTA_NODE_BUILD_DIR || 'build-node', 'lan.js')], {
		env: { ...env, SARTA_DATA: data, SARTA_LAN_PORT: String(outer), PORT: String(inner), HOST: '127.0.0.1' }
	});
	server.stdout!.on('data', (d: Buffer) => (said += d.toString()));
	server.stderr!.on('data', (d: Buffer) => (said += d.toString()));
	for (let i = 0; i < 150 && !said.includes('Tablets:'); i++) await new Promise((r) => setTimeout(r, 200));
	expect(said).toContain('Tablets:');
	ca = readFileSync(path.join(data, 'lan', 'authority-cert.pem'), 'utf8');
});
afterAll(async () => {
	server?.kill('SIGTERM');
	await closeDb();
	rmSync(data, { recursive: true });
});

describe('tablets over https', () => {
	it('sign in under a cookie that no plain line carries, and go on with it', async () => {
		const origin = `https://127.0.0.1:${port}`;
		const r = await ask('POST', '/api/sign-in', { body: { name: 'Test welder', pin: TEST_PIN }, origin });
		expect(r.status).toBe(200);
		const session = r.cookies.find((c) => c.startsWith('sarta_session='))!;
		expect(session).toMatch(/; Secure/i);
		expect(session).toMatch(/; HttpOnly/i);
		const cookie = session.split(';')[0];
		expect((await ask('GET', '/bench', { cookie })).status).toBe(200);
		const page = await ask('GET', '/tablets', { cookie });
		expect(page.body).toContain('data:image/png;base64,');
		expect(page.body).toContain(`:${port}`);
		// a form of another site, and of the same machine under plain http
		for (const other of ['https://elsewhere.example', 'http://127.0.0.1:4173'])
			expect((await ask('POST', '/api/sign-out', { cookie, origin: other })).status, other).toBe(403);
		expect((await ask('POST', '/api/sign-out', { cookie, origin })).status).toBeLessThan(300);
	});
	it('hands out the certificate that makes it known, and nothing of its key', async () => {
		const r = await ask('GET', '/api/certificate');
		expect([r.status, r.body]).toEqual([200, ca]);
		expect(r.body).not.toContain('PRIVATE');
	});
	it('a server that serves no tablets says so', async () => {
		const r = await fetch(`${BASE}/api/certificate`);
		expect([r.status, ((await r.json()) as { message: string }).message]).toEqual([404, expect.stringMatching(/bin\/start --lan/)]);
	});
	it('is not reached by who does not trust the shop', async () => {
		const trusted = ca;
		ca = '';
		await expect(ask('GET', '/sign-in')).rejects.toThrow(/certificate|signed/i);
		ca = trusted;
	});
	it('ends when it is told to, also while a tablet listens', async () => {
		const sign = await ask('POST', '/api/sign-in', { body: { name: 'Test welder', pin: TEST_PIN }, origin: `https://127.0.0.1:${port}` });
		const cookie = sign.cookies[0].split(';')[0];
		const stream = https.get({ host: '127.0.0.1', port, path: '/api/bench-stream', ca, headers: { cookie } }, (res) => res.resume());
		stream.on('error', () => {});
		await new Promise((r) => setTimeout(r, 500));
		const ended = new Promise((r) => server.once('exit', r));
		server.kill('SIGTERM');
		await Promise.race([ended, new Promise((_, no) => setTimeout(() => no(new Error('it does not end')), 10_000))]);
	});
});
