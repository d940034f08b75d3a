/** The open formats: schema, examples, command line; and an importer that nothing brings down. */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import Ajv from 'ajv';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readJobFile, writeJobFile } from '$core/formats/jobFile';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import type { PlanDocument } from '$core/document/schema';
import { HOLD_DOWN_KINDS, type HoldDownKind } from '$core/document/words';
import { exampleJobs } from '../../cli/exampleJobs';
import { jobFileSchema } from '../../cli/jobFileSchema';

const dir = mkdtempSync(path.join(os.tmpdir(), 'sarta-'));
const sarta = (...args: string[]) =>
	spawnSync('node', [path.join(process.env.SARTA_NODE_BUILD_DIR || 'build-node', 'sarta.js'), ...args], { encoding: 'utf8' });

/** A plate with its web, and one hold-down of the kind. A kind without an entry does not compile. */
function withHold(kind: HoldDownKind): PlanDocument {
	const plan = newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'] }).plan!;
	const [part] = plan.parts;
	const [[x0, y0]] = part.outline;
	const at: [number, number] = [x0 + 12, y0 + 12];
	const joint = plan.joints[0].id;
	const base = { id: 'h1', name: 'Held', life: { on: 'start', off: 'when-cold' } };
	const fields: Record<HoldDownKind, object> = {
		bar: { joint, fromMm: 0, toMm: 50, material: 'copper', widthMm: 40, thicknessMm: 10, contact: 'tight' },
		clamp: { joint, stationMm: 20, holds: 'normal', stiffnessNPerMm: 2000 },
		jig: { joint, fromMm: 0, toMm: 50, holds: 'all', stiffnessNPerMm: 2000 },
		support: { part: part.id, at, holds: 'normal', stiffnessNPerMm: 2000 },
		bolts: { part: part.id, places: [at, [x0 + 60, y0 + 12]], holeMm: 6, stiffnessNPerMm: 100_000 },
		'table-tack': { part: part.id, at, stiffnessNPerMm: 50_000 },
		weight: { part: part.id, at, massKg: 5 },
		brace: { part: part.id, at, partB: part.id, atB: [x0 + 60, y0 + 12], areaMm2: 100, iMm4: 800, eModulusMPa: 200_000 },
		'holding-table': {
			parts: [plan.parts[0].id],
			by: 'vacuum',
			material: 'steel',
			thicknessMm: 20,
			contact: 'loose',
			pitchMm: 60,
			stiffnessNPerMm: 5000
		},
		strongback: {
			part: part.id,
			path: [at, [x0 + 80, y0 + 12]],
			areaMm2: 300,
			iOutMm4: 22_500,
			iInMm4: 2500,
			torsionMm4: 8000,
			eModulusMPa: 200_000,
			offsetMm: 15,
			pitchMm: 50
		}
	};
	plan.holdDowns = [{ ...base, kind, ...fields[kind] } as PlanDocument['holdDowns'][number]];
	return plan;
}

