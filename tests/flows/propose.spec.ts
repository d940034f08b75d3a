/** A plan proposed for a new job: decisions taken and left, taken over in one step, undone; and the help that is over every page. */
import { expect } from '@playwright/test';
import { closeDb } from '../../store/database';
import { accessible, addPerson, ready, saved, signIn, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

test('a plan is proposed, weighed by the slider and by hand, taken over, and undone', async ({ page }) => {
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Corner to be proposed');
	await page.getByRole('radio', { name: 'Corner of two plates' }).check();
	for (const [label, mm] of [
		['Length of the corner', '160'],
		['Width of the base', '80'],
		['Height of the wall', '60']
	]) {
		await page.getByLabel(label).fill(mm);
		await page.getByLabel(label).press('Tab');
	}
	// drawn, weighed and cut while it is typed
	await expect(page.getByRole('region', { name: 'What it will be' })).toContainText('160 mm to weld in one seam');
	await accessible(page, 'a new job');
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
	await page.getByRole('link', { name: 'Propose a plan' }).click();
	await page.getByRole('button', { name: 'Propose', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Decisions' })).toBeVisible({ timeout: 240_000 });
	await accessible(page, 'a proposal');
	// nothing of the plan has changed by asking
	await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
	const cards = page.getByRole('checkbox', { name: /^Take: / });
	const all = await cards.count();
	expect(all).toBeGreaterThan(1);
	await page.getByRole('slider').fill('2');
	await expect(page.getByText('Between quickest and truest: truest')).toBeVisible();
	const root = page.getByRole('checkbox', { name: /Root purged/ });
	await root.uncheck();
	await expect(page.getByText('your own choice')).toBeVisible();
	await expect(page.getByRole('columnheader', { name: 'Your choice, by the paired difference' })).toBeVisible();
	await expect(page.locator('td', { hasText: '…' })).toHaveCount(0, { timeout: 60_000 });
	await root.check();
	await expect(page.getByText('Between quickest and truest: truest')).toBeVisible();
	await page.getByRole('button', { name: /^Take over/ }).click();
	await expect(page.getByText(/Taken over: \d+ decision/)).toBeVisible();
	await saved(page);
	await page.getByRole('button', { name: 'Undo' }).click();
	await saved(page);
	await page.setViewportSize({ width: 390, height: 844 });
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('help is a key away, finds by what is typed, and closes again', async ({ page }) => {
	await signIn(page);
	const help = page.getByRole('dialog');
	await expect(async () => {
		await page.keyboard.press('?');
		await expect(help).toBeVisible({ timeout: 3000 });
	}).toPass();
	await help.getByLabel('Find in the help').fill('hammering');
	await expect(help.getByText('planishing', { exact: true })).toBeVisible();
	await expect(help.getByText('From a drawing to a signed piece')).toHaveCount(0);
	await accessible(page, 'help');
	// the first empties the field, the second closes
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await expect(help).toBeHidden();
});
