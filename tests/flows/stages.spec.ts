/** What each stage must do in a real browser beyond the main way: bounds on the tape, stopped searches, presets, flips, the library, roles. */
import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { closeDb } from '../../store/database';
import { accessible, addPerson, moreSizes, ready, saved, signIn, stage, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

async function makeJob(page: Page, name: string, sizes: Record<string, string> = {}) {
	await page.goto('/jobs');
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill(name);
	await moreSizes(page);
	const all = { 'Length inside': '240', 'Width inside': '150', 'Depth inside': '70', 'Rim flange outward': '0', ...sizes };
	for (const [label, value] of Object.entries(all)) {
		await page.getByLabel(label).fill(value);
		await page.getByLabel(label).press('Tab');
	}
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
}
const orderPage = (page: Page, name: string) => page.getByRole('navigation', { name: 'Order pages' }).getByRole('link', { name }).click();

test('a run’s bounds on the tape: by keys, by drag, with the run that meets it; a locked run has none', async ({ page }) => {
	test.setTimeout(180_000);
	await signIn(page);
	await makeJob(page, 'Bounds');
	await stage(page, 'Order');
	await page.getByLabel('School').selectOption('straight-through');
	await page.getByLabel('Run length, about').fill('60');
	await page.getByLabel('Run length, about').press('Tab');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	const run = (n: number) => page.getByRole('button', { name: new RegExp(`^Run ${n} on .*mm$`) });
	/** stations of a run as its label says them, low and high */
	const bounds = async (n: number) => {
		const [, a, b] = /, ([\d.]+) to ([\d.]+) mm$/.exec((await run(n).getAttribute('aria-label'))!)!;
		return [Number(a), Number(b)].sort((p, q) => p - q);
	};
	await run(1).click();
	const upper = page.getByRole('slider', { name: 'Upper bound of run 1' });
	const [, high] = await bounds(1);
	expect((await bounds(2))[0]).toBeCloseTo(high, 1);
	await upper.focus();
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('Shift+ArrowRight');
	await expect.poll(async () => (await bounds(1))[1]).toBeCloseTo(high + 12, 1);
	expect((await bounds(2))[0]).toBeCloseTo(high + 12, 1);
	// dragged with the mouse: it lands on whole millimetres, and the next run follows
	const box = (await upper.boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + 12);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2 - 25, box.y + 12, { steps: 4 });
	await page.mouse.up();
	const [, dragged] = await bounds(1);
	expect(dragged).toBeLessThan(high + 10);
	expect(dragged % 1).toBe(0);
	expect((await bounds(2))[0]).toBe(dragged);
	// it goes no further than leaves each of the two an arc's worth
	await upper.focus();
	for (let i = 0; i < 14; i++) await page.keyboard.press('Shift+ArrowLeft');
	await expect.poll(async () => (await bounds(1))[1]).toBe(5);
	// one step of undo for each
	await page.getByRole('button', { name: /^Undo/ }).click();
	await expect.poll(async () => (await bounds(1))[1]).toBeGreaterThan(5);
	await page.getByRole('button', { name: 'Lock in place' }).click();
	await expect(upper).toHaveCount(0);
	await saved(page);
	await page.reload();
	await expect(run(1)).toBeVisible();
	expect((await bounds(2))[0]).toBe((await bounds(1))[1]);
});

test('a search stopped early keeps the best, drawn on the piece; one seam’s part is adopted and undone', async ({ page }) => {
	test.setTimeout(300_000);
	await signIn(page);
	await makeJob(page, 'Stopped early', { 'Length inside': '420', 'Width inside': '260', 'Depth inside': '130' });
	await stage(page, 'Tack');
	await page.getByLabel('School').selectOption('corners-and-middles');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	await stage(page, 'Order');
	await page.getByLabel('Run length, about').fill('50');
	await page.getByLabel('Run length, about').press('Tab');
	await page.getByRole('button', { name: 'Use on all seams' }).click();
	await saved(page);
	await orderPage(page, 'Search');
	await page.getByRole('button', { name: 'Search for a better order' }).click();
	const best = page.getByRole('region', { name: 'Best so far' });
	await expect(best.getByText(/% less/)).toBeVisible({ timeout: 120_000 });
	await expect(page.getByText(/[1-9][\d,]* orders weighed/)).toBeVisible({ timeout: 120_000 });
	await expect.poll(async () => Number(await best.getByRole('application').getAttribute('data-drawn'))).toBeGreaterThan(0);
	await accessible(page, 'searching');
	await page.getByRole('button', { name: 'Stop, keep the best' }).click();
	await expect(page.getByText('Stopped early: this is what had been found.')).toBeVisible({ timeout: 120_000 });
	const table = page.getByRole('table');
	await expect(table.getByRole('button', { name: 'Found by the search' })).toBeVisible();
	await expect(table.getByRole('button', { name: 'The plan as it stands' })).toBeVisible();
	expect(await page.getByRole('main').innerText()).not.toMatch(/NaN|undefined|Infinity/);
	// a part of it, and back
	await table.getByRole('button', { name: 'Found by the search' }).click();
	await expect(page.getByRole('button', { name: 'Adopt that part' })).toBeDisabled();
	await page.getByLabel("Only one seam's part").selectOption({ index: 1 });
	await page.getByRole('button', { name: 'Adopt that part' }).click();
	await expect(page.getByText(/Adopted: the part of A/)).toBeVisible();
	await page.getByRole('button', { name: /^Undo/ }).click();
	await saved(page);
});

