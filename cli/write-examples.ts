/** Writes examples/: two pieces that families made, two that none did. */
import 'reflect-metadata';
import { writeFileSync } from 'node:fs';
import { exampleJobs } from './exampleJobs';
import { writeJobFile } from '../core/formats/jobFile';

for (const e of exampleJobs()) {
	writeFileSync(`examples/${e.file}`, writeJobFile(e.job, e.plan));
	console.log(`examples/${e.file} written`);
}
