/** A list of jobs shows the work that is asked for, and each job is somewhere in it. */
import { describe, expect, it } from 'vitest';
import { isOverdue, noneOfWork, ofWork, WORK_ITEMS, workOf } from './work';

const TODAY = '2026-05-10';
const job = (name: string, over: object) => ({ name, issued: true, quantity: 3, done: 0, begun: 0, dueDate: null, ...over });
const jobs = [
	job('draft', { issued: false }),
	job('waits', {}),
	job('begun', { begun: 1, dueDate: '2026-05-09' }),
	job('due today', { begun: 2, dueDate: TODAY }),
	job('late and done', { done: 3, dueDate: '2026-01-01' }),
	job('late draft', { issued: false, dueDate: '2026-05-01' })
];
const of = (work: Parameters<typeof ofWork>[1]) => ofWork(jobs, work, TODAY).map((j) => j.name);

describe('jobs by their work', () => {
	it('are found by how far they have come', () => {
		expect(of('all')).toHaveLength(jobs.length);
		expect(of('draft')).toEqual(['draft', 'late draft']);
		expect(of('waiting')).toEqual(['waits']);
		expect(of('bench')).toEqual(['begun', 'due today']);
		expect(of('done')).toEqual(['late and done']);
	});
	it('are overdue after the day they are due, and no more when the last piece is handed over', () => {
		expect(of('overdue')).toEqual(['begun', 'late draft']);
		expect(isOverdue(jobs[4], TODAY)).toBe(false);
		expect(isOverdue(jobs[3], TODAY)).toBe(false);
	});
	it('each is in one list or another besides all', () => {
		const lists = new Set(['draft', 'waiting', 'bench', 'done'].flatMap((w) => of(w as 'draft')));
		expect(lists.size).toBe(jobs.length);
	});
	it('an address that asks for something unknown shows all; each list that may be empty says so', () => {
		for (const asked of [null, '', 'none', 'constructor']) expect(workOf(asked)).toBe('all');
		for (const { value } of WORK_ITEMS) {
			expect(workOf(value)).toBe(value);
			if (value !== 'all') expect(noneOfWork(value)).toMatch(/\.$/);
		}
	});
});
