/** One person takes one piece the whole way in a real browser: new trough, plan, forecast, bench, measure, learn, hand-over, job file. */
import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { closeDb, getDb } from '../../store/database';
import { shopSoFar } from '../../store/firstHour';
import { accessible, addPerson, finalShape, INSPECTOR, moreSizes, readFeature, ready, saved, signIn, stage, startPiece, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

const strip = async (page: Page) =>
	(await page.getByRole('region', { name: 'Features' }).getByRole('button').allInnerTexts()).map((t) => t.replace(/\s+/g, ' '));

test('from blank to learned factor', async ({ page }) => {
	const errors: string[] = [];
	page.on('pageerror', (e) => errors.push(e.message));
	await signIn(page);
	await accessible(page, 'jobs');
	// a shop that is not all the way yet is led, until it leaves that; one that is, after the contracts have run, is not
	const led = page.getByRole('region', { name: 'First hour' });
	const again = page.getByRole('button', { name: 'First hour' });
	if (Object.values(await shopSoFar(getDb())).every(Boolean)) {
		await expect(led).toHaveCount(0);
		await expect(again).toHaveCount(0);
	} else {
		await expect(led).toBeVisible();
		await led.getByRole('button', { name: 'Leave it' }).click();
		await expect(led).toHaveCount(0);
		await again.click();
		await expect(led.getByText(/of 7 done/)).toBeVisible();
	}

	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Moss basin');
	await moreSizes(page);
	await page.getByLabel('Length inside').fill('12 in');
	await page.getByLabel('Width inside').fill('180');
	await page.getByLabel('Depth inside').fill('70');
	await page.getByLabel('Thickness').fill('12 ga');
	await page.getByLabel('Rim flange outward').fill('0');
	await page.getByLabel('Rim flange outward').press('Tab');
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
	await expect(page.getByLabel('Thickness')).toHaveValue('2.78 mm');
	await expect(page.getByLabel('Length inside')).toHaveValue('304.8 mm');
	// the piece is drawn
	await expect.poll(async () => Number(await page.getByRole('application').getAttribute('data-drawn'))).toBeGreaterThan(0);
	await accessible(page, 'parts');

	// a size that cannot be is refused beside its field
	await page.getByLabel('Depth inside').fill('-4');
	await page.getByLabel('Depth inside').press('Tab');
	await expect(page.getByText('Allowed: 10 mm to 2000 mm')).toBeVisible();
	await page.getByLabel('Depth inside').press('Escape');

	await stage(page, 'Fit-up');
	await page.getByLabel('Root gap').first().fill('0.3');
	await page.getByLabel('Root gap').first().press('Tab');
	await expect(page.getByText('The gap adds 0.03 mm')).toBeVisible();

	await stage(page, 'Hold');
	await ready(page);
	const free = await strip(page);
	await page.getByRole('button', { name: 'Put it on' }).click();
	await saved(page);
	await ready(page);
	expect(await strip(page)).not.toEqual(free);
	// undo gives the very same forecast back; redo takes it again
	await page.getByRole('button', { name: 'Undo' }).click();
	await ready(page);
	await expect.poll(() => strip(page)).toEqual(free);
	await page.getByRole('button', { name: 'Redo' }).click();

	await stage(page, 'Tack');
	await page.getByLabel('School').selectOption('corners-and-middles');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	await expect(page.getByText('18 tacks')).toBeVisible();
	// by keyboard on the tape: one to the right, then an exact station
	const tack = page.getByRole('slider').first();
	const before = Number(await tack.getAttribute('aria-valuenow'));
	await tack.focus();
	await page.keyboard.press('ArrowRight');
	await expect(tack).toHaveAttribute('aria-valuenow', String(before + 1));
	await page.getByLabel('Station').fill('9');
	await page.getByLabel('Station').press('Tab');
	await expect(tack).toHaveAttribute('aria-valuenow', '9');
	await accessible(page, 'tack');

	await stage(page, 'Weld');
	await page.getByLabel('Amps').fill('44');
	await page.getByLabel('Amps').press('Tab');
	await expect(page.getByText('105.6', { exact: false }).or(page.getByText('106 J/mm'))).toBeVisible();

	await stage(page, 'Order');
	await page.getByLabel('School').selectOption('skip-round');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	const runs = page.getByRole('list', { name: 'Weld order' }).getByRole('button');
	const second = await runs.nth(1).innerText();
	await runs.first().focus();
	await page.keyboard.press('Alt+ArrowDown');
	await expect(runs.first()).toContainText(second.split('\n')[1]);
	await saved(page);
	await ready(page);
	await accessible(page, 'order');

	await stage(page, 'Forecast');
	await ready(page);
	await expect(page.getByText('Not yet checked on this shop’s metal.').first()).toBeVisible();
	await finalShape(page);
	await expect(page.getByText('Final shape; bands hold 90 %.')).toBeVisible({ timeout: 120_000 });
	await page.getByLabel('Step', { exact: true }).fill('2');
	await accessible(page, 'forecast');
	// a change tried, seen with its paired band, adopted, and taken back
	await page.getByRole('button', { name: 'Five sixths of the current' }).click();
	await expect(page.getByRole('button', { name: 'Adopt this' })).toBeVisible({ timeout: 60_000 });
	// beside a second plan: an order by a school; of the first only what is ticked is taken
	await page.getByLabel('Beside an order by a school').selectOption({ label: 'Skip round: one run, then another seam each time' });
	const beside = page.getByRole('group', { name: 'Plans beside each other' });
	await expect(beside.getByRole('columnheader')).toHaveCount(4, { timeout: 60_000 });
	await accessible(page, 'plans beside each other');
	const cooler = page.getByRole('group', { name: 'Of Five sixths of the current' });
	await expect(cooler.getByRole('checkbox')).toHaveCount(1);
	await cooler.getByRole('checkbox').uncheck();
	await expect(cooler.getByRole('button', { name: /^Adopt/ })).toBeDisabled();
	await cooler.getByRole('checkbox').check();
	await cooler.getByRole('button', { name: 'Adopt this' }).click();
	await saved(page);
	await page.getByRole('button', { name: 'Undo' }).click();
	await saved(page);
	await ready(page);
	await finalShape(page);
	const predicted = await strip(page);
	await page.getByRole('button', { name: /Issue revision 1/ }).click();
	await page.getByRole('link', { name: 'Go to the bench' }).click();

	await page.getByRole('button', { name: 'Start this piece' }).click();
	for (const b of await page.getByRole('button').all()) {
		const box = await b.boundingBox();
		if (box && box.y > 48) expect(box.height).toBeGreaterThanOrEqual(56);
	}
	await expect(page.getByText(/Step 1 of/)).toBeVisible();
	await page.getByRole('button', { name: 'Otherwise' }).click();
	await page.getByRole('button', { name: /^Problem/ }).click();
	await page.getByLabel(/What went wrong/).fill('Film was stuck at the corner');
	await page.getByRole('button', { name: 'Log it' }).click();
	await expect(page.getByText(/Step 2 of/)).toBeVisible();
	await accessible(page, 'weld-out');
	// another device goes on where this one stopped
	await page.reload();
	await expect(page.getByText(/Step 2 of/)).toBeVisible();
	await page.getByRole('button', { name: 'Pause' }).click();
	await page.getByRole('button', { name: 'Go on' }).first().click();
	const finish = page.getByRole('button', { name: 'Finish this piece' });
	const go = page.getByRole('button', { name: /^(Done|Cool enough, go on)$/ });
	for (let i = 0; i < 200 && !(await finish.isVisible()); i++) {
		const at = await page.getByText(/Step \d+ of/).innerText();
		await go.click();
		await expect.poll(async () => (await finish.isVisible()) || (await page.getByText(/Step \d+ of/).innerText()) !== at).toBe(true);
	}
	await finish.click();
	await expect(page.getByText('is finished at the bench')).toBeVisible();

	await page.getByRole('link', { name: 'Measure it' }).click();
	await page.getByLabel('Feature').selectOption('mouth-width');
	await page.getByRole('textbox', { name: 'Length, inside to inside', exact: true }).fill('177.5');
	await expect(page.getByText('177.50 - 180.00 (drawing)')).toBeVisible();
	await page.getByRole('button', { name: 'Keep this reading' }).click();
	await expect(page.getByText('Mouth width at mid-length, unclamped')).toBeVisible();
	await page.getByLabel('Feature').selectOption('mouth-square');
	await page.getByRole('textbox', { name: 'Diagonal 1' }).fill('351');
	await page.getByRole('textbox', { name: 'Diagonal 1' }).press('Enter');
	await page.keyboard.type('350.5');
	await page.keyboard.press('Enter');
	await expect(page.getByText('|351.00 - 350.50| = 0.50 mm').last()).toBeVisible();
	await accessible(page, 'measure');

	await stage(page, 'Learn');
	await expect(page.getByText('2 new readings')).toBeVisible({ timeout: 60_000 });
	// the page stays the page: nothing that is open or unsent on it goes
	await page.evaluate(() => ((window as unknown as { here: boolean }).here = true));
	await page.getByRole('button', { name: 'Keep as a lesson of the shop' }).click();
	await expect(page.getByText(/1 piece, 2 readings/)).toBeVisible({ timeout: 60_000 });
	await accessible(page, 'learn');
	await stage(page, 'Forecast');
	await ready(page);
	await expect(page.getByText('Checked on 1 piece of this shop (2 readings).').first()).toBeVisible();
	expect(await strip(page)).not.toEqual(predicted);
	expect(await page.evaluate(() => (window as unknown as { here?: boolean }).here)).toBe(true);

	// what stands in the way is said, and whoever welded does not sign
	await stage(page, 'Hand-over');
	await expect(page.getByText('Not to be accepted yet')).toBeVisible();
	await expect(page.getByText('One problem is still open')).toBeVisible();
	await expect(page.getByRole('button', { name: 'Sign', exact: true })).toBeDisabled();
	await accessible(page, 'hand-over');
	await page.getByLabel(/What became of it/).fill('Cut back by hand, edge cleaned again');
	await page.getByLabel('What was decided').selectOption('reworked');
	await page.getByRole('button', { name: 'Close it' }).click();
	await expect(page.getByText('✓ Closed, reworked: Cut back by hand')).toBeVisible();
	await stage(page, 'Measure');
	const choice = page.getByLabel('Feature').locator('option');
	await expect.poll(() => choice.count()).toBeGreaterThan(3);
	const names = await choice.allInnerTexts();
	for (const name of names) if (!/^Mouth (width|squareness)/.test(name)) await readFeature(page, name);
	// half a reading outlives a reload
	await page.getByLabel('Feature').selectOption({ label: names[0] });
	await page.locator('#cell-0').fill('12.3');
	await page.reload();
	await page.getByLabel('Feature').selectOption({ label: names[0] });
	await expect(page.locator('#cell-0')).toHaveValue('12.3');
	await stage(page, 'Hand-over');
	await page.getByLabel(/Reason for the concession/).fill('Mouth is trimmed with the mesh');
	await page.getByRole('button', { name: 'Sign', exact: true }).click();
	await expect(page.getByText(/another inspector signs it/)).toBeVisible();
	const handOver = page.url();
	const planner = await page.context().cookies();
	await signIn(page, INSPECTOR);
	await page.goto(handOver);
	await page.waitForLoadState('networkidle');
	await page.getByLabel(/Reason for the concession/).fill('Mouth is trimmed with the mesh');
	await page.getByRole('button', { name: 'Sign', exact: true }).click();
	await expect(page.getByText(`Signed by ${INSPECTOR}`)).toBeVisible();
	await accessible(page, 'hand-over, signed');
	await page.context().addCookies(planner);
	await page.goto(handOver);

	// out and in again under another name: the same job, the same forecast
	await stage(page, 'Forecast');
	await ready(page);
	await finalShape(page);
	const last = await strip(page);
	await stage(page, 'Job');
	const download = page.waitForEvent('download');
	await page.getByRole('link', { name: 'Job file' }).click();
	const file = await (await download).path();
	const doc = JSON.parse(readFileSync(file, 'utf8'));
	doc.job.name = 'Moss basin, second life';
	await page.goto('/jobs');
	await page.waitForLoadState('networkidle');
	await page.getByLabel('Job file').setInputFiles({ name: 'again.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(doc)) });
	await page.waitForURL('**/job');
	await stage(page, 'Forecast');
	await ready(page);
	await finalShape(page);
	expect(await strip(page)).toEqual(last);
	expect(errors).toEqual([]);
});

test('the full forecast goes on while the page is away, and can be stopped', async ({ page }) => {
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Long thinker');
	await page.getByRole('radio', { name: 'Flat panel, butt welded' }).check();
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await stage(page, 'Forecast');
	await ready(page);
	await page.getByRole('button', { name: 'Work it out in full' }).click();
	const progress = page.getByRole('progressbar', { name: 'Full forecast progress' });
	await expect(progress).toBeVisible();
	await page.reload();
	await expect(progress).toBeVisible({ timeout: 60_000 });
	await page.locator('section', { has: progress }).getByRole('button', { name: 'Stop' }).click();
	await expect(page.getByText('Cancelled.')).toBeVisible({ timeout: 20_000 });
	await expect(page.getByRole('button', { name: 'Work it out in full' })).toBeVisible();
});

test('a wrong file is refused with its faults, and two tabs saving tell each other', async ({ page, context }) => {
	await signIn(page);
	await page.waitForLoadState('networkidle');
	await page
		.getByLabel('Job file')
		.setInputFiles({ name: 'bad.json', mimeType: 'application/json', buffer: Buffer.from('{"format":"sarta-job","version":1}') });
	await expect(page.getByRole('alert')).toContainText('refused whole');
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Two tabs');
	await page.getByRole('radio', { name: 'Flat panel, butt welded' }).check();
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	const other = await context.newPage();
	await other.goto(page.url().replace('parts', 'fit-up'));
	await stage(page, 'Fit-up');
	await other.waitForLoadState('networkidle');
	for (const [tab, gap] of [
		[page, '0.2'],
		[other, '0.5']
	] as const) {
		await tab.getByLabel('Root gap').first().fill(gap);
		await tab.getByLabel('Root gap').first().press('Tab');
		if (tab === page) await saved(page);
	}
	await expect(other.getByText('Somebody else saved this plan first.')).toBeVisible();
	await other.getByRole('button', { name: 'Keep mine over theirs' }).click();
	await saved(other);
	// theirs is one undo away
	await other.getByRole('button', { name: 'Undo' }).click();
	await expect(other.getByLabel('Root gap').first()).toHaveValue('0.2 mm');
});

test('the network drops at the bench: nothing is lost', async ({ page, context }) => {
	await startPiece(page, 'Dropped line');
	await context.setOffline(true);
	await page.getByRole('button', { name: 'Done' }).click();
	await expect(page.getByText(/Step 2 of/)).toBeVisible();
	await expect(page.getByText(/kept on this device/)).toBeVisible();
	await context.setOffline(false);
	await expect(page.getByText(/kept on this device/)).toBeHidden({ timeout: 15_000 });
	await page.reload();
	await expect(page.getByText(/Step 2 of/)).toBeVisible();
});

test('taps that wait go from any page, under whoever made them, and two tabs do a step once', async ({ page, context }) => {
	await startPiece(page, 'Waiting taps');
	// a second tab follows the first by itself
	const other = await context.newPage();
	await other.goto(page.url());
	await expect(other.getByText(/Step 1 of/)).toBeVisible();
	await page.getByRole('button', { name: 'Done' }).click();
	await expect(other.getByText(/Step 2 of/)).toBeVisible({ timeout: 15_000 });
	await other.close();
	// the server is not reached: taps wait, also over a sign-out
	await page.route('**/api/pieces/*/events', (route) => route.abort());
	await page.getByRole('button', { name: 'Done' }).click();
	await page.getByRole('button', { name: 'Done' }).click();
	await expect(page.getByText(/Not sent yet/)).toBeVisible();
	const piece = await page.locator('#piece').inputValue();
	await page.getByRole('button', { name: 'Sign out' }).click();
	await expect(page.getByText('2 taps wait on this device')).toBeVisible();
	await page.unroute('**/api/pieces/*/events');
	// somebody else signs in, and never goes to the bench
	await signIn(page, INSPECTOR);
	await expect(page.getByText(/tap(s)? wait/)).toHaveCount(0, { timeout: 15_000 });
	const events = await page.evaluate(async (id) => (await (await fetch(`/api/pieces/${id}/events`)).json()).events, piece);
	expect(events.slice(-2).map((e: { person: string; sentBy: string }) => [e.person, e.sentBy])).toEqual([
		['Whole Way', INSPECTOR],
		['Whole Way', INSPECTOR]
	]);
});

test('a tap on a link is not lost to a page that renews itself meanwhile', async ({ page }) => {
	await signIn(page);
	await page.goto('/devices');
	await expect(page.getByRole('heading', { name: 'Devices' })).toBeVisible();
	// longer than this page takes to ask anew
	await page.route('**/bench/__data.json*', (route) => setTimeout(() => void route.continue(), 7000));
	await page.getByRole('link', { name: 'At the bench' }).last().click();
	await expect(page).toHaveURL(/\/bench$/, { timeout: 20_000 });
});
