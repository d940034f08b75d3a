import { GRADES } from '$core/materials/grades';
import { getDb } from '$store/database';
import { listHeats, listMaterials, listProcedures } from '$store/library';

export const load = async () => {
	const db = getDb();
	return {
		procedures: await listProcedures(db),
		materials: (await listMaterials(db)).map((m) => m.material),
		heats: await listHeats(db),
		grades: GRADES.map((g) => ({ ...g }))
	};
};
