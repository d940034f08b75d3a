// Runs every test file that has checks too long for each day (core/testing/deeply), with those in, and writes what they said to
// docs/studies/deep.md. `--report FILE` writes the page from a report of vitest that there is already (SARTA_DEEP=yes, --reporter=json).
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import prettier from 'prettier';

const PAGE = 'docs/studies/deep.md';
const files = ['core', 'tests/verification']
	.flatMap((folder) => readdirSync(folder, { recursive: true }).map((f) => path.join(folder, f)))
	.filter((f) => f.endsWith('.test.ts') && readFileSync(f, 'utf8').includes("testing/deeply'"));
const given = process.argv[2] === '--report' ? process.argv[3] : undefined;
const report = given ?? path.join(mkdtempSync(path.join(os.tmpdir(), 'deep-')), 'report.json');
const { status } = given
	? { status: 0 }
	: spawnSync('npx', ['vitest', 'run', '--project', 'core', '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`, ...files], {
			stdio: 'inherit',
			env: { ...process.env, SARTA_DEEP: 'yes' }
		});
const nameOf = (r) => files.find((f) => r.name.endsWith(`/${f}`));
const read = JSON.parse(readFileSync(report, 'utf8'));
const testResults = read.testResults.filter(nameOf);
const day = new Date(read.startTime).toISOString().slice(0, 10);
if (!given) rmSync(path.dirname(report), { recursive: true });
const count = (r, state) => r.assertionResults.filter((a) => a.status === state).length;
const rows = testResults
	.map((r) => ({ name: nameOf(r), passed: count(r, 'passed'), failed: count(r, 'failed'), s: (r.endTime - r.startTime) / 1000 }))
	.sort((a, b) => (a.name < b.name ? -1 : 1));
const failed = testResults.flatMap((r) => r.assertionResults.filter((a) => a.status === 'failed').map((a) => `- ${nameOf(r)}: ${a.fullName}`));
writeFileSync(
	PAGE,
	await prettier.format(
		`# Checks that take long\n\nWritten by \`npm run deep\` on ${day}: the test files that hold checks too long for each day, with those in. \`bin/test\` runs the same files without them.\n\n` +
			`${rows.reduce((s, r) => s + r.passed, 0)} passed, ${rows.reduce((s, r) => s + r.failed, 0)} failed, ${Math.round(rows.reduce((s, r) => s + r.s, 0))} s of work.\n\n` +
			`| file | passed | failed | s |\n| --- | --- | --- | --- |\n${rows.map((r) => `| ${r.name} | ${r.passed} | ${r.failed} | ${r.s.toFixed(0)} |`).join('\n')}\n` +
			(failed.length ? `\nFailed:\n\n${failed.join('\n')}\n` : ''),
		{ parser: 'markdown', printWidth: 150 }
	)
);
process.exit(status ?? 1);