describe('published files are current', () => {
	it('docs/job-file.schema.json is what the validators say', () =>
		expect(JSON.parse(readFileSync('docs/job-file.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(jobFileSchema()))));
	it.each(exampleJobs().map((e) => [e.file, e] as const))(
		'examples/%s is what its maker makes, passes the importer and the schema (ajv)',
		(file, e) => {
			const text = readFileSync(`examples/${file}`, 'utf8');
			expect(text).toBe(writeJobFile(e.job, e.plan));
			expect(readJobFile(text).faults).toEqual([]);
			const ajv = new Ajv({ strict: false, validateFormats: false });
			const valid = ajv.validate(jobFileSchema(), JSON.parse(text));
			expect(ajv.errors ?? []).toEqual([]);
			expect(valid).toBe(true);
		}
	);
	it.each(HOLD_DOWN_KINDS)('a job file with a hold-down of kind %s is taken by schema and importer, and comes back as it was', (kind) => {
		const plan = withHold(kind);
		const text = writeJobFile({ name: 'Held', quantity: 1 }, plan);
		const ajv = new Ajv({ strict: false, validateFormats: false });
		ajv.validate(jobFileSchema(), JSON.parse(text));
		expect(ajv.errors ?? []).toEqual([]);
		const { file, faults } = readJobFile(text);
		expect(faults).toEqual([]);
		expect(file!.plan.holdDowns.map((h) => h.kind)).toEqual([kind]);
		expect(JSON.parse(writeJobFile(file!.job, file!.plan))).toEqual(JSON.parse(text));
		// and a field that is not its own is refused by both
		const strange = JSON.parse(text);
		strange.plan.holdDowns[0].colour = 'red';
		expect(ajv.validate(jobFileSchema(), strange)).toBe(false);
		expect(readJobFile(JSON.stringify(strange)).faults).not.toEqual([]);
	});
	it('read and written again, a file is the same file', () => {
		for (const e of exampleJobs()) {
			const text = readFileSync(`examples/${e.file}`, 'utf8');
			const { file } = readJobFile(text);
			expect(JSON.parse(writeJobFile(file!.job, file!.plan))).toEqual(JSON.parse(text));
		}
	});
});

describe('the command line', () => {
	it('forecasts a file that no family made, and writes result and VTU', () => {
		const out = path.join(dir, 'r.json');
		const vtu = path.join(dir, 'r.vtu');
		const r = sarta('forecast', 'examples/tee.json', '--out', out, '--vtu', vtu);
		expect(r.stderr).toBe('');
		expect(r.status).toBe(0);
		const result = JSON.parse(readFileSync(out, 'utf8'));
		expect(result).toMatchObject({ format: 'sarta-result', version: 2, depth: 'quick', method: { id: 'evidence/9' } });
		const ajv = new Ajv({ strict: false });
		expect(ajv.validate(JSON.parse(readFileSync('docs/result-file.schema.json', 'utf8')), result), JSON.stringify(ajv.errors)).toBe(true);
		expect(result.probes[0].displacement.every(Number.isFinite)).toBe(true);
		expect(readFileSync(vtu, 'utf8')).toMatch(/<VTKFile type="UnstructuredGrid"/);
	});
	it.each(['presets', 'holds'])(
		'advice on %s is written with its reasons, and the plan as it would then be is a job file that forecasts so',
		(which) => {
			const [out, plan] = [path.join(dir, `${which}.json`), path.join(dir, `${which}-job.json`)];
			// the examples come inside their limits by themselves: angles as a shop's coupon might give them, and for holds tighter limits;
			// two sheets for presets, for a box has no joint that turns by itself
			const tight = JSON.parse(readFileSync(which === 'presets' ? 'examples/panel.json' : 'examples/trough.json', 'utf8'));
			for (const j of tight.plan.joints) j.response = { angularChangeRad: which === 'presets' ? 0.06 : 0.03 };
			if (which === 'holds')
				for (const f of tight.plan.features)
					f.tolerance = { ...f.tolerance, upper: 0.1, ...(f.tolerance.lower === undefined ? {} : { lower: -0.1 }) };
			const job = path.join(dir, `${which}-tight.json`);
			writeFileSync(job, JSON.stringify(tight));
			const r = sarta(which, job, '--out', out, '--plan', plan);
			expect([r.stderr, r.status]).toEqual(['', 0]);
			const advice = JSON.parse(readFileSync(out, 'utf8'));
			expect(r.stdout).toContain(advice.words);
			expect(advice.final.after.every(Number.isFinite)).toBe(true);
			if (which === 'presets') expect(advice.joints.length).toBeGreaterThan(0);
			// what was advised is in the plan, and the quick forecast of that file says what the advice said
			const result = path.join(dir, `${which}-result.json`);
			expect(sarta('forecast', plan, '--out', result).status).toBe(0);
			const forecast = JSON.parse(readFileSync(result, 'utf8'));
			const said: number[] = advice.after ?? advice.steps[advice.steps.length - 1].values;
			said.forEach((v, k) => expect(Math.abs(forecast.features[k].predicted - v), forecast.features[k].name).toBeLessThan(0.05 + 0.03 * Math.abs(v)));
		}
	);
	it('exit codes: 0 in order, 1 refused with every fault named, 2 wrong use', () => {
		expect(sarta('check', 'examples/trough.json').status).toBe(0);
		const bad = JSON.parse(readFileSync('examples/trough.json', 'utf8'));
		bad.plan.parts[0].thicknessMm = 0;
		bad.plan.joints[0].settings = 'nothing';
		const file = path.join(dir, 'bad.json');
		writeFileSync(file, JSON.stringify(bad));
		const r = sarta('check', file);
		expect(r.status).toBe(1);
		expect(r.stderr).toMatch(/plan\.parts\[0\]\.thicknessMm/);
		expect([sarta().status, sarta('fly').status, sarta('check', 'nowhere.json').status, sarta('check', file, '--out').status]).toEqual([2, 2, 2, 2]);
	});
	it(
		'bin/sarta is the same program',
		() => expect(execFileSync('bin/sarta', ['--help'], { encoding: 'utf8', env: { ...process.env } })).toMatch(/sarta forecast JOB.json/),
		120_000
	);
});

describe('the importer takes 2,000 spoilt job files: accepted and sane, or refused with a named field; never a crash', () => {
	const texts = exampleJobs().map((e) => JSON.stringify(JSON.parse(writeJobFile(e.job, e.plan))));
	const nasty = fc.oneof(
		fc.constantFrom<unknown>(
			null,
			0,
			-1,
			1e308,
			-1e-308,
			'',
			'<script>',
			[],
			{},
			true,
			'NaN',
			[[]],
			{ kind: 'bar' },
			'\u0000',
			Array(50).fill(0),
			'start',
			'after-run:x'
		),
		fc.double(),
		fc.string(),
		fc.jsonValue()
	);
	/** Puts something nasty at a random place of the document, or takes the place away. */
	const spoil = (doc: unknown, steps: number[], value: unknown, remove: boolean) => {
		let at = doc as Record<string, unknown>;
		for (let i = 0; i < steps.length; i++) {
			const keys = Object.keys(at);
			if (!keys.length) return;
			const key = keys[steps[i] % keys.length];
			if (i === steps.length - 1 || typeof at[key] !== 'object' || at[key] === null) {
				if (remove) delete at[key];
				else at[key] = structuredClone(value); // a later change must not write into the constant
				return;
			}
			at = at[key] as Record<string, unknown>;
		}
	};
	it('property', () => {
		let refused = 0;
		fc.assert(
			fc.property(
				fc.nat(3),
				fc.array(fc.tuple(fc.array(fc.nat(400), { minLength: 1, maxLength: 8 }), nasty, fc.boolean()), { minLength: 1, maxLength: 3 }),
				(which, changes) => {
					const doc = JSON.parse(texts[which]);
					for (const [steps, value, remove] of changes) spoil(doc, steps, value, remove);
					const text = JSON.stringify(doc);
					const read = readJobFile(text);
					if (read.file) {
						// sane: it can be written, read again and is the same
						const again = readJobFile(writeJobFile(read.file.job, read.file.plan));
						expect(again.faults).toEqual([]);
					} else {
						refused++;
						expect(read.faults.length).toBeGreaterThan(0);
						for (const f of read.faults) {
							expect(f.field.length).toBeGreaterThan(0);
							expect(f.allowed.length).toBeGreaterThan(0);
							expect(f.value.length).toBeLessThanOrEqual(60);
						}
					}
				}
			),
			{ numRuns: 2000 }
		);
		expect(refused).toBeGreaterThan(500);
	}, 240_000);
	it('spoilt text is refused too', () =>
		fc.assert(
			fc.property(
				fc.nat(3),
				fc.nat(3000),
				fc.string(),
				(which, at, junk) => void readJobFile(texts[which].slice(0, at) + junk + texts[which].slice(at + 5))
			),
			{ numRuns: 300 }
		));
});
