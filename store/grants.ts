/**
 * What the program may do in its own database. It connects under a role that is not the owner: what is a record can be added to and read,
 * and neither changed nor taken away, whatever the program or whoever has got into it asks for. Given anew after each migration.
 */
import pg from 'pg';

type Right = 'select' | 'insert' | 'update' | 'delete';
const RECORD: Right[] = ['select', 'insert'];
const KEPT: Right[] = ['select', 'insert', 'update'];
const PASSING: Right[] = ['select', 'insert', 'update', 'delete'];

/** By table: nothing is deleted but what only stands for a moment. */
export const RIGHTS: Record<string, readonly Right[]> = {
	bench_events: RECORD,
	bench_stamps: RECORD,
	signatures: RECORD,
	audit: RECORD,
	procedure_versions: RECORD,
	imported_records: RECORD,
	photographs: RECORD,
	scans: RECORD,
	device_readings: RECORD,
	// and three columns of it: see below
	measurements: RECORD,
	// a draft is saved over; an issued plan is held by its trigger, which only the owner could take off
	plan_revisions: KEPT,
	people: KEPT,
	jobs: KEPT,
	pieces: KEPT,
	shop_factors: KEPT,
	trials: KEPT,
	practice_attempts: RECORD,
	practice_set: RECORD,
	procedures: KEPT,
	own_materials: KEPT,
	heat_numbers: KEPT,
	register_items: KEPT,
	devices: KEPT,
	shop_settings: KEPT,
	tasks: KEPT,
	hot_answers: PASSING,
	sessions: PASSING,
	sign_in_tries: PASSING,
	known_devices: PASSING
};
/** A reading is taken out of use, once, with a reason. */
const WITHDRAWING = 'withdrawn_at, withdrawn_by, withdrawn_why';

/** @param db a connection of the owner; @param role the program's own, which exists already */
export async function grantRights(db: pg.Client, role: string) {
	const to = pg.escapeIdentifier(role);
	const database = pg.escapeIdentifier((await db.query<{ d: string }>('select current_database() as d')).rows[0].d);
	// it makes the schema of its queue itself
	await db.query(`grant connect, create on database ${database} to ${to}`);
	await db.query(`revoke all on all tables in schema public from ${to}; grant usage on schema public to ${to}`);
	for (const [table, rights] of Object.entries(RIGHTS)) await db.query(`grant ${rights.join(', ')} on ${pg.escapeIdentifier(table)} to ${to}`);
	await db.query(`grant update (${WITHDRAWING}) on measurements to ${to}`);
	await db.query(`grant usage, select on all sequences in schema public to ${to}`);
	// which migrations there are: read for backups, and to say which version a database is of
	await db.query(`grant usage on schema drizzle to ${to}; grant select on all tables in schema drizzle to ${to}`);
	await db.query(`grant select on all sequences in schema drizzle to ${to}`);
	await giveQueue(db, role);
}

/** A queue made by an earlier version, under the owner, goes over to the program: it keeps no records. */
async function giveQueue(db: pg.Client, role: string) {
	const to = pg.escapeIdentifier(role);
	const { rows } = await db.query<{ say: string }>(`
		select 'alter schema pgboss owner to ' as say from pg_namespace where nspname = 'pgboss'
		union all
		select format('alter %s pgboss.%I owner to ', case c.relkind when 'S' then 'sequence' when 'v' then 'view' else 'table' end, c.relname)
			from pg_class c join pg_namespace n on n.oid = c.relnamespace
			where n.nspname = 'pgboss' and c.relkind in ('r', 'p', 'v') or n.nspname = 'pgboss' and c.relkind = 'S'
				and not exists (select from pg_depend d where d.objid = c.oid and d.deptype in ('a', 'i'))
		union all
		select format('alter function %s owner to ', p.oid::regprocedure) from pg_proc p join pg_namespace n on n.oid = p.pronamespace where n.nspname = 'pgboss'
		union all
		select format('alter type pgboss.%I owner to ', t.typname)
			from pg_type t join pg_namespace n on n.oid = t.typnamespace where n.nspname = 'pgboss' and t.typtype = 'e'`);
	for (const { say } of rows) await db.query(say + to);
}
