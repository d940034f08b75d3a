import { AUDIT_WORDS, auditPage, type AuditKind } from '$store/audit';
import { getDb } from '$store/database';

const PAGE = 100;

export const load = async ({ url }) => {
	const before = Number(url.searchParams.get('before'));
	const rows = await auditPage(getDb(), Number.isInteger(before) && before > 0 ? before : undefined, PAGE);
	return {
		rows: rows.map((r) => ({ ...r, words: AUDIT_WORDS[r.kind as AuditKind] ?? r.kind })),
		older: rows.length === PAGE ? rows[PAGE - 1].seq : null
	};
};
