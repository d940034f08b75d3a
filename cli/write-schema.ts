/** Writes docs/job-file.schema.json from the same decorated classes that validate a file. */
import 'reflect-metadata';
import { writeFileSync } from 'node:fs';
import { jobFileSchema } from './jobFileSchema';

writeFileSync('docs/job-file.schema.json', `${JSON.stringify(jobFileSchema(), null, '\t')}\n`);
console.log('docs/job-file.schema.json written');
