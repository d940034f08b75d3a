/** Taps that the server does not have yet, kept in the browser: one record each, shared by every tab, so that none overwrites another's. */
import { openDB, type DBSchema } from 'idb';
import type { LogLine } from '$core/weldout/logbook';

/** A line of the bench log as this device made it. */
export interface Tap extends Omit<LogLine, 'at'> {
	pieceId: string;
	happenedAt: string;
	/** who was signed in here then: see benchStamps */
	stamp?: string | null;
}
/** What the server did not take, and why: it waits here to be put right or left out, and holds up no other. */
export interface RefusedTap {
	clientId: string;
	tap: Tap;
	message: string;
}

export interface TapStore {
	/** in the order they were made, whichever tab made them */
	waiting(): Promise<Tap[]>;
	refused(): Promise<RefusedTap[]>;
	add(tap: Tap): Promise<void>;
	/** taken by the server, or set aside as refused */
	settle(taken: readonly string[], refused: readonly RefusedTap[]): Promise<void>;
	/** a piece's log as this browser last saw it, from its first line: what a page shows that is opened with the server gone */
	log(pieceId: string): Promise<unknown[]>;
	keepLog(pieceId: string, lines: readonly unknown[]): Promise<void>;
	/** a refused one goes into the queue again as it now reads, or is left out */
	again(clientId: string, tap?: Tap): Promise<void>;
}

interface TapDatabase extends DBSchema {
	waiting: { key: number; value: Tap; indexes: { clientId: string } };
	refused: { key: string; value: RefusedTap };
	logs: { key: string; value: unknown[] };
}

const NAME = 'sarta-bench';

/** A tab of an older version that does not let go must not hold up every tap: after this long the page keeps its taps itself, ms. */
const BLOCKED_MS = 3000;
const orBlocked = <T>(open: (blocked: () => void) => Promise<T>) =>
	new Promise<T>((resolve, reject) => {
		open(() => setTimeout(() => reject(new Error('A tab of an older version holds the store')), BLOCKED_MS)).then(resolve, reject);
	});

/** @throws where the browser keeps nothing: a private window, or a full disk */
export async function openTaps(): Promise<TapStore> {
	const db = await orBlocked((blocked) =>
		openDB<TapDatabase>(NAME, 2, {
			upgrade(db, from) {
				if (from < 1) {
					db.createObjectStore('waiting', { autoIncrement: true }).createIndex('clientId', 'clientId', { unique: true });
					db.createObjectStore('refused', { keyPath: 'clientId' });
				}
				if (from < 2) db.createObjectStore('logs');
			},
			// a tab of the version before lets go, so that this one can go on
			blocking: (_from, _to, event) => (event.target as IDBDatabase).close(),
			blocked
		})
	);
	await takeOver((tap) => db.add('waiting', tap));
	return {
		waiting: () => db.getAll('waiting'),
		refused: () => db.getAll('refused'),
		add: async (tap) => void (await db.add('waiting', tap)),
		async settle(taken, refused) {
			const tx = db.transaction(['waiting', 'refused'], 'readwrite');
			const waiting = tx.objectStore('waiting');
			for (const id of [...taken, ...refused.map((r) => r.clientId)]) {
				const key = await waiting.index('clientId').getKey(id);
				if (key !== undefined) await waiting.delete(key);
			}
			for (const r of refused) await tx.objectStore('refused').put(r);
			await tx.done;
		},
		log: async (pieceId) => (await db.get('logs', pieceId)) ?? [],
		keepLog: async (pieceId, lines) => void (await db.put('logs', [...lines], pieceId)),
		async again(clientId, tap) {
			const tx = db.transaction(['waiting', 'refused'], 'readwrite');
			await tx.objectStore('refused').delete(clientId);
			if (tap) await tx.objectStore('waiting').add(tap);
			await tx.done;
		}
	};
}

/** Taps as they were kept before: one text a piece. They go with the others; a text that cannot be read stays where it is. */
async function takeOver(add: (tap: Tap) => Promise<unknown>) {
	if (typeof localStorage === 'undefined' || typeof localStorage.key !== 'function') return;
	const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '');
	for (const key of keys) {
		const pieceId = /^sarta-bench-([0-9a-f-]{36})$/.exec(key)?.[1];
		if (!pieceId) continue;
		try {
			for (const tap of JSON.parse(localStorage.getItem(key) ?? '[]') as Omit<Tap, 'pieceId'>[])
				await add({ ...tap, pieceId }).catch(() => undefined);
			localStorage.removeItem(key);
		} catch {
			// not ours, or cut short
		}
	}
}

/** Where nothing can be kept: as long as the page is open. */
export function fleetingTaps(): TapStore {
	let [waiting, refused]: [Tap[], RefusedTap[]] = [[], []];
	const logs = new Map<string, readonly unknown[]>();
	return {
		log: (pieceId) => Promise.resolve([...(logs.get(pieceId) ?? [])]),
		keepLog: (pieceId, lines) => Promise.resolve(void logs.set(pieceId, lines)),
		waiting: () => Promise.resolve([...waiting]),
		refused: () => Promise.resolve([...refused]),
		add: (tap) => Promise.resolve(void waiting.push(tap)),
		settle(taken, more) {
			const gone = new Set([...taken, ...more.map((r) => r.clientId)]);
			waiting = waiting.filter((t) => !gone.has(t.clientId));
			refused = [...refused, ...more];
			return Promise.resolve();
		},
		again(clientId, tap) {
			refused = refused.filter((r) => r.clientId !== clientId);
			if (tap) waiting.push(tap);
			return Promise.resolve();
		}
	};
}
