/** The published JSON Schema of the job file, made from the validators. */
import 'reflect-metadata';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { FEATURE_CLASSES, HOLD_DOWN_CLASSES } from '../core/document/schema';
import { COORDINATE_LIMIT } from '../core/document/validators';
// the classes register their rules when they are imported
import '../core/formats/jobFile';

const coordinate = { type: 'number' as const, minimum: -COORDINATE_LIMIT, maximum: COORDINATE_LIMIT };
const vector = (n: number) => ({ type: 'array' as const, items: coordinate, minItems: n, maxItems: n });

/** By kind: the name of its document's class. */
const namesOf = (classes: Record<string, { name: string }>) => Object.fromEntries(Object.entries(classes).map(([kind, c]) => [kind, c.name]));

export function jobFileSchema(): object {
	const all = validationMetadatasToSchemas({
		classTransformerMetadataStorage: defaultMetadataStorage,
		refPointerPrefix: '#/$defs/',
		additionalConverters: {
			isPoint2: vector(2),
			isPoint3: vector(3),
			isPath: (meta) => ({ type: 'array', items: vector(2), minItems: meta.constraints[0] as number, maxItems: meta.constraints[1] as number }),
			isRings: (meta) => ({ type: 'array', maxItems: meta.constraints[0] as number, items: { type: 'array', items: vector(2), minItems: 3 } }),
			isNumbers: ({ constraints: [most, minimum, maximum] }) => ({
				type: 'array',
				maxItems: most as number,
				items: { type: 'number', minimum: minimum as number, maximum: maximum as number }
			}),
			isParameters: { type: 'object' }
		}
	}) as Record<string, Record<string, unknown>>;
	// only what a job file can reach; nothing unknown is taken, as in the importer
	const defs: Record<string, unknown> = {};
	const kinds: Record<string, Record<string, string>> = { HoldDown: namesOf(HOLD_DOWN_CLASSES), Feature: namesOf(FEATURE_CLASSES) };
	const visit = (name: string) => {
		if (defs[name]) return;
		const schema = { ...all[name], additionalProperties: false };
		defs[name] = schema;
		for (const m of JSON.stringify(schema).matchAll(/#\/\$defs\/([A-Za-z]+)/g)) visit(m[1]);
		for (const sub of Object.values(kinds[name] ?? {})) visit(sub);
	};
	visit('JobFile');
	for (const [base, subs] of Object.entries(kinds))
		if (defs[base]) defs[base] = { oneOf: Object.values(subs).map((s) => ({ $ref: `#/$defs/${s}` })) };
	for (const subs of Object.values(kinds))
		for (const [kind, name] of Object.entries(subs)) {
			const def = defs[name] as { properties: Record<string, unknown> };
			def.properties = { ...def.properties, kind: { const: kind } };
		}
	return { $schema: 'http://json-schema.org/draft-07/schema#', title: 'Sarta job file, version 1', $ref: '#/$defs/JobFile', $defs: defs };
}
