/** The shop's logbook: every piece that was begun, searched, filtered and summed. What is summed was kept with each signature. */
import type { Tried } from '../core/corrections/share';
import { and, desc, eq, gte, ilike, isNotNull, isNull, lt, ne, or, sql, type SQL } from 'drizzle-orm';
import type { JointType } from '../core/document/words';
import type { Connection } from './database';
import { jobs, people, pieces, planRevisions, signatures } from './schema';

export const OUTCOMES = ['right', 'accepted', 'concession', 'rejected', 'open'] as const;
/** right: accepted with nothing outside, wrong or put right; open: not signed yet */
export type Outcome = (typeof OUTCOMES)[number];

export interface LogbookAsk {
	search?: string;
	material?: string;
	thicknessMm?: number;
	joint?: JointType;
	/** id of a person */
	welder?: string;
	/** days, both included */
	from?: string;
	to?: string;
	outcome?: Outcome;
}

const clean = sql`jsonb_array_length(${signatures.summary} -> 'outside') + jsonb_array_length(${signatures.summary} -> 'problems') + jsonb_array_length(${signatures.summary} -> 'corrections') = 0`;
const isRight = sql`(${signatures.accepted} and ${signatures.concession} is null and ${clean})`;

const OUTCOME: Record<Outcome, SQL | undefined> = {
	right: isRight,
	accepted: eq(signatures.accepted, true),
	concession: isNotNull(signatures.concession),
	rejected: eq(signatures.accepted, false),
	open: isNull(signatures.id)
};

