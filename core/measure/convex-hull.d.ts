declare module 'convex-hull' {
	/** Facets of the hull as point indices: triangles for points in space. */
	export default function convexHull(points: readonly (readonly number[])[]): number[][];
}
