/** Every kind of feature read in a real browser, under the page's own security policy, with readings that are not flat. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';
import { CATALOGUE } from '../../core/families';
import { closeDb } from '../../store/database';
import { accessible, addPerson, readFeature, ready, saved, signIn, stage, startPiece, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

/** not plane whatever the tilt */
const WAVE = [0, 0.1, 0.2, 0.3];

/** What the piece's own shape offers, and one made of two clicks; what was taken away comes back by undo. */
async function moreToMeasure(page: Page) {
	await stage(page, 'Job');
	const rows = page.locator('tbody tr');
	await expect(rows.first()).toBeVisible();
	const before = await rows.count();
	await page.getByRole('button', { name: 'What this piece could be measured by' }).click();
	const offers = page.getByRole('checkbox');
	const first = await offers.count();
	expect(first).toBeGreaterThan(3);
	for (const i of [0, first - 1]) await offers.nth(i).check();
	await page.getByRole('button', { name: 'Add these 2' }).click();
	await expect(rows).toHaveCount(before + 2);
	await page.getByRole('button', { name: 'A feature of my own' }).click();
	await page.getByLabel('Name', { exact: true }).fill('Across by my own tape');
	const flat = page.getByRole('img', { name: /flat: click/ });
	const add = page.getByRole('button', { name: 'Add it' });
	await expect(add).toBeDisabled();
	for (const share of [0.45, 0.55]) {
		const box = (await flat.boundingBox())!;
		await flat.click({ position: { x: share * box.width, y: 0.5 * box.height } });
	}
	await add.click();
	await expect(rows).toHaveCount(before + 3);
	await page.getByRole('button', { name: 'take away Across by my own tape' }).click();
	await expect(rows).toHaveCount(before + 2);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(rows).toHaveCount(before + 3);
	await saved(page);
}

for (const kind of ['butt-panel', 'cylinder'] as const)
	test(`readings of a ${kind} can be kept, whatever is measured`, async ({ page }) => {
		const errors: string[] = [];
		page.on('pageerror', (e) => errors.push(e.message));
		await signIn(page);
		await page.getByRole('button', { name: 'New job' }).click();
		await page.getByLabel('Job name').fill(`Read ${kind}`);
		await page.getByRole('radio', { name: CATALOGUE[kind].name, exact: true }).check();
		await page.getByRole('button', { name: 'Make the job' }).click();
		await page.waitForURL('**/parts');
		if (kind === 'butt-panel') await moreToMeasure(page);
		await stage(page, 'Forecast');
		await ready(page);
		await page.getByRole('button', { name: /Issue revision 1/ }).click();
		await expect(page.getByText('Revision 1 is frozen for the bench')).toBeVisible();
		const job = /\/jobs\/([^/]+)/.exec(page.url())![1];
		await page.goto(`/jobs/${job}/weld-out`);
		await page.getByRole('button', { name: 'Start this piece' }).click();
		await expect(page.getByText(/Step 1 of/)).toBeVisible();
		await page.waitForTimeout(1500);
		await page.goto(`/jobs/${job}/measure`);
		const choice = page.getByLabel('Feature');
		await expect.poll(() => choice.locator('option').count()).toBeGreaterThan(3);
		const names = await choice.locator('option').allInnerTexts();
		for (const name of names) await readFeature(page, name, WAVE);
		// another way to read the same: half a reading of one way is none of the other
		const way = page.getByLabel('How it is read');
		for (const name of names) {
			await choice.selectOption({ label: name });
			if ((await way.count()) && (await way.locator('option[value=tape-repeated]').count())) break;
		}
		await page.locator('#cell-0').fill('1');
		await way.selectOption('tape-repeated');
		await expect(page.locator('#cell-0')).toHaveValue('');
		for (const [i, mm] of ['299', '300', '301'].entries()) await page.locator(`#cell-${i}`).fill(mm);
		await expect(page.getByText('Average of 299.00, 300.00, 301.00 is 300.00')).toBeVisible();
		await expect(page.getByText('± 1.76 mm')).toBeVisible();
		await page.getByRole('button', { name: 'Keep this reading' }).click();
		await expect(page.getByText('Average of 299.00, 300.00, 301.00 is 300.00')).toHaveCount(1);
		await way.selectOption('tape');
		await expect(page.locator('#cell-0')).toHaveValue('1');
		expect(errors).toEqual([]);
	});

