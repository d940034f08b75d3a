/** The published JSON Schema of the job file, made from the validators. */
import 'reflect-metadata';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { COORDINATE_LIMIT } from '../core/plan/validators';
// the classes register their rules when they are imported
import '../core/formats/jobFile';

const coordinate = { type: 'number' as const, minimum: -COORDINATE_LIMIT, maximum: COORDINATE_LIMIT };
const vector = (n: number) => ({ type: 'array' as const, items: coordinate, minItems: n, maxItems: n });

export function jobFileSchema(): object {
	const all = validationMetadatasToSchemas({
		classTransformerMetadataStorage: defaultMetadataStorage,
		refPointerPrefix: '#/$defs/',
		additionalConverters: {
			isPoint2: vector(2),
			isPoint3: vector(3),
			isPath: (meta) => ({ type: 'array', items: vector(2), minItems: meta.constraints[0] as number, maxItems: meta.constraints[1] as number }),
			isRings: (meta) => ({ type: 'array', maxItems: meta.constraints[0] as number, items: { type: 'array', items: vector(2), minItems: 3 } }),
			isParameters: { type: 'object' }
		}
	}) as Record<string, Record<string, unknown>>;
	// only what a job file can reach; nothing unknown is taken, as in the importer
	const defs: Record<string, unknown> = {};
	const kinds: Record<string, string[]> = {
		HoldDown: ['Bar', 'Clamp', 'Support', 'Strongback'],
		Feature: ['Flatness', 'Straightness', 'Length', 'Squareness', 'Angle', 'Twist']
	};
	const visit = (name: string) => {
		if (defs[name]) return;
		const schema = { ...all[name], additionalProperties: false };
		defs[name] = schema;
		for (const m of JSON.stringify(schema).matchAll(/#\/\$defs\/([A-Za-z]+)/g)) visit(m[1]);
		for (const sub of kinds[name] ?? []) visit(sub);
	};
	visit('JobFile');
	for (const [base, subs] of Object.entries(kinds)) if (defs[base]) defs[base] = { oneOf: subs.map((s) => ({ $ref: `#/$defs/${s}` })) };
	for (const subs of Object.values(kinds))
		for (const s of subs) {
			const def = defs[s] as { properties: Record<string, unknown> };
			def.properties = { ...def.properties, kind: { const: s.toLowerCase() } };
		}
	return { $schema: 'http://json-schema.org/draft-07/schema#', title: 'Sarta job file, version 1', $ref: '#/$defs/JobFile', $defs: defs };
}
