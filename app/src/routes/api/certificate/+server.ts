import { answer, refuse } from '$lib/server/api';

/** The shop's own authority, for a tablet to trust: a certificate says nothing secret. */
export const GET = () =>
	answer(() => {
		const pem = process.env.SARTA_LAN_AUTHORITY;
		if (!pem) return Promise.resolve(refuse(404, 'This Sarta serves no tablets: start it with bin/start --lan.'));
		return Promise.resolve(
			new Response(pem, { headers: { 'content-type': 'application/x-x509-ca-cert', 'content-disposition': 'attachment; filename="sarta-shop.crt"' } })
		);
	});