const contains = (part: object) => sql`${signatures.summary} @> ${JSON.stringify(part)}::jsonb`;
const like = (words: string) => `%${words.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

/** Newest plan of each job: what a piece is made of. */
const newest = (db: Connection) =>
	db
		.selectDistinctOn([planRevisions.jobId], {
			jobId: planRevisions.jobId,
			material: planRevisions.material,
			thicknessMm: planRevisions.thicknessMm
		})
		.from(planRevisions)
		.where(and(eq(planRevisions.variant, 0), eq(planRevisions.state, 'issued')))
		.orderBy(planRevisions.jobId, desc(planRevisions.revision))
		.as('newest');

type Newest = ReturnType<typeof newest>;

function filtered(ask: LogbookAsk, made: Newest): SQL | undefined {
	const words = ask.search?.trim();
	return and(
		ne(pieces.state, 'waiting'),
		isNull(pieces.archivedAt),
		words
			? or(
					ilike(jobs.name, like(words)),
					ilike(jobs.customer, like(words)),
					ilike(pieces.serial, like(words)),
					sql`${signatures.summary}::text ilike ${like(words)}`,
					ilike(signatures.statement, like(words))
				)
			: undefined,
		ask.material ? eq(made.material, ask.material) : undefined,
		ask.thicknessMm === undefined ? undefined : eq(made.thicknessMm, ask.thicknessMm),
		ask.joint ? contains({ joints: [ask.joint] }) : undefined,
		ask.welder ? contains({ welders: [{ id: ask.welder }] }) : undefined,
		ask.from ? gte(signatures.signedAt, sql`${ask.from}::date`) : undefined,
		ask.to ? lt(signatures.signedAt, sql`${ask.to}::date + 1`) : undefined,
		ask.outcome ? OUTCOME[ask.outcome] : undefined
	);
}

export type LogbookRow = Awaited<ReturnType<typeof logbookRows>>[number];

/** The last signed first, then what is still open. */
export async function logbookRows(db: Connection, ask: LogbookAsk, limit: number, offset = 0) {
	const made = newest(db);
	return db
		.select({
			id: pieces.id,
			jobId: jobs.id,
			serial: pieces.serial,
			state: pieces.state,
			job: sql<string>`${jobs.number} || ' ' || ${jobs.name}`,
			customer: jobs.customer,
			material: made.material,
			thicknessMm: made.thicknessMm,
			signedAt: signatures.signedAt,
			signedBy: people.name,
			accepted: signatures.accepted,
			concession: signatures.concession,
			summary: signatures.summary
		})
		.from(pieces)
		.innerJoin(jobs, eq(jobs.id, pieces.jobId))
		.innerJoin(made, eq(made.jobId, jobs.id))
		.leftJoin(signatures, eq(signatures.pieceId, pieces.id))
		.leftJoin(people, eq(people.id, signatures.signedBy))
		.where(filtered(ask, made))
		.orderBy(sql`${signatures.signedAt} desc nulls last`, jobs.number, pieces.serial)
		.limit(limit)
		.offset(offset);
}

export interface LogbookSums {
	pieces: number;
	signed: number;
	accepted: number;
	/** of those signed whose summary was kept */
	right: number;
	summed: number;
	waitH: number;
	reworkH: number;
	/** features outside, most often first; why: what is written beside them */
	outside: { name: string; count: number }[];
	/** by way: how often, of those read before and after how many ended nearer to the drawing */
	corrections: { way: string; count: number; read: number; better: number }[];
	problems: { note: string; count: number }[];
}
/** Lines of each list of sums. */
const MOST = 8;

export async function logbookSums(db: Connection, ask: LogbookAsk): Promise<LogbookSums> {
	const made = newest(db);
	const found = db
		.select({
			id: pieces.id,
			accepted: signatures.accepted,
			right: sql<boolean>`${isRight}`.as('is_right'),
			summary: signatures.summary,
			signedAt: signatures.signedAt
		})
		.from(pieces)
		.innerJoin(jobs, eq(jobs.id, pieces.jobId))
		.innerJoin(made, eq(made.jobId, jobs.id))
		.leftJoin(signatures, eq(signatures.pieceId, pieces.id))
		.where(filtered(ask, made));
	// gone through once, summed four ways
	const most = <T>(counted: SQL) => sql<T[]>`(select coalesce(json_agg(c), '[]') from (${counted} order by count desc, 1 limit ${MOST}) c)`;
	const { rows } = await db.execute(sql`
		with f as materialized (${found})
		select
			(select row_to_json(s) from (
				select count(*)::int as pieces, count(signed_at)::int as signed, (count(*) filter (where accepted))::int as accepted,
					(count(*) filter (where is_right))::int as right, count(summary)::int as summed,
					coalesce(sum((summary ->> 'waitS')::float8), 0) as wait, coalesce(sum((summary ->> 'reworkMin')::float8), 0) as rework
				from f) s) as sums,
			${most(sql`select name, count(*)::int as count from f, jsonb_array_elements_text(f.summary -> 'outside') name group by name`)} as outside,
			${most(sql`select k ->> 'way' as way, count(*)::int as count, count(k -> 'gave')::int as read,
				(count(*) filter (where (k ->> 'gave')::float8 > 0))::int as better
				from f, jsonb_array_elements(f.summary -> 'corrections') k group by 1`)} as corrections,
			${most(sql`select k ->> 'note' as note, count(*)::int as count from f, jsonb_array_elements(f.summary -> 'problems') k group by 1`)} as problems`);
	const { sums, outside, corrections, problems } = rows[0] as unknown as Pick<LogbookSums, 'outside' | 'corrections' | 'problems'> & {
		sums: Record<'pieces' | 'signed' | 'accepted' | 'right' | 'summed' | 'wait' | 'rework', number>;
	};
	return {
		pieces: sums.pieces,
		signed: sums.signed,
		accepted: sums.accepted,
		right: sums.right,
		summed: sums.summed,
		waitH: sums.wait / 3600,
		reworkH: sums.rework / 60,
		outside,
		corrections,
		problems
	};
}

/** Corrections of signed pieces that were foretold, and read before and after. */
export async function correctionsTried(db: Connection): Promise<Tried[]> {
	const { rows } = await db.execute<{ way: Tried['way']; due: number; gave: number; doubt: number }>(sql`
		select k ->> 'way' as way, (k ->> 'due')::float8 as due, (k ->> 'gave')::float8 as gave, coalesce((k ->> 'doubt')::float8, 0) as doubt
		from ${signatures}, jsonb_array_elements(${signatures.summary} -> 'corrections') k where k ? 'due' and k ? 'gave'`);
	return rows;
}

/** What there is to choose from. */
export async function logbookChoices(db: Connection) {
	const kinds = await db
		.selectDistinct({ material: planRevisions.material, thicknessMm: planRevisions.thicknessMm })
		.from(planRevisions)
		.where(and(eq(planRevisions.state, 'issued'), eq(planRevisions.variant, 0)));
	const welders = await db
		.select({ id: people.id, name: people.name })
		.from(people)
		.where(sql`${people.roles} && array['welder', 'planner', 'admin']::role[]`)
		.orderBy(people.name);
	const by = <T>(values: T[]) => [...new Set(values)].sort();
	return { materials: by(kinds.map((k) => k.material)), thicknesses: by(kinds.map((k) => k.thicknessMm)), welders };
}
