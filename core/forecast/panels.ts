/** What a panel of a part is called: the bends it hangs on say where it is; the base has none between itself and the frame. */
import type { AssemblyMesh } from '../mesh/assemblyMesh';

export const panelNames = (mesh: AssemblyMesh) => (partIndex: number, panel: number) => {
	const { part, panelCount } = mesh.parts[partIndex];
	if (panelCount < 2) return part.name;
	return `${part.name}, ${panel === 0 ? 'base panel' : `panel ${panel + 1} of ${panelCount}`}`;
};
