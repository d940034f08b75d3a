import { REGISTER_KINDS, type RegisterKind } from '$core/document/words';
import { json } from '@sveltejs/kit';
import { readRegisterCsv, registerCsv } from '$core/registers/registerCsv';
import { answer, BODY_LIMIT, personOf, readText } from '$lib/server/api';
import { asFile } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { MissingError } from '$store/jobs';
import { listRegister, takeIn } from '$store/registers';

const kindOf = (value: string): RegisterKind => {
	const kind = REGISTER_KINDS.find((k) => k === value);
	if (!kind) throw new MissingError('This register');
	return kind;
};

/** What is in use, as a table. */
export const GET = ({ params }) =>
	answer(async () => {
		const kind = kindOf(params.kind);
		const rows = (await listRegister(getDb(), kind)).filter((r) => !r.archivedAt);
		return asFile(
			registerCsv(
				kind,
				rows.map((r) => r.item)
			),
			'text/csv; charset=utf-8',
			`register-${kind}.csv`
		);
	});

/** A table is taken in whole or not at all. */
export const POST = (event) =>
	answer(async () => {
		const kind = kindOf(event.params.kind);
		const items = readRegisterCsv(kind, await readText(event.request, BODY_LIMIT));
		return json(await takeIn(getDb(), kind, items, personOf(event).id), { status: 201 });
	});
