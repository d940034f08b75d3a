/**
 * A check against a value from outside the project. It asserts, and, when SARTA_VERIFICATION names a folder, leaves the row
 * from which scripts/verification.mjs writes docs/verification.md.
 */
import { appendFileSync } from 'node:fs';
import path from 'node:path';
import { expect } from 'vitest';

export interface Published {
	id: string;
	case: string;
	source: string;
	expected: number;
	got: number;
	unit?: string;
	/** allowed, relative to the expected value, with its reason in the mesh or the method named */
	within: number;
	/** mesh or method of this run */
	mesh: string;
}

export function published(p: Published) {
	const folder = process.env.SARTA_VERIFICATION;
	if (folder) appendFileSync(path.join(folder, 'rows.jsonl'), `${JSON.stringify(p)}\n`);
	expect(Number.isFinite(p.got), `${p.id}: ${p.got}`).toBe(true);
	expect(Math.abs(p.got - p.expected) / Math.abs(p.expected), `${p.id}: expected ${p.expected}, got ${p.got}`).toBeLessThan(p.within);
}

/** A quantity of a coupon in solid elements beside what the section says of it. */
export interface CouponRow {
	id: string;
	coupon: string;
	what: string;
	solid: number;
	section: number;
	/** within what is asked for; a row that is not stands on the page as missed */
	isMet: boolean;
}

export function couponRow(r: CouponRow) {
	const folder = process.env.SARTA_VERIFICATION;
	if (folder) appendFileSync(path.join(folder, 'coupons.jsonl'), `${JSON.stringify(r)}\n`);
	expect(Number.isFinite(r.section) && Number.isFinite(r.solid), r.id).toBe(true);
}
