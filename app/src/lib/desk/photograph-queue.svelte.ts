/** Photographs on their way: kept on the device before they are sent, sent one by one from whatever page is open, under the name of whoever took them. */
import { call } from '$lib/call';
import { uuid } from '$lib/uuid';
import { fleetingPhotographs, openPhotographs, type PhotographStore, type WaitingPhotograph } from './photograph-store';

const RETRY_MS = 4000;

export type PhotographOf = Pick<WaitingPhotograph, 'pieceId' | 'step' | 'about' | 'note'>;

export class PhotographQueue {
	/** in the order they were taken, refused ones among them */
	waiting = $state.raw<WaitingPhotograph[]>([]);
	/** how many have arrived from this page: who shows a piece's photographs asks for them again */
	arrived = $state(0);
	message = $state('');
	private stamp?: string | null;
	private isSignedIn = false;
	private store?: Promise<PhotographStore>;
	private sending?: Promise<void>;
	private timer?: ReturnType<typeof setTimeout>;

	constructor(private readonly open: () => Promise<PhotographStore> = openPhotographs) {}

	/** Browser only, by the page's frame: once at the start, and again when somebody signs in or out. */
	async begin(person: { stamp?: string | null } | null) {
		this.stamp = person?.stamp;
		this.isSignedIn = person !== null;
		const kept = await (await this.kept()).all();
		const have = new Set(this.waiting.map((p) => p.clientId));
		this.waiting = [...kept.filter((p) => !have.has(p.clientId)), ...this.waiting];
		void this.send();
	}
	end() {
		clearTimeout(this.timer);
	}
	private async kept(): Promise<PhotographStore> {
		this.store ??= this.open().catch(() => this.notKept());
		return this.store;
	}
	private notKept() {
		this.message = 'This browser keeps no photographs: stay on this page until they are sent.';
		return fleetingPhotographs();
	}
	async add(of: PhotographOf, picture: Blob): Promise<void> {
		const photograph: WaitingPhotograph = {
			...of,
			clientId: uuid(),
			takenAt: new Date().toISOString(),
			...(this.stamp ? { stamp: this.stamp } : {}),
			picture
		};
		this.waiting = [...this.waiting, photograph];
		try {
			await (await this.kept()).put(photograph);
		} catch {
			this.notKept();
		}
		void this.send();
	}
	/** A refused one that nobody will put right. */
	async leaveOut(clientId: string) {
		this.waiting = this.waiting.filter((p) => p.clientId !== clientId);
		await (await this.kept()).drop(clientId).catch(() => {});
	}
	/** Until everything is sent, or cannot be for now. */
	send(): Promise<void> {
		return (this.sending ??= this.sendAll().finally(() => (this.sending = undefined)));
	}
	private async sendAll() {
		clearTimeout(this.timer);
		for (;;) {
			const next = this.isSignedIn ? this.waiting.find((p) => p.message === undefined) : undefined;
			if (!next || !(await this.sendOne(next))) return;
		}
	}
	/** @returns whether to go on */
	private async sendOne(photograph: WaitingPhotograph): Promise<boolean> {
		const { pieceId, picture, message: _, ...said } = photograph;
		const query = new URLSearchParams(Object.entries(said).filter((e): e is [string, string] => typeof e[1] === 'string'));
		const r = await call('POST', `/api/pieces/${pieceId}/photographs?${query}`, undefined, picture);
		if (r.ok) {
			this.message = '';
			this.arrived++;
			await this.leaveOut(photograph.clientId);
			return true;
		}
		const { status, message, faults } = r.refusal;
		if (status === 0 || status >= 500 || status === 429) {
			this.message = 'A photograph is not sent yet: kept on this device, trying again.';
			this.timer = setTimeout(() => void this.send(), RETRY_MS);
			return false;
		}
		if (status === 401) {
			this.isSignedIn = false;
			return false;
		}
		const refused = { ...photograph, message: faults.length ? faults.map((f) => `${f.field}: ${f.allowed}`).join('; ') : message };
		this.waiting = this.waiting.map((p) => (p.clientId === refused.clientId ? refused : p));
		await (await this.kept()).put(refused).catch(() => {});
		return true;
	}
}

/** The one of this page. */
export const photographQueue = new PhotographQueue();
