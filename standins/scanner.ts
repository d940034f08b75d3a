/**
 * `npm run scanner -- JOB.json OUT.ply [POINTS]`: a scanner that does not exist. It sees the job's piece from its front, moved as the
 * quick forecast moves it, with a bench under it, noise of 0.05 mm, and the piece put down anywhere; it writes a PLY file.
 */
import 'reflect-metadata';
import { readFileSync, writeFileSync } from 'node:fs';
import { ForecastCache } from '../core/forecast/analysis';
import { forecast } from '../core/forecast/forecast';
import { readJobFile } from '../core/formats/jobFile';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { turnBy } from '../core/scan/motion';
import { cloudOf } from '../core/scan/simulate';

const [job, out, points = '100000'] = process.argv.slice(2);
const count = Number(points);
if (!job || !out || !(count >= 1000 && count <= 1_000_000)) {
	console.error('use: npm run scanner -- JOB.json OUT.ply [POINTS, 1,000 to 1,000,000]');
	process.exit(2);
}
const { file, faults } = readJobFile(readFileSync(job, 'utf8'));
if (!file) {
	for (const f of faults) console.error(`${f.field}: ${f.value}; ${f.allowed}`);
	process.exit(1);
}
const { analysis, shapes } = forecast(file.plan, { cache: new ForecastCache(kernelFactory(WebAssembly)) });
const cloud = cloudOf(analysis.mesh, {
	count,
	u: shapes().steps.at(-1)!,
	face: 1,
	noiseMm: 0.05,
	bench: Math.round(count / 20),
	motion: { r: turnBy([0.7, 1.9, -0.4]), t: [300, -120, 900] }
});
const head = `ply\nformat binary_little_endian 1.0\ncomment simulated: no scanner has seen this\nelement vertex ${cloud.length / 3}\nproperty float x\nproperty float y\nproperty float z\nend_header\n`;
writeFileSync(out, Buffer.concat([Buffer.from(head), Buffer.from(cloud.buffer)]));
console.log(`${out}: ${cloud.length / 3} points, simulated.`);
