/** Every family made by a planner in a real browser; a drawing brought in; parts added; fit-up and hold planned; sheets printed. */
import { expect } from '@playwright/test';
import { CATALOGUE, MADE_FAMILIES, type MadeFamily } from '../../core/families';
import { closeDb } from '../../store/database';
import { accessible, addPerson, moreSizes, ready, saved, signIn, stage, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

/** small pieces, so that ten of them take a minute */
const SMALL: Partial<Record<MadeFamily, Record<string, string>>> = {
	'open-trough': { 'Length inside': '260', 'Width inside': '160', 'Depth inside': '80' },
	enclosure: { 'Width inside': '180', 'Height inside': '200', 'Depth inside': '70' },
	manifold: { 'Length of the tube': '260', Sockets: '2' },
	'mitred-frame': { 'Length outside': '300', 'Width outside': '220', 'Side of the section': '25' }
};

test('each family makes a job that is drawn and forecast', async ({ page }) => {
	const errors: string[] = [];
	page.on('pageerror', (e) => errors.push(e.message));
	await signIn(page);
	for (const kind of MADE_FAMILIES) {
		await page.goto('/jobs');
		await page.waitForLoadState('networkidle');
		await page.getByRole('button', { name: 'New job' }).click();
		await page.getByLabel('Job name').fill(`Trial ${kind}`);
		await page.getByRole('radio', { name: CATALOGUE[kind].name, exact: true }).check();
		await expect(page.getByText(CATALOGUE[kind].says)).toBeVisible();
		if (SMALL[kind]) await moreSizes(page);
		for (const [label, value] of Object.entries(SMALL[kind] ?? {})) {
			await page.getByLabel(label, { exact: true }).fill(value);
			await page.getByLabel(label, { exact: true }).press('Tab');
		}
		await page.getByRole('button', { name: 'Make the job' }).click();
		await page.waitForURL('**/parts');
		await ready(page);
		await expect.poll(async () => Number(await page.getByRole('application').getAttribute('data-drawn')), `${kind} is drawn`).toBeGreaterThan(0);
		const strip = page.getByRole('region', { name: 'Features' }).getByRole('button');
		expect(await strip.count(), kind).toBeGreaterThan(1);
		expect((await strip.allInnerTexts()).join(' ')).not.toMatch(/NaN|undefined/);
	}
	expect(errors).toEqual([]);
});

test('sizes that do not go together are refused beside their fields, and no job is made', async ({ page }) => {
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	const dialog = page.getByRole('dialog');
	await dialog.getByLabel('Job name').fill('Sump too wide');
	await moreSizes(page);
	await dialog.getByLabel('Port in the right end, diameter').fill('4');
	await dialog.getByLabel('Sump in the floor, side').fill('900');
	await dialog.getByRole('button', { name: 'Make the job' }).click();
	await expect(dialog.getByText('must be 0 for none, or at least 12 mm').last()).toBeVisible();
	await expect(dialog.getByText(/must be at most \d+ mm: the sump must leave floor round it, in the last bay/).last()).toBeVisible();
	await accessible(page, 'refused sizes');
	await page.keyboard.press('Escape');
	await expect(page.getByText('Sump too wide')).toHaveCount(0);
	// put right, the same form makes it
	await page.getByRole('button', { name: 'New job' }).click();
	await dialog.getByLabel('Job name').fill('Sump that fits');
	if (!(await dialog.getByLabel('Baffles inside').isVisible())) await moreSizes(page);
	await dialog.getByLabel('Baffles inside').fill('3');
	await dialog.getByLabel('Cross-break in the floor').fill('4');
	await dialog.getByLabel('Stiffeners under the floor').fill('2');
	await dialog.getByLabel('Sump in the floor, side').fill('40');
	await dialog.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
});

test('a tank: baffle, order, readings, holds and sheets', async ({ page }) => {
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Frog spawn tank');
	await moreSizes(page);
	for (const [label, value] of Object.entries({
		'Length inside': '300',
		'Width inside': '180',
		'Depth inside': '110',
		'Rim flange outward': '0',
		'Baffles inside': '1'
	})) {
		await page.getByLabel(label).fill(value);
		await page.getByLabel(label).press('Tab');
	}
	// asked for only now that there is a baffle, and refused where it would stand out of the tank
	await page.getByLabel('Baffle height').fill('150');
	await page.getByLabel('Baffle height').press('Tab');
	await page.getByLabel('Flat lid, welded on').check();
	await page.getByRole('button', { name: 'Make the job' }).click();
	await expect(page.getByText('must be at most 110 mm: a baffle stands inside').first()).toBeVisible();
	await page.getByLabel('Baffle height').fill('80');
	await page.getByLabel('Baffle height').press('Tab');
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
	const job = /jobs\/([^/]+)/.exec(page.url())![1];

	await page.getByLabel('Bend allowance').selectOption('din-6935');
	await saved(page);

	await stage(page, 'Fit-up');
	const look = page.getByRole('button', { name: 'What does each step close off?' });
	const closes = page.getByText(/“Lid” closes off seam “Baffle 1 to floor”/);
	await look.click();
	await expect(closes).toBeVisible({ timeout: 30_000 });
	// the lid on with all the rest: the inside cannot be welded, and one press puts it right
	await page.getByRole('button', { name: 'Lid one step earlier' }).click();
	await look.click();
	await expect(page.getByText(/“Baffle 1 to floor” cannot be reached/)).toBeVisible({ timeout: 30_000 });
	await page.getByRole('button', { name: 'Put it right' }).click();
	await expect(page.getByText(/“Lid” comes on later, at a step of its own/)).toBeVisible({ timeout: 30_000 });
	await look.click();
	await expect(closes).toBeVisible({ timeout: 30_000 });
	await page.getByLabel('Fold “front”').fill('88.5');
	await page.getByLabel('Fold “front”').press('Tab');
	await page.getByRole('button', { name: 'Take these as root gaps' }).click();
	await saved(page);
	await accessible(page, 'fit-up');

	await stage(page, 'Hold');
	await page.getByLabel('What', { exact: true }).selectOption('jig');
	await page.getByRole('button', { name: 'Put it on' }).click();
	await page.getByLabel('What keeps air off').selectOption('purge');
	await page.getByLabel('Space closed in').fill('6');
	await page.getByLabel('Space closed in').press('Tab');
	await page.getByLabel('Flow').fill('8');
	await page.getByLabel('Flow').press('Tab');
	await expect(page.getByText(/Sweep at least 6 min before the arc/)).toBeVisible();
	await expect(page.getByText(/No vent is given/)).toBeVisible();
	await saved(page);
	await accessible(page, 'hold');

	for (const [sheet, kind] of [
		['cutting-list.pdf', 'application/pdf'],
		['fit-up-sheet.pdf', 'application/pdf'],
		['hold-sheet.pdf', 'application/pdf'],
		['cutting-list.csv', 'text/csv'],
		['blanks.dxf', 'image/vnd.dxf']
	]) {
		const r = await page.request.get(`/api/jobs/${job}/${sheet}`);
		expect(r.status(), sheet).toBe(200);
		expect(r.headers()['content-type']).toContain(kind);
		expect((await r.body()).length).toBeGreaterThan(300);
	}

	// an addition by exact numbers, one that cannot be, and undo
	await stage(page, 'Parts');
	await page.getByLabel('What', { exact: true }).selectOption('port');
	await page.getByLabel('On part').selectOption('end-left');
	await page.getByLabel('Outside of the socket').fill('900');
	await page.getByLabel('Outside of the socket').press('Tab');
	// said before it is made
	await expect(page.getByText(/would reach beyond “Left end”/)).toBeVisible();
	await expect(page.getByRole('button', { name: 'Add it' })).toBeDisabled();
	await page.getByLabel('Outside of the socket').fill('40');
	await page.getByLabel('Outside of the socket').press('Tab');
	await page.getByRole('button', { name: 'Add it' }).click();
	await expect(page.getByRole('button', { name: 'Select seam Port 1 to Left end' })).toBeVisible();
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByRole('button', { name: 'Select seam Port 1 to Left end' })).toHaveCount(0);
	await accessible(page, 'parts');
});

