/** Photographs that the server does not have yet, kept in the browser as they were taken. */
import { openDB, type DBSchema } from 'idb';

export interface WaitingPhotograph {
	clientId: string;
	pieceId: string;
	step?: string;
	/** the line of the log or the reading that it shows */
	about?: string;
	note?: string;
	takenAt: string;
	/** who was signed in here then: see benchStamps */
	stamp?: string;
	picture: Blob;
	/** why the server did not take it: it waits to be left out, and holds up no other */
	message?: string;
}
export interface PhotographStore {
	all(): Promise<WaitingPhotograph[]>;
	put(photograph: WaitingPhotograph): Promise<void>;
	drop(clientId: string): Promise<void>;
}

interface PhotographDatabase extends DBSchema {
	photographs: { key: string; value: WaitingPhotograph };
}

/** @throws where the browser keeps nothing: a private window, or a full disk */
export async function openPhotographs(): Promise<PhotographStore> {
	const db = await openDB<PhotographDatabase>('sarta-photographs', 1, {
		upgrade: (db) => void db.createObjectStore('photographs', { keyPath: 'clientId' })
	});
	return {
		all: async () => (await db.getAll('photographs')).sort((p, q) => p.takenAt.localeCompare(q.takenAt)),
		put: async (photograph) => void (await db.put('photographs', photograph)),
		drop: (clientId) => db.delete('photographs', clientId)
	};
}

/** Where nothing can be kept: as long as the page is open. */
export function fleetingPhotographs(): PhotographStore {
	const kept = new Map<string, WaitingPhotograph>();
	return {
		all: () => Promise.resolve([...kept.values()]),
		put: (p) => Promise.resolve(void kept.set(p.clientId, p)),
		drop: (id) => Promise.resolve(void kept.delete(id))
	};
}
