// Runs every test file that has checks too long for each day (core/testing/deeply), with those in, and writes what they said to docs/studies/deep.md.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import prettier from 'prettier';

const PAGE = 'docs/studies/deep.md';
const files = ['core', 'tests/verification']
	.flatMap((folder) => readdirSync(folder, { recursive: true }).map((f) => path.join(folder, f)))
	.filter((f) => f.endsWith('.test.ts') && readFileSync(f, 'utf8').includes("testing/deeply'"));
const report = path.join(mkdtempSync(path.join(os.tmpdir(), 'deep-')), 'report.json');
const { status } = spawnSync(
	'npx',
	['vitest', 'run', '--project', 'core', '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`, ...files],
	{
		stdio: 'inherit',
		env: { ...process.env, SARTA_DEEP: 'yes' }
	}
);
const { testResults } = JSON.parse(readFileSync(report, 'utf8'));
rmSync(path.dirname(report), { recursive: true });
const count = (r, state) => r.assertionResults.filter((a) => a.status === state).length;
const rows = testResults
	.map((r) => ({ name: path.relative('.', r.name), passed: count(r, 'passed'), failed: count(r, 'failed'), s: (r.endTime - r.startTime) / 1000 }))
	.sort((a, b) => (a.name < b.name ? -1 : 1));
const failed = testResults.flatMap((r) =>
	r.assertionResults.filter((a) => a.status === 'failed').map((a) => `- ${path.relative('.', r.name)}: ${a.fullName}`)
);
writeFileSync(
	PAGE,
	await prettier.format(
		`# Checks that take long\n\nWritten by \`npm run deep\` on ${new Date().toISOString().slice(0, 10)}: the test files that hold checks too long for each day, with those in. \`bin/test\` runs the same files without them.\n\n` +
			`${rows.reduce((s, r) => s + r.passed, 0)} passed, ${rows.reduce((s, r) => s + r.failed, 0)} failed, ${Math.round(rows.reduce((s, r) => s + r.s, 0))} s of work.\n\n` +
			`| file | passed | failed | s |\n| --- | --- | --- | --- |\n${rows.map((r) => `| ${r.name} | ${r.passed} | ${r.failed} | ${r.s.toFixed(0)} |`).join('\n')}\n` +
			(failed.length ? `\nFailed:\n\n${failed.join('\n')}\n` : ''),
		{ parser: 'markdown', printWidth: 150 }
	)
);
process.exit(status ?? 1);
