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
