import { json } from '@sveltejs/kit';
import { featureKind } from '$core/features';
import { evaluateReadings } from '$core/measure/readings';
import { readingContext } from '$core/features/context';
import { FaultError } from '$core/document/faults';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { MeasurementBody } from '$lib/server/dto';
import { addMeasurement, measurementsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, getRevision, StateError } from '$store/jobs';

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
		if (!featureKind(feature).methods.includes(b.method))
			throw new FaultError([{ field: 'method', value: b.method, allowed: `one of ${featureKind(feature).methods.join(', ')}` }]);
		// the server works the value out itself; what the page showed is only a preview
		const e = evaluateReadings(b.method, b.readings, readingContext(feature, document));
		const row = await addMeasurement(
			getDb(),
			piece.id,
			{ ...b, planRevisionId: revisionId, value: e.value, unit: e.unit, uncertainty90: e.uncertainty90, arithmetic: e.arithmetic },
			personOf(event).id
		);
		return json({ measurement: row ?? null }, { status: 201 });
	});
