/** A planner orders a piece: schools, edits on the strip with undo, the search, adopting it, what to hold, the estimate, the sheets. */
import { expect } from '@playwright/test';
import { closeDb } from '../../store/database';
import { accessible, addPerson, moreSizes, ready, saved, signIn, stage, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

test('two schools, the search and the traveller', async ({ page }) => {
	test.setTimeout(420_000);
	const errors: string[] = [];
	page.on('pageerror', (e) => errors.push(e.message));
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Tadpole tray');
	await moreSizes(page);
	for (const [label, value] of Object.entries({ 'Length inside': '240', 'Width inside': '150', 'Depth inside': '70', 'Rim flange outward': '0' })) {
		await page.getByLabel(label).fill(value);
		await page.getByLabel(label).press('Tab');
	}
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);

	// tacks: a school that does not apply says why; another is used
	await stage(page, 'Tack');
	await page.getByLabel('Which first').selectOption('curve-first');
	await expect(page.getByText('No seam here is curved')).toBeVisible();
	await page.getByLabel('School').selectOption('long-tacks');
	await page.getByLabel('Which first').selectOption('opposite-ends');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	await expect(page.getByText(/^\d+ tacks$/)).toBeVisible();
	await accessible(page, 'tack');

	// order: refused school, used school, edits by key with undo
	await stage(page, 'Order');
	await page.getByLabel('School').selectOption('quarters');
	await expect(page.getByText('No seam here is a ring')).toBeVisible();
	await page.getByLabel('School').selectOption('skip-round');
	await page.getByLabel('Run length, about').fill('70');
	await page.getByLabel('Run length, about').press('Tab');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	const cells = page.getByRole('listbox', { name: 'Run strip' }).getByRole('option');
	const count = await cells.count();
	expect(count).toBeGreaterThan(6);
	const first = await cells.nth(0).getAttribute('data-cell');
	await cells.nth(0).click();
	await page.keyboard.press('Alt+ArrowRight');
	await expect(cells.nth(1)).toHaveAttribute('data-cell', first!);
	await page.getByRole('button', { name: /^Undo/ }).click();
	await expect(cells.nth(0)).toHaveAttribute('data-cell', first!);
	// several at once: split in two, then joined again
	await cells.nth(0).click();
	await page.getByRole('button', { name: 'Split in two' }).click();
	await expect(cells).toHaveCount(count + 1);
	await cells.nth(0).click();
	await cells.nth(1).click({ modifiers: ['Shift'] });
	await expect(page.getByRole('heading', { name: '2 runs picked' })).toBeVisible();
	await page.getByRole('button', { name: 'Join', exact: true }).click();
	await expect(cells).toHaveCount(count);
	await cells.nth(3).click();
	await page.getByRole('button', { name: 'Lock in place' }).click();
	await expect(cells.nth(3)).toHaveAttribute('aria-label', /locked/);
	await page.getByLabel('Cooling in the wait before').selectOption('fan');
	await ready(page);
	await saved(page);
	await accessible(page, 'order');

	// the search, beside every school; the locked run keeps its place in what is adopted
	const locked = await cells.nth(3).getAttribute('data-cell');
	await page.getByRole('navigation', { name: 'Order pages' }).getByRole('link', { name: 'Search' }).click();
	await page.getByLabel(/Every row arc by arc/).uncheck();
	await page.getByRole('button', { name: 'Search for a better order' }).click();
	await expect(page.getByRole('progressbar', { name: 'Search progress' })).toBeVisible();
	// it goes on without this page
	await page.reload();
	await expect(page.getByRole('heading', { name: 'Schools and the search, by the final shape' })).toBeVisible({ timeout: 240_000 });
	const table = page.getByRole('table');
	await expect(table.getByRole('button', { name: 'Found by the search' })).toBeVisible();
	await expect(table.getByRole('button', { name: /^Back-step per seam/ })).toBeVisible();
	await expect(page.getByRole('heading', { name: 'Why' })).toBeVisible();
	expect(await page.getByRole('main').innerText()).not.toMatch(/NaN|undefined|Infinity/);
	await accessible(page, 'search');
	await table.getByRole('button', { name: 'Found by the search' }).click();
	await page.getByRole('button', { name: 'Adopt this order' }).click();
	await expect(page.getByText(/Adopted: the order/)).toBeVisible();
	await expect(page.getByText('This answer is of an older state of the plan.')).toBeVisible();
	await page.getByRole('navigation', { name: 'Order pages' }).getByRole('link', { name: 'Edit' }).click();
	await expect(cells.nth(3)).toHaveAttribute('data-cell', locked!);

	// what to hold
	await page.getByRole('navigation', { name: 'Order pages' }).getByRole('link', { name: 'Come true' }).click();
	await page.getByRole('button', { name: 'Look for hold-downs' }).click();
	await expect(page.getByText(/inside (its|every) limit|inside its limit already|stays? outside/).first()).toBeVisible({ timeout: 180_000 });
	await accessible(page, 'come true');

	// estimate, with a rate; what waiting buys
	await page.getByRole('navigation', { name: 'Order pages' }).getByRole('link', { name: 'Estimate' }).click();
	await expect(page.getByRole('rowheader', { name: 'At the bench' })).toBeVisible({ timeout: 60_000 });
	await page.getByLabel('Labour, an hour').fill('55');
	await page.getByLabel('Labour, an hour').press('Enter');
	await expect(page.getByRole('rowheader', { name: 'Cost' })).toBeVisible();
	await page.getByRole('button', { name: 'Work it out' }).click();
	await expect(page.getByText('(this plan)')).toBeVisible({ timeout: 90_000 });
	await accessible(page, 'estimate');

	// settings: the advisor says where they differ, and its own are sound
	await stage(page, 'Weld');
	await expect(page.getByRole('heading', { name: 'Starting point' })).toBeVisible();
	await page.getByRole('button', { name: 'Take the advised settings' }).click();
	await expect(page.getByText('They agree with the advice.')).toBeVisible();
	await saved(page);

	// the traveller opens as a PDF
	const job = new URL(page.url()).pathname.split('/')[2];
	const r = await page.request.get(`/api/jobs/${job}/traveller.pdf`);
	expect([r.status(), r.headers()['content-type']]).toEqual([200, 'application/pdf']);
	expect(errors).toEqual([]);
});

