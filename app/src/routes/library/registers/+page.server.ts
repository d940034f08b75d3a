import { REGISTER_KINDS } from '$core/document/words';
import { REGISTERS } from '$core/registers/registers';
import { getDb } from '$store/database';
import { listRegister } from '$store/registers';

export const load = async ({ url }) => {
	const items = await listRegister(getDb());
	const asked = url.searchParams.get('kind');
	return {
		kind: REGISTER_KINDS.find((k) => k === asked) ?? 'bar',
		registers: REGISTER_KINDS.map((kind) => {
			const { words, one, fields } = REGISTERS[kind];
			return { kind, words, one, fields, count: items.filter((i) => i.kind === kind && !i.archivedAt).length };
		}),
		items: items.map(({ id, kind, item, archivedAt, version }) => ({ id, kind, item: { ...item } as Record<string, unknown>, archivedAt, version }))
	};
};
