import { error } from '@sveltejs/kit';
import { GRADES } from '$core/materials/grades';
import { factorsOf } from '$lib/server/learning';
import { idOf } from '$lib/server/api';
import { measurementsOf } from '$store/bench';
import { getDb } from '$store/database';
import { currentPlan, getJob, MissingError, piecesOf, revisionsOf } from '$store/jobs';
import { listHeats, listMaterials, listProcedures } from '$store/library';

export const load = async ({ params, depends }) => {
	depends('sarta:job');
	try {
		const db = getDb();
		const id = idOf(params.job, 'This job');
		const job = await getJob(db, id);
		const revision = await currentPlan(db, id);
		const pieces = await piecesOf(db, id);
		const counts = await Promise.all(pieces.map(async (p) => (await measurementsOf(db, p.id)).length));
		return {
			job,
			plan: {
				revision: revision.revision,
				version: revision.version,
				state: revision.state,
				document: JSON.parse(JSON.stringify(revision.document)) as typeof revision.document
			},
			revisions: await revisionsOf(db, id),
			pieces: pieces.map((p, i) => ({ id: p.id, serial: p.serial, state: p.state, readings: counts[i] })),
			factors: await factorsOf(revision.document),
			grades: [...GRADES, ...(await listMaterials(db)).map((m) => m.material)].map((g) => ({ id: g.id, name: g.name })),
			ownMaterials: (await listMaterials(db)).map((m) => m.material),
			heats: (await listHeats(db)).map((h) => ({ heat: h.heat, materialId: h.materialId, thicknessMm: h.thicknessMm })),
			procedures: (await listProcedures(db))
				.filter((p) => !p.archivedAt)
				.map((p) => ({ id: p.id, name: p.name, version: p.version, settings: p.settings }))
		};
	} catch (e) {
		if (e instanceof MissingError) error(404, e.message);
		throw e;
	}
};
