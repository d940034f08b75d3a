/** A learner at the practice bench: guess, plan, weld, compare. */
import { expect } from '@playwright/test';
import { hashPin } from '../../store/auth';
import { closeDb, getDb } from '../../store/database';
import { people } from '../../store/schema';
import { accessible, test } from './helpers';

const [NAME, PIN] = ['Young Hand', '24680135'];
test.beforeAll(async () => {
	const row = { name: NAME, pinHash: await hashPin(PIN), roles: ['learner' as const] };
	await getDb().insert(people).values(row).onConflictDoNothing();
});
test.afterAll(closeDb);

test('a learner comes to the practice bench and nowhere else, and an exercise is guessed, planned, welded and compared', async ({ page }) => {
	await page.goto('/sign-in');
	await page.waitForLoadState('networkidle');
	await page.getByLabel('Name').fill(NAME);
	await page.getByLabel('PIN').fill(PIN);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await page.waitForURL('**/practice');
	await expect(page.getByRole('navigation', { name: 'Sections' }).getByRole('link')).toHaveCount(1);
	await accessible(page, 'the practice bench');
	await page.getByRole('link', { name: /A butt seam/ }).click();
	const weld = page.getByRole('button', { name: 'Weld it' });
	await expect(weld).toBeDisabled();
	await page.getByRole('radio', { name: 'Free, straight through' }).check();
	await page.getByLabel(/^“Free, straight through” comes to/).fill('0,5');
	await page.getByLabel('Order of the runs').selectOption({ label: 'as given' });
	await page.getByLabel('A copper bar behind every seam').check();
	await accessible(page, 'an exercise');
	await weld.click();
	await expect(page.getByRole('heading', { name: /What came of it: \d+ of 100/ })).toBeVisible({ timeout: 240_000 });
	await expect(page.getByText(/Which leaves least: “On a copper bar”/)).toBeVisible();
	await expect(page.getByText(/you said 0.50 mm/)).toBeVisible();
	await page.getByRole('button', { name: 'Free, back-stepped' }).click();
	await expect(page.getByText('Your attempts')).toBeVisible();
	await accessible(page, 'what came of it');
	await page.setViewportSize({ width: 390, height: 844 });
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
	await page.getByRole('link', { name: 'Practice bench' }).click();
	await expect(page.getByText('1 of 12 done.')).toBeVisible();
});
