import { json } from '@sveltejs/kit';
import { arcEnergy } from '$core/heat/arcEnergy';
import { settingsOf } from '$core/forecast/schedule';
import type { OtherPiece } from '$core/estimate/fillWaits';
import { answer, idOf } from '$lib/server/api';
import { eventsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getRevision, latestRevision, listJobs, piecesOf } from '$store/jobs';

/** Runs of one piece that are worth offering. */
const MOST = 12;

/** What other jobs' pieces at the bench, or waiting with an issued plan, would have laid next. */
export const GET = ({ params }) =>
	answer(async () => {
		const db = getDb();
		const self = idOf(params.job, 'This job');
		const out: OtherPiece[] = [];
		for (const job of await listJobs(db, '', false)) {
			if (job.id === self) continue;
			const open = (await piecesOf(db, job.id)).filter((p) => p.state === 'in-hand' || p.state === 'waiting');
			for (const piece of open.slice(0, 2)) {
				const bound = await revisionOfPiece(db, piece.id);
				const revision = bound ? await getRevision(db, bound) : await latestRevision(db, job.id, 'issued');
				if (!revision) continue;
				const plan = revision.document;
				const done = new Set((await eventsOf(db, piece.id)).filter((e) => e.kind === 'step-done').map((e) => e.step));
				const tacked = bound !== undefined && (plan.tacks.length === 0 || [...done].some((s) => s?.startsWith('tack:')));
				if (!tacked) continue;
				const runs = plan.runs
					.filter((r) => !done.has(`run:${r.id}`))
					.slice(0, MOST)
					.map((r) => {
						const settings = settingsOf(plan, r);
						const arcS = Math.abs(r.toMm - r.fromMm) / settings.speedMmPerS;
						const number = plan.runs.indexOf(r) + 1;
						return { name: `run ${number}, ${plan.joints.find((j) => j.id === r.joint)!.name} (${arcEnergy(settings).meanAmps.toFixed(0)} A)`, arcS };
					});
				if (runs.length) out.push({ label: `${job.number} ${job.name}, ${piece.serial}`, runs });
			}
		}
		return json({ pieces: out });
	});
