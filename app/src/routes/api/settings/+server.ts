import { json } from '@sveltejs/kit';
import { answer, auditOf, readBody } from '$lib/server/api';
import { SettingsBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { readSettings, saveSetting } from '$store/settings';

export const GET = () => answer(async () => json({ settings: await readSettings(getDb()) }));

export const PATCH = (event) =>
	answer(async () => {
		const { inspectorMayWeld } = await readBody(event.request, SettingsBody);
		await saveSetting(getDb(), 'inspectorMayWeld', inspectorMayWeld, auditOf(event));
		return json({ settings: await readSettings(getDb()) });
	});