test('goals that cannot be met are refused in words', async ({ page }) => {
	test.setTimeout(180_000);
	await signIn(page);
	await makeJob(page, 'No flips allowed');
	await stage(page, 'Order');
	await expect(page.getByText(/\d+ flips? in this order/)).toBeVisible();
	await orderPage(page, 'Search');
	await page.getByLabel('Flips, at most').fill('0');
	await page.getByLabel('Flips, at most').press('Tab');
	await page.getByRole('button', { name: 'Search for a better order' }).click();
	await expect(page.getByRole('main').getByText(/No order was found with at most 0 flips.*Allow \d+ flips/)).toBeVisible({ timeout: 120_000 });
});

test('presets that make it come true are taken over, shown at fit-up, and undone', async ({ page }) => {
	test.setTimeout(240_000);
	await signIn(page);
	// sheets in a row, whose seams can be set over one by one and turn as much as a shop's coupon said
	const file = JSON.parse(readFileSync('examples/panel.json', 'utf8'));
	for (const j of file.plan.joints) j.response = { angularChangeRad: 0.06 };
	const id = await page.evaluate(
		async (body) =>
			(await (await fetch('/api/jobs/import', { method: 'POST', headers: { 'content-type': 'application/json' }, body })).json()).job.id as string,
		JSON.stringify(file)
	);
	await page.goto(`/jobs/${id}/order`);
	await ready(page);
	await orderPage(page, 'Come true');
	await page.getByRole('button', { name: 'Solve for presets' }).click();
	const take = page.getByRole('button', { name: 'Take over the presets' });
	await expect(take.or(page.getByText('No over-angle would bring'))).toBeVisible({ timeout: 180_000 });
	expect(await page.getByRole('main').innerText()).not.toMatch(/NaN|undefined|Infinity/);
	await take.click();
	await expect(page.getByText(/Undo/).first()).toBeVisible();
	await saved(page);
	await stage(page, 'Fit-up');
	await expect(page.getByText(/°/).first()).toBeVisible();
	await page.getByRole('button', { name: /^Undo/ }).click();
	await saved(page);
});

test('the bench is told when to flip, how to lay the piece, and what to mind', async ({ page }) => {
	test.setTimeout(240_000);
	await page.setViewportSize({ width: 1024, height: 768 });
	await signIn(page);
	await makeJob(page, 'Flipped');
	await stage(page, 'Forecast');
	await ready(page);
	await page.getByRole('button', { name: /Issue revision 1/ }).click();
	await page.getByRole('link', { name: 'Go to the bench' }).click();
	await page.getByRole('button', { name: 'Start this piece' }).click();
	await expect(page.getByLabel('Piece')).toContainText('at the bench');
	const go = page.getByRole('button', { name: /^(Done|Cool enough, go on)$/ });
	const title = page.getByRole('heading', { level: 1 });
	for (let i = 0; i < 80 && !/^(Flip|Lay)/.test(await title.innerText()); i++) {
		const at = await page.getByText(/Step \d+ of/).innerText();
		await go.click();
		await expect.poll(async () => page.getByText(/Step \d+ of/).innerText()).not.toBe(at);
	}
	await expect(title).toHaveText(/lay the piece (as it stands|upside down|on its (back|front|left side|right side))$/i);
	await expect(page.getByText(/Two people or a hoist where it is heavy/)).toBeVisible();
	await accessible(page, 'a flip');
	for (const b of await page.getByRole('button').all()) {
		const box = await b.boundingBox();
		// the bar of the whole site is not the run screen's
		if (box && box.y > 48) expect(box.height, await b.innerText()).toBeGreaterThanOrEqual(56);
	}
});

