/** Trials: made once with their coupons, concluded once in the shop's own words, never deleted. */
import { and, desc, eq, isNull } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { inRounds } from '../core/coupons/trial';
import type { CouponKind } from '../core/coupons/coupons';
import type { PlanDocument } from '../core/document/schema';
import { writeAudit } from './audit';
import type { Connection, Database } from './database';
import { createJob, issuePlan, MissingError, StateError } from './jobs';
import { people, trials } from './schema';

export type Trial = typeof trials.$inferSelect;
export interface NewTrial extends Pick<Trial, 'name' | 'difference' | 'coupon' | 'feature' | 'matters'> {
	each: number;
	ways: { value: string; name: string; plan: PlanDocument }[];
}

/** A job of so many coupons for each way, its plan issued, all or none of it. @param seed of the order of welding */
export async function addTrial(db: Database, { each, ways, ...about }: NewTrial, seed: number, by: string): Promise<Trial> {
	return db.transaction(async (tx) => {
		const made: Trial['ways'] = [];
		for (const { value, name, plan } of ways) {
			const fields = {
				name: `${about.name}: ${name}`.slice(0, 120),
				quantity: each,
				notes: `Coupons of trial “${about.name}”.`,
				coupon: about.coupon as CouponKind
			};
			const job = await createJob(tx, fields, plan, by);
			await issuePlan(tx, job.id, { revision: 1, version: 1 }, by);
			made.push({ value, name, job: job.id });
		}
		const [trial] = await tx
			.insert(trials)
			.values({ ...about, ways: made, welding: inRounds(ways.length, each, seed), createdBy: by })
			.returning();
		return trial;
	});
}

export const listTrials = (db: Connection) => db.select().from(trials).orderBy(desc(trials.createdAt));

const concluder = alias(people, 'concluder');
export async function getTrial(db: Connection, id: string): Promise<Trial & { person: string; concluder: string | null }> {
	const [row] = await db
		.select({ trial: trials, person: people.name, concluder: concluder.name })
		.from(trials)
		.innerJoin(people, eq(people.id, trials.createdBy))
		.leftJoin(concluder, eq(concluder.id, trials.concludedBy))
		.where(eq(trials.id, id));
	if (!row) throw new MissingError('This trial');
	return { ...row.trial, person: row.person, concluder: row.concluder };
}

/** @throws StateError where it is concluded already */
export async function concludeTrial(db: Database, id: string, conclusion: string, by: string, address?: string): Promise<void> {
	await db.transaction(async (tx) => {
		const { name } = await getTrial(tx, id);
		const [row] = await tx
			.update(trials)
			.set({ conclusion, concludedAt: new Date(), concludedBy: by })
			.where(and(eq(trials.id, id), isNull(trials.concludedAt)))
			.returning({ id: trials.id });
		if (!row) throw new StateError('conclusion', 'This trial is concluded already: reload the page');
		await writeAudit(tx, 'trial-concluded', { by, about: `${name}: ${conclusion}`, address });
	});
}
