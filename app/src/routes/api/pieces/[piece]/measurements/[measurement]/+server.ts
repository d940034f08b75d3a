import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { WithdrawBody } from '$lib/server/dto';
import { withdrawMeasurement } from '$store/bench';
import { getDb } from '$store/database';

/** Readings are never deleted: this takes one out of use, with the reason kept beside it. */
export const PATCH = (event) =>
	answer(async () => {
		const { why } = await readBody(event.request, WithdrawBody);
		return json({
			measurement: await withdrawMeasurement(
				getDb(),
				idOf(event.params.piece, 'This piece'),
				idOf(event.params.measurement, 'This reading'),
				why,
				personOf(event),
				event.getClientAddress()
			)
		});
	});
