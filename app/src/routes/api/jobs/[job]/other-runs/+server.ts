import { json } from '@sveltejs/kit';
import { arcEnergy } from '$core/heat/arcEnergy';
import { settingsOf } from '$core/forecast/schedule';
import type { OtherPiece } from '$core/estimate/fillWaits';
import { whereItStands } from '$core/weldout/logbook';
import { answer, idOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { eventsOf, revisionOfPiece, tappedAt } from '$store/bench';
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
				const { steps } = await benchPlanOf(revision);
				const at = whereItStands(
					steps,
					(await eventsOf(db, piece.id)).map((e) => ({ ...e, at: tappedAt(e) }))
				);
				const isTacked = plan.tacks.length === 0 || at.steps.some((x) => x.step.kind === 'tack' && x.state === 'done');
				if (bound === undefined || !isTacked) continue;
				const runs = at.steps
					.flatMap(({ step, state, rest }) => (step.kind === 'run' && state === 'open' ? [{ step, rest }] : []))
					.slice(0, MOST)
					.map(({ step, rest }) => {
						const settings = settingsOf(plan, { joint: step.joint, settings: step.settings });
						const mm = (rest ?? [[step.fromMm, step.toMm]]).reduce((sum, [from, to]) => sum + Math.abs(to - from), 0);
						const seam = plan.joints.find((j) => j.id === step.joint)!.name;
						return { name: `run ${step.number}, ${seam} (${arcEnergy(settings).meanAmps.toFixed(0)} A)`, arcS: mm / settings.speedMmPerS };
					});
				if (runs.length) out.push({ label: `${job.number} ${job.name}, ${piece.serial}`, runs });
			}
		}
		return json({ pieces: out });
	});
