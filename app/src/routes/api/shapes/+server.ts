import { json } from '@sveltejs/kit';
import { Num, OneOf, Maybe, Name } from '$core/document/validators';
import { GRADES } from '$core/materials/grades';
import { answer, personOf, readBytes } from '$lib/server/api';
import { IMPORT_KINDS, IMPORT_LIMIT, importInThread, type ImportKind } from '$lib/server/importShape';
import type { DxfUnit } from '$core/formats/dxfIn';
import { queryAs } from '$lib/server/parse';
import { getDb } from '$store/database';
import { createJob } from '$store/jobs';

class ShapeQuery {
	@OneOf(IMPORT_KINDS) kind!: ImportKind;
	@Maybe() @OneOf(['mm', 'cm', 'm', 'in']) unit?: DxfUnit;
	@OneOf(GRADES.map((g) => g.id)) material!: string;
	@Num(0.3, 12) thicknessMm!: number;
	@Num(-175, 175) bendAngleDeg!: number;
	@Num(0, 500) bendRadiusMm!: number;
	@Num(0.01, 20) toleranceMm!: number;
	/** makes the job; without it the file is only looked at */
	@Maybe() @Name(120) name?: string;
}

/** The body is the drawing or model itself; what it is and how to take it stand in the address. */
export const POST = (event) =>
	answer(async () => {
		const { name, ...task } = queryAs(ShapeQuery, event.url, ['thicknessMm', 'bendAngleDeg', 'bendRadiusMm', 'toleranceMm']);
		const found = await importInThread({ ...task, bytes: await readBytes(event.request, IMPORT_LIMIT) });
		if (!name || !found.plan)
			return json({
				needsUnit: found.needsUnit ?? false,
				unit: found.unit,
				faults: found.faults,
				notes: found.notes,
				parts: found.plan?.parts.map((p) => ({
					id: p.id,
					name: p.name,
					thicknessMm: p.thicknessMm,
					outline: p.outline,
					holes: p.holes,
					bends: p.bends.map((b) => [b.from, b.to]),
					rolled: p.roll !== undefined
				})),
				seams: found.plan?.joints.map((j) => ({ name: j.name, type: j.type }))
			});
		const job = await createJob(getDb(), { name, quantity: 1 }, found.plan, personOf(event).id);
		return json({ job, notes: found.notes }, { status: 201 });
	});
