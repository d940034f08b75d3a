/** VTU (VTK XML unstructured grid, ASCII): the drawn shape with the displacement of the first and the last step. */
import type { Shapes } from '../forecast/forecast';

const VTK_TRIANGLE = 5;

export function writeVtu(s: Shapes): string {
	const points = s.xyz.length / 3;
	const cells = s.tri.length / 3;
	const rows = (a: ArrayLike<number>, n: number) => {
		const out: string[] = [];
		for (let i = 0; i < a.length; i += n) out.push(Array.from({ length: n }, (_, k) => String(a[i + k])).join(' '));
		return out.join('\n');
	};
	const array = (name: string, type: string, components: number, data: string) =>
		`<DataArray type="${type}" Name="${name}"${components > 1 ? ` NumberOfComponents="${components}"` : ''} format="ascii">\n${data}\n</DataArray>`;
	const steps = [
		['displacement as tacked (mm)', s.steps[0]],
		['displacement (mm)', s.steps[s.steps.length - 1]]
	] as const;
	return `<?xml version="1.0"?>
<VTKFile type="UnstructuredGrid" version="0.1" byte_order="LittleEndian">
<UnstructuredGrid><Piece NumberOfPoints="${points}" NumberOfCells="${cells}">
<Points>${array('Points', 'Float32', 3, rows(s.xyz, 3))}</Points>
<Cells>
${array('connectivity', 'Int32', 1, rows(s.tri, 3))}
${array('offsets', 'Int32', 1, Array.from({ length: cells }, (_, i) => 3 * (i + 1)).join('\n'))}
${array('types', 'UInt8', 1, Array.from({ length: cells }, () => VTK_TRIANGLE).join('\n'))}
</Cells>
<PointData Vectors="displacement (mm)">
${steps.map(([name, u]) => array(name, 'Float32', 3, rows(u, 3))).join('\n')}
</PointData>
<CellData>
${array('part', 'Int32', 1, Array.from(s.triPart).join('\n'))}
</CellData>
</Piece></UnstructuredGrid>
</VTKFile>
`;
}
