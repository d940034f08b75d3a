/** Who follows a piece's log is told when a line is added, by whichever server added it: PostgreSQL's own LISTEN and NOTIFY. */
import { sql } from 'drizzle-orm';
import pg from 'pg';
import type { Connection } from './database';

const CHANNEL = 'sarta_bench';
const AGAIN_MS = 1000;

/** Told when the transaction ends well, and not otherwise. */
export const tellOf = (tx: Connection, pieceId: string) => tx.execute(sql`select pg_notify(${CHANNEL}, ${pieceId})`);

type Follower = (pieceId: string) => void;

/** One line to the database for all who follow; opened with the first, closed with the last, opened again when it breaks. */
export class Listening {
	private readonly followers = new Set<Follower>();
	private client?: pg.Client;
	private timer?: NodeJS.Timeout;

	constructor(private readonly url: () => string | undefined) {}

	/** @returns how to stop */
	follow(follower: Follower): () => void {
		this.followers.add(follower);
		if (!this.client && !this.timer) void this.open();
		return () => {
			this.followers.delete(follower);
			if (!this.followers.size) this.close();
		};
	}
	private async open() {
		this.timer = undefined;
		const client = new pg.Client({ connectionString: this.url(), connectionTimeoutMillis: 5000 });
		this.client = client;
		// an error ends the line; without an ear for it, it would end the process
		const broken = () => {
			if (this.client !== client) return;
			this.client = undefined;
			if (this.followers.size) this.timer = setTimeout(() => void this.open(), AGAIN_MS);
		};
		client.on('error', broken);
		client.on('end', broken);
		client.on('notification', ({ payload }) => payload && this.tell(payload));
		try {
			await client.connect();
			await client.query(`listen ${CHANNEL}`);
			// what was added while nobody listened: everybody looks
			this.tell('');
		} catch {
			broken();
		}
	}
	private tell(pieceId: string) {
		for (const f of this.followers) f(pieceId);
	}
	private close() {
		clearTimeout(this.timer);
		this.timer = undefined;
		const { client } = this;
		this.client = undefined;
		void client?.end().catch(() => {});
	}
}
