/** The server for a shop's tablets: the same pages as `node build` on loopback, and beside it HTTPS on every address of the machine. */
import { once } from 'node:events';
import https from 'node:https';
import path from 'node:path';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { pathToFileURL } from 'node:url';
import QRCode from 'qrcode';
import { certificates, namesOfMachine, outwards } from './certificate';

type Handler = (req: IncomingMessage, res: ServerResponse, next: () => void) => void;

const build = path.resolve(process.env.SARTA_BUILD_DIR || 'build');
const port = Number(process.env.SARTA_LAN_PORT ?? 4443);
const folder = path.join(process.env.SARTA_DATA ?? '.data', 'lan');

const names = namesOfMachine();
const [first] = outwards(names);
const address = `https://${first ?? names.dns[1]}:${port}`;
const kept = await certificates(folder, names);
// the page Tablets shows these
process.env.SARTA_LAN_ADDRESS = address;
process.env.SARTA_LAN_AUTHORITY = kept.authority;

// the ordinary server, with its own end
await import(pathToFileURL(path.join(build, 'index.js')).href);
const { handler } = (await import(pathToFileURL(path.join(build, 'handler.js')).href)) as { handler: Handler };

const server = https.createServer({ key: kept.server.key, cert: `${kept.server.cert}\n${kept.authority}`, minVersion: 'TLSv1.2' }, (req, res) => {
	// said by this server, not by whoever asks
	req.headers['x-forwarded-proto'] = 'https';
	handler(req, res, () => void res.writeHead(404).end());
});
server.on('error', (e) => {
	console.error(`Tablets cannot be served on port ${port}: ${e.message}. SARTA_LAN_PORT sets another.`);
	process.exit(1);
});
server.listen(port, '0.0.0.0');
await once(server, 'listening');
for (const signal of ['SIGTERM', 'SIGINT'] as const)
	process.on(signal, () => {
		server.close();
		// streams that tablets listen to have no end of their own
		setTimeout(() => server.closeAllConnections(), 1000).unref();
	});
console.log(`\n  Tablets: ${address}\n\n${await QRCode.toString(address, { type: 'terminal', small: true })}`);
console.log('  A tablet warns once that it does not know this machine: the page “Tablets” in Sarta says how to make it known.\n');