const line = (a: number[], b: number[], layer: string) => ['0', 'LINE', '8', layer, '10', a[0], '20', a[1], '11', b[0], '21', b[1]].join('\n');
const ring = (points: number[][], layer: string) => points.map((p, i) => line(p, points[(i + 1) % points.length], layer)).join('\n');
const drawing = (body: string) => `0\nSECTION\n2\nENTITIES\n${body}\n0\nENDSEC\n0\nEOF\n`;

test('a drawing without units is asked about, looked at, and becomes a job', async ({ page }) => {
	await signIn(page);
	await page.getByRole('button', { name: 'From a drawing or model' }).click();
	const bytes = (text: string) => Buffer.from(text);
	const file = page.locator('#shape-file');
	// open outline: named with its place
	await file.setInputFiles({
		name: 'open.dxf',
		mimeType: 'image/vnd.dxf',
		buffer: bytes(drawing([line([0, 0], [200, 0], 'CUT'), line([200, 0], [200, 120], 'CUT')].join('\n')))
	});
	await expect(page.getByText('The drawing names no units')).toBeVisible();
	await page.getByLabel('Units of the file').selectOption('mm');
	await page.getByRole('button', { name: 'Look again' }).click();
	await expect(page.getByText(/An outline stands open between/)).toBeVisible();
	await expect(page.getByRole('button', { name: 'Make the job' })).toBeDisabled();
	// two blanks edge to edge
	const two = [
		ring(
			[
				[0, 0],
				[150, 0],
				[150, 200],
				[0, 200]
			],
			'CUT'
		),
		ring(
			[
				[150, 0],
				[300, 0],
				[300, 200],
				[150, 200]
			],
			'CUT'
		)
	].join('\n');
	await file.setInputFiles({ name: 'pair.dxf', mimeType: 'image/vnd.dxf', buffer: bytes(drawing(two)) });
	await expect(page.getByText('2 parts')).toBeVisible();
	await expect(page.getByText('1 seam', { exact: true })).toBeVisible();
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
	await expect(page.getByText(/\d+ pair/).first()).toBeVisible();
	await expect(page.getByText('This piece belongs to no family')).toBeVisible();
});
