import { json } from '@sveltejs/kit';
import { answer, readBody, refuse } from '$lib/server/api';
import { SignInBody } from '$lib/server/dto';
import { fromOf, isAtThisMachine, setDevice, setSession } from '$lib/server/session';
import { signIn } from '$store/auth';
import { getDb } from '$store/database';
import { isPublished } from '$store/pins';

/** A name and a PIN: nothing longer is read, let alone worked on, for somebody who is not signed in. */
const BODY_LIMIT = 4000;

export const POST = (event) =>
	answer(async () => {
		const body = await readBody(event.request, SignInBody, BODY_LIMIT);
		if (isPublished(body.name, body.pin) && !isAtThisMachine(event.getClientAddress()))
			return refuse(
				403,
				'This PIN stands in the README for everybody to read: it is good on this machine only. Give the demo people PINs of their own.'
			);
		const result = await signIn(getDb(), body.name, body.pin, fromOf(event));
		if (!result.ok) {
			if (result.reason === 'wrong') return refuse(401, 'Name or PIN is not right.');
			if (result.reason === 'busy') return refuse(503, 'Too many people are signing in at this moment. Try again in a minute.');
			const minutes = Math.max(1, Math.ceil((result.lockedUntil.getTime() - Date.now()) / 60_000));
			return refuse(
				429,
				`Too many wrong PINs. Try again in ${minutes} minute${minutes === 1 ? '' : 's'}, on a device where this name has signed in before, or ask an admin to unlock the name.`
			);
		}
		setSession(event.cookies, result.token, result.expiresAt, event);
		setDevice(event.cookies, result.device, event);
		return json({ person: result.person });
	});