test('the library: a heat number, a procedure kept, used in another job, changed as a version, put away', async ({ page }) => {
	test.setTimeout(180_000);
	await signIn(page);
	await page.goto('/library');
	await page.waitForLoadState('networkidle');
	await page.getByLabel('Heat number').fill('H-7741');
	await page.getByLabel('Supplier').fill('Stockist');
	await page.getByRole('button', { name: 'Add heat number' }).click();
	await expect(page.getByRole('cell', { name: 'H-7741' })).toBeVisible();
	await accessible(page, 'library');

	await makeJob(page, 'Procedure’s first job');
	await stage(page, 'Weld');
	await page.getByLabel('Amps').fill('47');
	await page.getByLabel('Amps').press('Tab');
	await page.getByRole('button', { name: /^Keep as (a shop procedure|version \d+)/ }).click();
	const again = page.getByRole('button', { name: /^Keep as version \d+ of/ });
	await expect(again).toBeVisible();
	const version = async () => Number(/version (\d+)/.exec(await again.innerText())![1]);
	const next = await version();
	await page.getByLabel('Amps').fill('53');
	await page.getByLabel('Amps').press('Tab');
	await again.click();
	await expect.poll(version).toBe(next + 1);
	const kept = /“(.+)”/.exec(await again.innerText())![1];
	await saved(page);

	await makeJob(page, 'Procedure’s second job');
	await stage(page, 'Weld');
	await expect(page.getByLabel('Amps')).not.toHaveValue(/^53/);
	await page.getByLabel('Use a procedure').selectOption({ label: kept });
	await expect(page.getByLabel('Amps')).toHaveValue(/^53/);
	await page.getByRole('button', { name: /^Undo/ }).click();
	await expect(page.getByLabel('Amps')).not.toHaveValue(/^53/);

	await page.goto('/library');
	const row = page.getByRole('listitem').filter({ hasText: '53 A' }).last();
	await row.getByRole('button', { name: 'Archive' }).click();
	await expect(row.getByRole('button', { name: 'Restore' })).toBeVisible();
});

test('a welder sees the plan and changes nothing; an inspector neither; an admin adds them', async ({ page, browser }) => {
	test.setTimeout(180_000);
	await signIn(page);
	await makeJob(page, 'Read only');
	const address = page.url();
	await page.goto('/people');
	await page.waitForLoadState('networkidle');
	const name = `Lookout ${Date.now()}`;
	await page.getByLabel('Name', { exact: true }).fill(name);
	await page.getByLabel('PIN or pass phrase').fill('5173');
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByRole('cell', { name, exact: true })).toBeVisible();
	await expect(page.getByRole('checkbox', { name: `${name}: welder` })).toBeChecked();
	await accessible(page, 'people');

	const other = await (await browser.newContext()).newPage();
	await other.goto('/sign-in');
	await other.waitForLoadState('networkidle');
	await other.getByLabel('Name').fill(name);
	await other.getByLabel('PIN').fill('5173');
	await other.getByRole('button', { name: 'Sign in' }).click();
	await other.waitForURL('**/jobs');
	await expect(other.getByRole('button', { name: 'New job' })).toHaveCount(0);
	for (const [slug, button] of [
		['tack', 'Use on all seams'],
		['order', 'Use on all seams'],
		['order/search', 'Search for a better order'],
		['order/come-true', 'Look for hold-downs'],
		['weld', 'Take the advised settings']
	]) {
		await other.goto(address.replace('parts', slug));
		await expect(other.getByRole('main').first()).toBeVisible();
		await other.waitForLoadState('networkidle');
		await expect(other.getByRole('button', { name: button })).toHaveCount(0);
	}
	await other.goto('/people');
	await expect(other.getByText('Your role does not open this page. Ask an admin if it should.')).toBeVisible();
	await expect(other.getByRole('link', { name: 'Back to the jobs' })).toBeVisible();
	await accessible(other, 'shut page');
	await other.context().close();
});

test('a calculator two taps away: in the person’s own units, wrong figures said beside their fields, and carried by its link', async ({ page }) => {
	await signIn(page);
	await makeJob(page, 'Worked out before');
	await page.getByRole('navigation', { name: 'Sections' }).getByRole('link', { name: 'Calculators' }).click();
	await page.getByRole('navigation', { name: 'Calculators' }).getByRole('link', { name: 'Square and gap' }).click();
	await page.getByLabel('Gap', { exact: true }).fill('1/16');
	await page.getByLabel('Gap', { exact: true }).press('Tab');
	await page.getByLabel('From the corner to the gap').fill('90.95');
	await page.getByLabel('From the corner to the gap').press('Tab');
	// 1.5875 over 90.95: tan 1°
	await expect(page.getByText('1°', { exact: true })).toBeVisible();
	await expect(page).toHaveURL(/square-gap\?reach=90.95&gap=1.5875/);
	await page.reload();
	await expect(page.getByText('1°', { exact: true })).toBeVisible();
	await accessible(page, 'a calculator');
	// what came of it goes to the bench by the notes of a job
	await page.getByRole('button', { name: 'Send it into a job' }).click();
	const into = page.getByLabel('Into the notes of');
	await into.selectOption({ label: (await into.locator('option', { hasText: 'Worked out before' }).innerText()).trim() });
	await page.getByRole('button', { name: 'Put it there' }).click();
	await expect(page.getByText(/It stands in the notes of “Worked out before”/)).toBeVisible();
	await page.goto('/jobs');
	await page.getByRole('link', { name: 'Worked out before' }).click();
	await stage(page, 'Job');
	await expect(page.getByLabel('Notes')).toHaveValue(/Square and gap: .*1\.59 mm.* 1°\./);
	await page.goto('/calculators/square-gap?reach=90.95&gap=1.5875');
	await page.setViewportSize({ width: 360, height: 740 });
	expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
	await page.goto('/calculators/average?readings=1+two');
	await expect(page.getByText('“two” is not a number').first()).toBeVisible();
	await accessible(page, 'a calculator with a fault');
});
