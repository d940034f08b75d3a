import { error } from '@sveltejs/kit';
import { GRADES } from '$core/materials/grades';
import { factorsOf } from '$lib/server/learning';
import { idOf } from '$lib/server/api';
import { readingCounts } from '$store/bench';
import { getDb } from '$store/database';
import { currentPlan, getJob, MissingError, piecesOf, revisionsOf } from '$store/jobs';
import { hasImportedRecord } from '$store/record';
import { listHeats, listMaterials, listProcedures } from '$store/library';

export const load = async ({ params, depends }) => {
	depends('sarta:job');
	try {
		const db = getDb();
		const id = idOf(params.job, 'This job');
		const [job, revision, pieces, counts, revisions, materials, heats, procedures, hasHistory] = await Promise.all([
			getJob(db, id),
			currentPlan(db, id),
			piecesOf(db, id),
			readingCounts(db, id),
			revisionsOf(db, id),
			listMaterials(db),
			listHeats(db),
			listProcedures(db),
			hasImportedRecord(db, id)
		]);
		const ownMaterials = materials.map((m) => m.material);
		return {
			job,
			plan: {
				revision: revision.revision,
				version: revision.version,
				state: revision.state,
				document: JSON.parse(JSON.stringify(revision.document)) as typeof revision.document
			},
			revisions,
			hasHistory,
			pieces: pieces.map((p) => ({ id: p.id, serial: p.serial, state: p.state, readings: counts.get(p.id) ?? 0 })),
			factors: await factorsOf(revision.document),
			grades: [...GRADES, ...ownMaterials].map((g) => ({ id: g.id, name: g.name })),
			ownMaterials,
			heats: heats.map((h) => ({ heat: h.heat, materialId: h.materialId, thicknessMm: h.thicknessMm })),
			procedures: procedures.filter((p) => !p.archivedAt).map((p) => ({ id: p.id, name: p.name, version: p.version, settings: p.settings }))
		};
	} catch (e) {
		if (e instanceof MissingError) error(404, e.message);
		throw e;
	}
};
