import { json } from '@sveltejs/kit';
import { featureKind } from '$core/features';
import { METHOD_KINDS, waysOf, type Method } from '$core/measure/methods';
import { readsIn } from '$core/measure/methods/method';
import { QUANTITY_UNIT } from '$core/registers/instruments';
import type { InstrumentItem } from '$core/registers/registers';
import { evaluateReadings } from '$core/measure/readings';
import { readingContext } from '$core/features/context';
import { FaultError } from '$core/document/faults';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { MeasurementBody } from '$lib/server/dto';
import { addMeasurement, measurementsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, getRevision, StateError } from '$store/jobs';
import { registered } from '$store/registers';

export const GET = ({ params }) => answer(async () => json({ measurements: await measurementsOf(getDb(), idOf(params.piece, 'This piece'), true) }));

export const POST = (event) =>
	answer(async () => {
		const b = await readBody(event.request, MeasurementBody);
		const piece = await getPiece(getDb(), idOf(event.params.piece, 'This piece'));
		const revisionId = await revisionOfPiece(getDb(), piece.id);
		if (!revisionId) throw new StateError('piece', `Piece ${piece.serial} has not been started: readings belong to a plan at the bench`);
		const { document } = await getRevision(getDb(), revisionId);
		const feature = document.features.find((f) => f.id === b.feature);
		if (!feature) throw new FaultError([{ field: 'feature', value: b.feature, allowed: 'must be a feature of the issued plan' }]);
		const context = readingContext(feature, document);
		const ways = waysOf(featureKind(feature).methods, context);
		if (!ways.includes(b.method)) throw new FaultError([{ field: 'method', value: b.method, allowed: `one of ${ways.join(', ')}` }]);
		// the server works the value out itself; what the page showed is only a preview
		const { instrumentId, ...reading } = b;
		const tool = instrumentId === undefined ? undefined : await instrumentOf(instrumentId, b.method);
		const e = evaluateReadings(b.method, b.readings, context, tool?.uncertainty90);
		const row = await addMeasurement(
			getDb(),
			piece.id,
			{
				...reading,
				...(tool ? { instrument: tool.name, instrumentDueOn: tool.dueOn ?? null } : {}),
				planRevisionId: revisionId,
				value: e.value,
				unit: e.unit,
				uncertainty90: e.uncertainty90,
				arithmetic: e.arithmetic
			},
			personOf(event).id
		);
		return json({ measurement: row ?? null }, { status: 201 });
	});

/** An instrument of the register that reads what this method reads. @throws FaultError */
async function instrumentOf(id: string, method: Method): Promise<InstrumentItem> {
	const { kind, item } = await registered(getDb(), id);
	const refuse = (allowed: string) => new FaultError([{ field: 'instrumentId', value: item.name, allowed }]);
	if (kind !== 'instrument') throw refuse('must be an instrument of the register');
	const tool = item as InstrumentItem;
	const unit = readsIn(METHOD_KINDS[method]);
	if (QUANTITY_UNIT[tool.reads] !== unit) throw refuse(`must read ${unit === 'mm' ? 'lengths' : 'angles'}: this one reads ${tool.reads}`);
	return tool;
}
