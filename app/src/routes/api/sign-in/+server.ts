import { json } from '@sveltejs/kit';
import { answer, readBody, refuse } from '$lib/server/api';
import { SignInBody } from '$lib/server/dto';
import { setSession } from '$lib/server/session';
import { signIn } from '$store/auth';
import { getDb } from '$store/database';

export const POST = ({ request, cookies, url }) =>
	answer(async () => {
		const body = await readBody(request, SignInBody);
		const result = await signIn(getDb(), body.name, body.pin);
		if (!result.ok) {
			if (result.reason === 'wrong') return refuse(401, 'Name or PIN is not right.');
			const minutes = Math.max(1, Math.ceil(((result.lockedUntil?.getTime() ?? 0) - Date.now()) / 60_000));
			return refuse(429, `Too many wrong PINs. Try again in ${minutes} minute${minutes === 1 ? '' : 's'}, or ask an admin to unlock the name.`);
		}
		setSession(cookies, result.token, result.expiresAt, url.protocol === 'https:');
		return json({ person: result.person });
	});
