/** A trial from the question to the first coupon at the bench, and what it says before anything is read. */
import { expect } from '@playwright/test';
import { closeDb } from '../../store/database';
import { accessible, addPerson, signIn, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

test('two ways are sized up, made, and welded in the order that chance made', async ({ page }) => {
	await signIn(page);
	await page.goto('/trials');
	await page.waitForLoadState('networkidle');
	await page.getByLabel('Coupon', { exact: true }).selectOption({ label: 'Ring round a tube' });
	await page.getByLabel('The ways differ in').selectOption({ label: 'the current' });
	// a way that is not given is refused where it stands
	await page.getByRole('button', { name: 'How many does it take?' }).click();
	await expect(page.getByText('5 to 400 A').first()).toBeVisible();
	await page.getByLabel('Way 1: current').fill('45');
	await page.getByLabel('Way 2: current').fill('60');
	await page.getByLabel('Way 2: current').press('Tab');
	await page.getByRole('button', { name: 'How many does it take?' }).click();
	await expect(page.getByRole('columnheader', { name: '60 A' })).toBeVisible({ timeout: 240_000 });
	await expect(page.getByText(/of each show/)).toBeVisible();
	await accessible(page, 'a new trial');
	// another question: what was sized up is of the one before
	await page.getByLabel('Way 2: current').fill('58');
	await page.getByLabel('Way 2: current').press('Tab');
	await expect(page.getByRole('button', { name: 'Make the trial' })).toHaveCount(0);
	await page.getByLabel('Way 2: current').fill('60');
	await page.getByLabel('Way 2: current').press('Tab');
	await page.getByLabel('Coupons of each way').fill('2');
	await page.getByLabel('Coupons of each way').press('Tab');
	await page.getByRole('button', { name: 'Make the trial' }).click();
	await page.waitForURL(/\/trials\/[0-9a-f-]{36}$/, { waitUntil: 'commit' });
	await expect(page.getByRole('link', { name: /^Weld \d+-01: (45|60) A$/ })).toBeVisible();
	await expect(page.getByText('Nothing read yet.').first()).toBeVisible({ timeout: 240_000 });
	await expect(page.getByRole('row')).toHaveCount(5);
	await accessible(page, 'a trial');
	await page.getByRole('link', { name: /^Weld / }).click();
	await expect(page.getByRole('button', { name: 'Start this piece' })).toBeVisible();
});
