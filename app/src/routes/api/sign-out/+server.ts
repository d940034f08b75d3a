import { json } from '@sveltejs/kit';
import { answer } from '$lib/server/api';
import { SESSION_COOKIE } from '$lib/server/session';
import { signOut } from '$store/auth';
import { getDb } from '$store/database';

export const POST = ({ cookies }) =>
	answer(async () => {
		const token = cookies.get(SESSION_COOKIE);
		if (token) await signOut(getDb(), token);
		cookies.delete(SESSION_COOKIE, { path: '/' });
		return json({});
	});
