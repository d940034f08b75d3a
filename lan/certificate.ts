/**
 * The certificate under which tablets reach the server: signed by an authority of the shop's own, made once and kept, so that a tablet
 * that trusts it goes on trusting when the machine's address changes.
 */
import { X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { generate, type CertificateExtension } from 'selfsigned';

const DAY_MS = 86_400_000;
const AUTHORITY_DAYS = 3650;
/** Tablets refuse a server's certificate that lasts longer than this. */
const SERVER_DAYS = 397;
/** Made anew when less than this is left. */
const EARLY_DAYS = 30;

export interface Pem {
	key: string;
	cert: string;
}

/** Names and addresses of this machine that a tablet may type. */
export interface Names {
	dns: string[];
	ip: string[];
}
export function namesOfMachine(): Names {
	const host = os.hostname();
	const ip = Object.values(os.networkInterfaces())
		.flatMap((list) => list ?? [])
		.filter((i) => i.family === 'IPv4')
		.map((i) => i.address);
	return { dns: [...new Set(['localhost', host, `${host.split('.')[0]}.local`])], ip: [...new Set(['127.0.0.1', ...ip])] };
}

/** Addresses of other machines' networks, the likeliest first. */
export const outwards = ({ ip }: Names) => ip.filter((a) => !a.startsWith('127.'));

const common = { keyType: 'ec', curve: 'P-256', algorithm: 'sha256' } as const;

async function make(name: string, days: number, extensions: CertificateExtension[], ca?: Pem): Promise<Pem> {
	// a tablet's clock may lag
	const notBeforeDate = new Date(Date.now() - DAY_MS);
	const made = await generate([{ name: 'commonName', value: name }], {
		...common,
		notBeforeDate,
		notAfterDate: new Date(Date.now() + days * DAY_MS),
		extensions,
		...(ca ? { ca } : {})
	});
	return { key: made.private, cert: made.cert };
}
const authority = () =>
	make(`Sarta on ${os.hostname()}`.slice(0, 60), AUTHORITY_DAYS, [
		{ name: 'basicConstraints', cA: true, critical: true },
		{ name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true }
	]);
const server = (names: Names, ca: Pem) =>
	make(
		names.dns[0],
		SERVER_DAYS,
		[
			{ name: 'basicConstraints', cA: false },
			{ name: 'keyUsage', digitalSignature: true, critical: true },
			{ name: 'extKeyUsage', serverAuth: true },
			{
				name: 'subjectAltName',
				altNames: [...names.dns.map((value) => ({ type: 2 as const, value })), ...names.ip.map((ip) => ({ type: 7 as const, ip }))]
			}
		],
		ca
	);

/** Whether a certificate still does: in its time, signed by this authority, for every name of the machine. */
export function stillGood(pem: string, ca: string, names: Names, now = Date.now()): boolean {
	const cert = new X509Certificate(pem);
	const isSigned = cert.verify(new X509Certificate(ca).publicKey);
	const lasts = Date.parse(cert.validTo) - now > EARLY_DAYS * DAY_MS;
	return isSigned && lasts && names.dns.every((n) => cert.checkHost(n)) && names.ip.every((a) => cert.checkIP(a));
}

/** Whole or not at all: a half-written key would keep the server from starting. */
function keep(file: string, text: string, mode: number) {
	writeFileSync(`${file}.new`, text, { mode });
	renameSync(`${file}.new`, file);
}
function read(folder: string, name: string): Pem | undefined {
	const [key, cert] = ['key', 'cert'].map((x) => path.join(folder, `${name}-${x}.pem`));
	return existsSync(key) && existsSync(cert) ? { key: readFileSync(key, 'utf8'), cert: readFileSync(cert, 'utf8') } : undefined;
}
function write(folder: string, name: string, pem: Pem): Pem {
	keep(path.join(folder, `${name}-key.pem`), pem.key, 0o600);
	keep(path.join(folder, `${name}-cert.pem`), pem.cert, 0o644);
	return pem;
}

/** The kept ones, made where there are none or where they no longer do. @param folder readable by the shop's own user only */
export async function certificates(folder: string, names = namesOfMachine()): Promise<{ authority: string; server: Pem }> {
	mkdirSync(folder, { recursive: true, mode: 0o700 });
	let ca = read(folder, 'authority');
	if (!ca || Date.parse(new X509Certificate(ca.cert).validTo) < Date.now() + SERVER_DAYS * DAY_MS) ca = write(folder, 'authority', await authority());
	const kept = read(folder, 'server');
	const own = kept && stillGood(kept.cert, ca.cert, names) ? kept : write(folder, 'server', await server(names, ca));
	return { authority: ca.cert, server: own };
}
