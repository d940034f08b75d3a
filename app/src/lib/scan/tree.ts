/** Nearest places of a mesh, by a tree of boxes over its triangles (three-mesh-bvh). */
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH, type HitPointInfo } from 'three-mesh-bvh';
import type { Surface } from '$core/scan/surface';

export function treeOf(xyz: ArrayLike<number>, tri: ArrayLike<number>): Surface['nearest'] {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(Float32Array.from(xyz), 3));
	geometry.setIndex(new BufferAttribute(Uint32Array.from(tri), 1));
	// the geometry's own triangles keep their order: an answer's index is the mesh's
	const tree = new MeshBVH(geometry, { indirect: true });
	const at = new Vector3();
	const found: HitPointInfo = { point: new Vector3(), distance: 0, faceIndex: 0 };
	return (x, y, z, out) => {
		tree.closestPointToPoint(at.set(x, y, z), found);
		out.x = found.point.x;
		out.y = found.point.y;
		out.z = found.point.z;
		out.tri = found.faceIndex;
	};
}
