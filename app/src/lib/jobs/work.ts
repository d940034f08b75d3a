/** Which jobs a list shows: by how far their work has come. */
interface JobHere {
	issued: boolean;
	quantity: number;
	/** pieces handed over, and at the bench */
	done: number;
	begun: number;
	/** YYYY-MM-DD */
	dueDate: string | null;
}

const isDone = (j: JobHere) => j.done >= j.quantity;
export const isOverdue = (j: JobHere, today: string): boolean => j.dueDate !== null && j.dueDate < today && !isDone(j);

const KINDS = {
	all: { name: 'all work', none: '', has: () => true },
	draft: { name: 'not issued yet', none: 'Every plan here is issued.', has: (j: JobHere) => !j.issued },
	waiting: { name: 'issued, not begun', none: 'Nothing issued waits for the bench.', has: (j: JobHere) => j.issued && !j.begun && !isDone(j) },
	bench: { name: 'at the bench', none: 'Nothing is at the bench.', has: (j: JobHere) => j.begun > 0 },
	overdue: { name: 'overdue', none: 'Nothing is overdue.', has: isOverdue },
	done: { name: 'all handed over', none: 'No job is done to its last piece.', has: isDone }
} satisfies Record<string, { name: string; none: string; has: (j: JobHere, today: string) => boolean }>;

export type Work = keyof typeof KINDS;
export const WORK_ITEMS = (Object.keys(KINDS) as Work[]).map((value) => ({ value, name: KINDS[value].name }));
/** What an address asks for; all where it asks for nothing that is known. */
export const workOf = (asked: string | null): Work => (asked !== null && Object.hasOwn(KINDS, asked) ? (asked as Work) : 'all');
export const ofWork = <T extends JobHere>(jobs: readonly T[], work: Work, today: string): T[] => jobs.filter((j) => KINDS[work].has(j, today));
/** Said where none is left. */
export const noneOfWork = (work: Work): string => KINDS[work].none;