test('a scan of the whole piece: laid on from anywhere, beside the forecast, kept as readings', async ({ page }) => {
	await startPiece(page, 'Scanned tray');
	const job = /\/jobs\/([^/]+)/.exec(page.url())![1];
	const folder = mkdtempSync(path.join(tmpdir(), 'scan-'));
	const [file, cloud] = [path.join(folder, 'job.json'), path.join(folder, 'tray.ply')];
	writeFileSync(file, await (await page.request.get(`/api/jobs/${job}/export`)).text());
	// the stand-in: it has put the piece down a metre off, on a bench, on its side
	execFileSync('node', [path.join(process.env.SARTA_NODE_BUILD_DIR || 'build-node', 'scanner.js'), file, cloud, '30000']);
	await page.goto(`/jobs/${job}/measure`);
	await page.getByRole('link', { name: 'A scan of it all' }).click();
	await page.getByLabel('What the scanner saw').selectOption('front');
	const chooser = page.getByLabel('File', { exact: true });
	await chooser.setInputFiles({ name: 'tray.ply', mimeType: 'application/octet-stream', buffer: Buffer.from('no scan at all') });
	const lay = page.getByRole('button', { name: 'Lay it on the piece' });
	await lay.click();
	await expect(page.getByText('holds no points')).toBeVisible();
	await chooser.setInputFiles(cloud);
	await page.getByLabel('The file is in').selectOption('in');
	await lay.click();
	await expect(page.getByText('In mm it would fit.')).toBeVisible();
	await page.getByLabel('The file is in').selectOption('mm');
	await lay.click();
	await expect(page.getByText('30,000 of 31,500 points lie on the piece, 1,500 were left out')).toBeVisible();
	await page.getByRole('button', { name: 'scanned less forecast' }).click();
	await accessible(page, 'scan');
	await page.setViewportSize({ width: 390, height: 844 });
	await accessible(page, 'scan on a phone');
	const keep = page.getByRole('button', { name: /^Keep \d+ as readings/ });
	const count = Number(/\d+/.exec(await keep.innerText())![0]);
	expect(count).toBeGreaterThan(4);
	await page.getByRole('checkbox', { name: /Floor flatness/ }).uncheck();
	await page.getByLabel('Moment').selectOption('cold');
	await keep.click();
	await expect(page.getByText(`${count - 1} readings are kept, and the map for the record.`)).toBeVisible();
	// pressed again, nothing is kept twice
	await keep.click();
	await page.getByRole('link', { name: 'Back to readings' }).click();
	await expect(page.getByText('Scanner: tray.ply')).toHaveCount(count - 1);
});

