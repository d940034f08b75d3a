import { json } from '@sveltejs/kit';
import { answer } from '$lib/server/api';
import { endSession, fromOf, SESSION_COOKIE } from '$lib/server/session';
import { writeAudit } from '$store/audit';
import { signOut } from '$store/auth';
import { getDb } from '$store/database';

export const POST = (event) =>
	answer(async () => {
		const token = event.cookies.get(SESSION_COOKIE);
		if (token) await signOut(getDb(), token);
		if (event.locals.person) await writeAudit(getDb(), 'sign-out', { by: event.locals.person.id, address: fromOf(event).address });
		endSession(event.cookies, event);
		return json({});
	});
