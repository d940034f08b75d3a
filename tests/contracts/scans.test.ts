/** Scans of the whole piece: kept once, of the right mesh, by whoever may measure, and where they come out again. Against the running server. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { jobRecordOf } from '$core/formats/jobRecord';
import { assemblyMesh, type AssemblyMesh } from '$core/mesh/assemblyMesh';
import { planOf } from '$core/reading/readPlan';
import { bytesOfShape, ontoMesh } from '$core/scan/kept';
import { closeDb } from '$store/database';
import { BASE, type Client, personOf, readAll, startedPiece, weldOut } from './client';

let planner: Client;
let welder: Client;
let inspector: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);

const meshOf = async (job: string): Promise<AssemblyMesh> => assemblyMesh(planOf((await planner.get(`/api/jobs/${job}/plan`)).body.plan.document));
/** every node half a millimetre up */
const lifted = (mesh: AssemblyMesh) => bytesOfShape(Float32Array.from({ length: 3 * mesh.nodeCount }, (_, i) => (i % 3 === 2 ? 0.5 : 0)));
const query = (more: Record<string, string> = {}) =>
	new URLSearchParams({
		clientId: randomUUID(),
		moment: 'unclamped',
		posture: 'three-points',
		file: 'whole piece.ply',
		instrument: 'Arm scanner',
		seen: 'closest',
		points: '120000',
		scatterMm: '0.04',
		...more
	}).toString();
async function send(who: Client, piece: string, bytes: Uint8Array, asked = query()) {
	const r = await fetch(`${BASE}/api/pieces/${piece}/scans?${asked}`, {
		method: 'POST',
		headers: { origin: BASE, 'content-type': 'application/octet-stream', ...who.session() },
		body: new Uint8Array(bytes)
	});
	return { status: r.status, body: (await r.json()) as { message?: string; faults?: { field: string; allowed: string }[] } };
}
const listOf = async (piece: string) =>
	(await welder.get(`/api/pieces/${piece}/scans`)).body.scans as { clientId: string; person: string; points: number }[];

describe('a scan of the whole piece', () => {
	it('is kept once, comes back as it was, and goes into the record and its paper', async () => {
		const { job, piece } = await startedPiece(planner, welder, 'Scanned');
		const mesh = await meshOf(job);
		const bytes = lifted(mesh);
		const asked = query({ metalC: '22.5' });
		expect((await send(inspector, piece, bytes, asked)).status).toBe(201);
		expect((await send(inspector, piece, bytes, asked)).status).toBe(201);
		const [one, ...more] = await listOf(piece);
		expect([more.length, one.person, one.points]).toEqual([0, 'Test inspector', 120_000]);
		const back = await fetch(`${BASE}/api/pieces/${piece}/scans/${one.clientId}`, { headers: welder.session() });
		// with where each node is drawn: whatever the mesh becomes, it can be read
		const kept = new Uint8Array(await back.arrayBuffer());
		expect(kept.byteLength).toBe(2 * bytes.byteLength);
		expect(bytesOfShape(ontoMesh(kept, mesh))).toEqual(bytes);
		const record = (await planner.get(`/api/jobs/${job}/record`)).body;
		expect(() => jobRecordOf(record)).not.toThrow();
		const [scan] = record.pieces.find((p: { scans: unknown[] }) => p.scans.length).scans;
		expect(scan).toMatchObject({ clientId: one.clientId, file: 'whole piece.ply', metalC: 22.5, seen: 'closest', person: 'Test inspector' });
		expect(scan.nodes.length).toBe(6 * mesh.nodeCount);
		// where it is drawn, and how far from there
		expect(scan.nodes.slice(0, 6)).toEqual([...[0, 1, 2].map((d) => Math.round(100 * mesh.xyz[d]) / 100), 0, 0, 0.5]);
		const [short, full] = await Promise.all(
			['?short', ''].map(
				async (which) =>
					(await (await fetch(`${BASE}/api/pieces/${piece}/record.pdf${which}`, { headers: welder.session() })).arrayBuffer()).byteLength
			)
		);
		// four pictures of the piece
		expect(full - short).toBeGreaterThan(40_000);
	});
	it('of another mesh, with holes, of a moment that is none: refused by name and nothing is kept', async () => {
		const { job, piece, other } = await startedPiece(planner, welder, 'Not scanned');
		const mesh = await meshOf(job);
		const bytes = lifted(mesh);
		const holed = bytes.slice();
		new DataView(holed.buffer).setFloat32(8, NaN, true);
		for (const [body, asked, words] of [
			[bytes.subarray(12), query(), /three 32 bit floats for each of/],
			[new Uint8Array(), query(), /three 32 bit floats/],
			[holed, query(), /numbers within/],
			[new Uint8Array(3_000_001), query(), /at most 3 MB/],
			[bytes, query({ moment: 'someday' }), /./],
			[bytes, query({ points: 'many' }), /./],
			[bytes, query({ clientId: 'me' }), /UUID/],
			[bytes, query({ seen: 'through glass' }), /closest/]
		] as const) {
			const r = await send(welder, piece, body, asked);
			expect([r.status, r.body.faults?.[0].allowed], words.source).toEqual([400, expect.stringMatching(words)]);
		}
		expect((await send(welder, randomUUID(), bytes)).status).toBe(404);
		// a piece that nobody has begun has no plan of its own
		expect((await send(welder, other, bytes)).status).toBe(422);
		expect(await listOf(piece)).toEqual([]);
	});
	it('a signed piece takes none; what was run is there as a table', async () => {
		const { job, piece } = await startedPiece(planner, welder, 'Signed and scanned');
		await weldOut(welder, job, piece);
		await readAll(inspector, job, piece);
		const csv = await (await fetch(`${BASE}/api/pieces/${piece}/as-run.csv`, { headers: welder.session() })).text();
		const [head, ...rows] = csv.trim().split('\r\n');
		const plan = planOf((await planner.get(`/api/jobs/${job}/plan`)).body.plan.document);
		expect(head).toBe('piece,run,seam,asIssued,asRun,otherwise');
		expect(rows.length).toBe(plan.runs.length);
		const record = (await planner.get(`/api/jobs/${job}/record`)).body.pieces.find((p: { runs: unknown[] }) => p.runs.length);
		expect(record.runs.map((r: { otherwise: string[] }) => r.otherwise)).toEqual(plan.runs.map(() => []));
		expect(record.results.map((r: { verdict: string }) => r.verdict)).toEqual(plan.features.map(() => 'inside'));
		expect((await inspector.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'Seen.' })).status).toBe(201);
		const late = await send(inspector, piece, lifted(await meshOf(job)));
		expect([late.status, late.body.message]).toEqual([422, expect.stringMatching(/handed over/)]);
	});
});
