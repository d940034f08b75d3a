declare module 'occt-import-js' {
	interface OcctMesh {
		name: string;
		attributes: { position: { array: number[] } };
		index: { array: number[] };
		brep_faces?: { first: number; last: number }[];
	}
	interface Occt {
		ReadStepFile(content: Uint8Array, params: object | null): { success: boolean; meshes: OcctMesh[] };
	}
	export default function occt(): Promise<Occt>;
}