test('a seam is watched while it is welded, and tacked with as few as hold it', async ({ page }) => {
	test.setTimeout(300_000);
	const errors: string[] = [];
	page.on('pageerror', (e) => errors.push(e.message));
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Spawning screen');
	await page.getByRole('radio', { name: 'Flat panel, butt welded' }).check();
	await page.getByLabel('Length of the seams').fill('160');
	await page.getByLabel('Length of the seams').press('Tab');
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
	await stage(page, 'Order');
	await page.getByRole('link', { name: 'Watch it weld' }).click();

	// stopped, it leaves nothing behind and can be asked again
	await page.getByRole('button', { name: 'Watch it weld' }).click();
	await page.getByRole('button', { name: 'Stop' }).click();
	await expect(page.getByRole('button', { name: 'Watch it weld' })).toBeVisible();
	await page.getByLabel('Beside it').selectOption('ends');
	await page.getByRole('button', { name: 'Watch it weld' }).click();
	await expect(page.getByRole('region', { name: /tacked at both ends only/ })).toBeVisible({ timeout: 90_000 });
	await expect(page.getByText(/^Cold, the edges have closed by 0\.\d+ mm/)).toHaveCount(2);
	const film = page.getByLabel('Place in the film, from the first arc to cold');
	await film.fill('0.5');
	await expect(page.getByRole('img', { name: /^The two sheets from above after \d+ s/ })).toHaveCount(2);
	await film.fill('1');
	await expect(page.getByRole('img', { name: /no arc burns, hottest 20 °C/ })).toHaveCount(2);
	await accessible(page, 'watch');
	await page.setViewportSize({ width: 390, height: 844 });
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
	await page.setViewportSize({ width: 1280, height: 800 });

	// the fewest that hold go into the plan, and out again
	const few = page.getByRole('button', { name: 'How few tacks would hold it' });
	await expect(few).toBeVisible();
	await few.click();
	const enough = page.getByRole('row', { name: /enough/ });
	await expect(enough).toBeVisible({ timeout: 120_000 });
	const count = Number(await enough.getByRole('cell').first().innerText());
	await enough.getByRole('button', { name: 'Use these' }).click();
	await saved(page);
	await stage(page, 'Tack');
	await expect(page.getByText(`${count} tacks`, { exact: true })).toBeVisible();
	await page.getByRole('button', { name: /^Undo/ }).click();
	await expect(page.getByText(`${count} tacks`, { exact: true })).toBeHidden();
	expect(errors).toEqual([]);
});
