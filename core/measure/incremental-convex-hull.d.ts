declare module 'incremental-convex-hull' {
	/** Facets of the hull as point indices. The first d + 1 points must be affinely independent. */
	export default function incrementalConvexHull(points: readonly (readonly number[])[], randomSearch?: boolean): number[][];
}