test('a piece that is out: a slip asked about, put right on a phone, read again, tested, decided on, and in the logbook', async ({ page }) => {
	const errors: string[] = [];
	page.on('pageerror', (e) => errors.push(e.message));
	await startPiece(page, 'Narrow tray');
	const job = /\/jobs\/([^/]+)/.exec(page.url())![1];
	await page.waitForTimeout(1500);
	await page.setViewportSize({ width: 390, height: 844 });
	await page.goto(`/jobs/${job}/measure`);
	const width = 'Mouth width at mid-length';
	const says = page.getByText(/the drawing says [-\d.]+/);
	// a page that is not awake yet takes the choice and goes on showing the first feature
	await expect(async () => {
		await page.getByLabel('Feature').selectOption({ label: width });
		await expect(says).toBeVisible({ timeout: 1000 });
	}).toPass();
	const drawn = Number(/the drawing says ([-\d.]+)/.exec(await says.innerText())![1]);
	await page.locator('#cell-0').fill((drawn / 25.4).toFixed(1));
	await expect(page.getByText('Is it in inches?')).toBeVisible();
	await page.getByRole('button', { name: 'Keep this reading' }).click();
	await expect(page.getByRole('button', { name: 'It is as read: keep it' })).toBeVisible();
	await page.locator('#cell-0').fill(String(drawn - 6));
	await expect(page.getByText('Is it in inches?')).toHaveCount(0);
	await page.getByRole('button', { name: 'Keep this reading' }).click();
	await expect(page.getByText('outside', { exact: true })).toBeVisible();
	// more places than usual, by another instrument
	await page.getByLabel('Feature').selectOption({ label: 'Front rim straightness' });
	await page.getByLabel('How it is read').selectOption('dial-line');
	await page.getByRole('button', { name: 'One more' }).click();
	await expect(page.locator('input[id^="cell-"]')).toHaveCount(8);
	// with large keys, one hand
	await page.getByRole('button', { name: 'Large keys' }).click();
	const keys = page.getByRole('group', { name: 'Large keys' });
	await page.locator('#cell-0').focus();
	for (const k of ['0', 'Next', '0', 'point', '3', 'Take the last one back', '2', 'The other sign', 'Next'])
		await keys.getByRole('button', { name: k, exact: true }).click();
	await expect(page.locator('#cell-1')).toHaveValue('-0.2');
	await expect(page.locator('#cell-2')).toBeFocused();
	await accessible(page, 'large keys');
	expect((await keys.getByRole('button', { name: 'Next' }).boundingBox())!.height).toBeGreaterThanOrEqual(56);
	await page.getByRole('button', { name: 'Large keys' }).click();
	for (const [i, v] of [0, 0.2, 0.3, 0.4, 0.4, 0.3, 0.1, 0].entries()) await page.locator(`#cell-${i}`).fill(String(v));
	await page.getByRole('button', { name: 'Keep this reading' }).click();
	await expect(page.getByText('inside', { exact: true })).toBeVisible();
	await page.getByLabel('Feature').selectOption({ label: width });
	await accessible(page, 'measure');
	await page.getByRole('link', { name: 'What would bring it back' }).click();
	const jack = page.getByRole('listitem').filter({ hasText: 'Spread it with a jack' });
	await jack.getByRole('button', { name: 'Done: enter it' }).click();
	await expect(jack.locator('#h-way')).toHaveValue('pressed');
	await jack.locator('#h-minutes').fill('8');
	await accessible(page, 'put right');
	expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth + 1)).toBe(true);
	await jack.getByRole('button', { name: 'Log it' }).click();
	await expect(page.getByText('not read since')).toBeVisible();
	await page.goto(`/jobs/${job}/measure`);
	await page.getByLabel('Moment').selectOption('corrected');
	await readFeature(page, width);
	await page.goto(`/jobs/${job}/put-right`);
	await expect(page.getByText(`${width}: -6.00 mm → 0.00 mm`)).toBeVisible();

	await page.setViewportSize({ width: 1280, height: 800 });
	await page.goto(`/jobs/${job}/hand-over`);
	await expect(page.getByText('Rework so far: 8 min.')).toBeVisible();
	await page.getByRole('button', { name: 'Leak test' }).click();
	await page.locator('#h-leak').selectOption('tight');
	await page.getByRole('button', { name: 'Log it' }).click();
	await expect(page.getByText('Leak test, tight')).toBeVisible();
	await page.getByLabel(/Non-conformance/).fill('Drain on the wrong side');
	await page.getByRole('button', { name: 'Open it' }).click();
	await page.getByLabel(/What became of it/).fill('Customer takes it so');
	await page.getByLabel('What was decided').selectOption('as-is');
	await page.getByRole('button', { name: 'Close it' }).click();
	await expect(page.getByText('✓ Closed, used as it is, by concession: Customer takes it so')).toBeVisible();
	await accessible(page, 'hand-over');

	await page.getByRole('link', { name: 'Logbook' }).click();
	await page.getByLabel('Search').fill('Narrow');
	await page.getByRole('button', { name: 'Show' }).click();
	const found = page.getByRole('region', { name: 'Pieces' }).getByRole('row');
	// itself and the row of names
	await expect(found).toHaveCount(2);
	await expect(found.filter({ hasText: 'Narrow tray' }).getByRole('cell', { name: 'at the bench', exact: true })).toBeVisible();
	await accessible(page, 'logbook');
	expect(errors).toEqual([]);
});
