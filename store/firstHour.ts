/** How far a new shop has come with what it begins with. */
import { sql } from 'drizzle-orm';
import type { Connection } from './database';
import { heatNumbers, jobs, people, pieces, planRevisions, registerItems, shopFactors } from './schema';

export interface ShopSoFar {
	/** somebody welds, and somebody inspects */
	welder: boolean;
	inspector: boolean;
	/** a bar or a clamp is written down, and a heat number */
	tools: boolean;
	sheet: boolean;
	/** a job that is no coupon, and a plan of one issued */
	job: boolean;
	issued: boolean;
	/** a coupon is welded, and something was learned */
	coupon: boolean;
	lesson: boolean;
}

export async function shopSoFar(db: Connection): Promise<ShopSoFar> {
	const has = (role: string) =>
		sql<boolean>`exists (select 1 from ${people} where ${role} = any(${people.roles}::text[]) and ${people.archivedAt} is null)`;
	const {
		rows: [row]
	} = await db.execute<Record<keyof ShopSoFar, boolean>>(sql`select
		${has('welder')} as welder,
		${has('inspector')} as inspector,
		exists (select 1 from ${registerItems} where ${registerItems.kind} in ('bar', 'clamp') and ${registerItems.archivedAt} is null) as tools,
		exists (select 1 from ${heatNumbers} where ${heatNumbers.archivedAt} is null) as sheet,
		exists (select 1 from ${jobs} where ${jobs.coupon} is null) as job,
		exists (select 1 from ${planRevisions} join ${jobs} on ${jobs.id} = ${planRevisions.jobId}
			where ${jobs.coupon} is null and ${planRevisions.state} = 'issued') as issued,
		exists (select 1 from ${pieces} join ${jobs} on ${jobs.id} = ${pieces.jobId}
			where ${jobs.coupon} is not null and ${pieces.state} in ('welded', 'handed-over')) as coupon,
		exists (select 1 from ${shopFactors} where ${shopFactors.archivedAt} is null) as lesson`);
	return row;
}
