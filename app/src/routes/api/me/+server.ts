import { json } from '@sveltejs/kit';
import { FaultError } from '$core/document/faults';
import { answer, auditOf, personOf, readBody, refuse } from '$lib/server/api';
import { MeBody } from '$lib/server/dto';
import { fromOf, SESSION_COOKIE } from '$lib/server/session';
import { pinIsRight } from '$store/auth';
import { getDb } from '$store/database';
import { setOwnPin, setUnits } from '$store/library';

/** A person's own units, and their own PIN: the old one is asked for, so that a tablet left open gives nothing away. */
export const PATCH = (event) =>
	answer(async () => {
		const { units, newPin, pin } = await readBody(event.request, MeBody);
		const me = personOf(event);
		if (newPin !== undefined) {
			if (pin === undefined) throw new FaultError([{ field: 'pin', value: '', allowed: 'the PIN until now is needed to set a new one' }]);
			if (!(await pinIsRight(getDb(), me, pin, fromOf(event)))) return refuse(403, 'The PIN until now is not right. Nothing was changed.');
			await setOwnPin(getDb(), me, newPin, event.cookies.get(SESSION_COOKIE), auditOf(event));
		}
		if (units) await setUnits(getDb(), me.id, units);
		return json({ units: units ?? me.units });
	});
