// Runs the verification tests and writes docs/verification.md from the rows they leave. `--check ROWS` only compares an
// existing page with rows already made (bin/test): each is on the page with its case and source, results within a thousandth; rows of checks
// too long for each day (npm run deep) are on the page only.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import prettier from 'prettier';

const PAGE = 'docs/verification.md';
const read = (file) =>
	readFileSync(file, 'utf8')
		.trim()
		.split('\n')
		.map((l) => JSON.parse(l))
		.sort((a, b) => (a.id < b.id ? -1 : 1));
const digits = (v) => Number(v.toPrecision(5)).toString();
const error = (r) => `${(100 * (r.got / r.expected - 1)).toFixed(2)} %`;
const ratio = (v) => v.toFixed(2);
const coupons = (rows) =>
	`\n## Thermo-plastic coupons\n\nIn solid elements by CalculiX 2.20 (\`npm run coupons\`), read in their middle fifth, beside the section of the forecast (or, where it says so, the moving arc): 60 x 120 mm sheets of 1.5 mm where nothing else is said, 160 J/mm at 2.5 mm/s, the same metal. Asked for: peaks within a tenth, the rest within a factor of 1.3, trends of the same sign.\n\n` +
	'| coupon | what | solid | ours | ratio | |\n| --- | --- | --- | --- | --- | --- |\n' +
	rows
		.map(
			(r) =>
				`| ${r.coupon} | ${r.what} | ${digits(r.solid)} | ${digits(r.section)} | ${ratio(r.section / r.solid)} | ${r.isMet ? 'met' : '**missed**'} |`
		)
		.join('\n') +
	'\n';
const page = (rows, kept) =>
	prettier.format(
		`# Verification\n\nWritten by \`npm run verification\` from the tests in \`tests/verification\`: each row is asserted there within the bound shown. ${rows.length} values from outside the project.\n\n` +
			'Nothing here is a measured weldment: what the response model says of real metal has not been checked by its makers.\n\n' +
			'| case | source | expected | got | error | allowed | mesh or method |\n| --- | --- | --- | --- | --- | --- | --- |\n' +
			rows
				.map(
					(r) =>
						`| ${r.case} | ${r.source} | ${digits(r.expected)}${r.unit ? ` ${r.unit}` : ''} | ${digits(r.got)} | ${error(r)} | ${100 * r.within} % | ${r.mesh} |`
				)
				.join('\n') +
			'\n' +
			(kept.length ? coupons(kept) : ''),
		{ parser: 'markdown', printWidth: 150 }
	);

if (process.argv[2] === '--check') {
	const rows = read(process.argv[3]);
	const text = readFileSync(PAGE, 'utf8');
	const cells = text
		.split('## Thermo-plastic coupons')[0]
		.split('\n')
		.filter((l) => l.startsWith('|'))
		.slice(2)
		.map((l) => l.split('|').map((c) => c.trim()));
	const faults = [];
	for (const r of rows) {
		const row = cells.find((c) => c[1] === r.case && c[2] === r.source);
		if (!row) faults.push(`${PAGE} lacks: ${r.case}`);
		else if (Math.abs(Number(row[4]) - r.got) > 2e-3 * Math.abs(r.got)) faults.push(`${r.case}: the page says ${row[4]}, the test gets ${r.got}`);
	}
	if (faults.length) {
		console.error(`${faults.join('\n')}\nRun npm run verification.`);
		process.exit(1);
	}
	console.log(`${rows.length} rows as on the page`);
} else {
	const folder = mkdtempSync(path.join(os.tmpdir(), 'verification-'));
	execFileSync('npx', ['vitest', 'run', '--project', 'core', 'tests/verification'], {
		stdio: 'inherit',
		env: { ...process.env, SARTA_VERIFICATION: folder, SARTA_DEEP: 'yes' }
	});
	writeFileSync(PAGE, await page(read(path.join(folder, 'rows.jsonl')), read(path.join(folder, 'coupons.jsonl'))));
	rmSync(folder, { recursive: true });
}
