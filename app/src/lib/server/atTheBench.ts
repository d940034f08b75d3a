import { arcEnergy } from '$core/heat/arcEnergy';
import { settingsOf } from '$core/forecast/schedule';
import { whereItStands } from '$core/weldout/logbook';
import { benchPlanOf } from './compute';
import { issuedRevision } from './piece';
import { eventsOf, revisionOfPiece, tappedAt } from '$store/bench';
import { getDb } from '$store/database';

/** What is in hand at a piece, as far as a device may want it: a simulated one burns the run that is next. Nothing while it is not begun. */
export interface AtTheBench {
	step: string;
	kind: string;
	/** of a run: as planned, of what is left of it */
	run?: { arcS: number; ampsA: number; volts: number };
	/** when the last arc went out, ms since 1970 */
	lastArcAt?: number;
	ambientC: number;
}

export async function atTheBench(pieceId: string): Promise<AtTheBench | null> {
	const bound = await revisionOfPiece(getDb(), pieceId);
	if (!bound) return null;
	const revision = await issuedRevision(bound);
	const plan = revision.document;
	const [{ steps }, events] = await Promise.all([benchPlanOf(revision), eventsOf(getDb(), pieceId)]);
	const at = whereItStands(
		steps,
		events.map((e) => ({ ...e, at: tappedAt(e) }))
	);
	const now = at.current;
	if (!now || at.isFinished || at.isPaused) return null;
	const arcs = at.steps.flatMap((s) => (s.step.kind === 'run' ? s.laid.map((l) => l.at) : []));
	const { step } = now;
	const planned = step.kind === 'run' ? plan.runs.find((r) => r.id === step.run) : undefined;
	const [from, to] = now.rest?.[0] ?? (planned ? [planned.fromMm, planned.toMm] : [0, 0]);
	const settings = planned && settingsOf(plan, planned);
	const heat = settings && arcEnergy(settings);
	return {
		step: step.id,
		kind: step.kind,
		...(settings && heat ? { run: { arcS: Math.abs(to - from) / settings.speedMmPerS, ampsA: heat.meanAmps, volts: heat.volts } } : {}),
		...(arcs.length ? { lastArcAt: Math.max(...arcs) } : {}),
		ambientC: plan.ambientC
	};
}
