import { json } from '@sveltejs/kit';
import { GRADES } from '$core/materials/grades';
import { FaultError } from '$core/document/faults';
import { answer, personOf, readBody } from '$lib/server/api';
import { MaterialBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { addMaterial, listMaterials } from '$store/library';

export const GET = () => answer(async () => json({ materials: await listMaterials(getDb()) }));

export const POST = (event) =>
	answer(async () => {
		const { material } = await readBody(event.request, MaterialBody);
		if (GRADES.some((g) => g.id === material.id))
			throw new FaultError([{ field: 'material.id', value: material.id, allowed: 'must not be the name of a grade that ships with the program' }]);
		return json({ material: await addMaterial(getDb(), material, personOf(event).id) }, { status: 201 });
	});
