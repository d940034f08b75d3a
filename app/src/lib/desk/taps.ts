/** Taps that the server does not have yet, kept in the browser: one record each, shared by every tab, so that none overwrites another's. */
import { openDB, type DBSchema } from 'idb';
import type { EventKind } from '$core/document/words';

/** A line of the bench log as this device made it. */
export interface Tap {
	clientId: string;
	pieceId: string;
	kind: EventKind;
	step?: string | null;
	note?: string | null;
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
	/** a refused one goes into the queue again as it now reads, or is left out */
	again(clientId: string, tap?: Tap): Promise<void>;
}

interface TapDatabase extends DBSchema {
	waiting: { key: number; value: Tap; indexes: { clientId: string } };
	refused: { key: string; value: RefusedTap };
}

const NAME = 'sarta-bench';

/** @throws where the browser keeps nothing: a private window, or a full disk */
export async function openTaps(): Promise<TapStore> {
	const db = await openDB<TapDatabase>(NAME, 1, {
		upgrade(db) {
			db.createObjectStore('waiting', { autoIncrement: true }).createIndex('clientId', 'clientId', { unique: true });
			db.createObjectStore('refused', { keyPath: 'clientId' });
		}
	});
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
	return {
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
