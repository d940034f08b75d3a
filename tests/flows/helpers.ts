/** What every flow does: sign in, go to a stage, wait for a forecast, look for what a screen reader would miss. */
import AxeBuilder from '@axe-core/playwright';
import { test as plain, expect, type Page } from '@playwright/test';
import { hashPin } from '../../store/auth';
import { getDb } from '../../store/database';
import { people } from '../../store/schema';

const NAME = 'Whole Way';
const PIN = '24680135';

/** Who signs what the other has welded. */
export const INSPECTOR = 'Second Look';

/** A page that came as a document is there before it answers: a choice made in between is lost, to a quick hand as to a flow. */
async function isAwake(page: Page) {
	await page.locator('html[data-awake]').waitFor({ state: 'attached' });
}
export const test = plain.extend({
	page: async ({ page }, use) => {
		const [goTo, reload] = [page.goto.bind(page), page.reload.bind(page)];
		page.goto = async (...a) => {
			const r = await goTo(...a);
			await isAwake(page);
			return r;
		};
		page.reload = async (...a) => {
			const r = await reload(...a);
			await isAwake(page);
			return r;
		};
		await use(page);
	}
});

export async function addPerson() {
	const pinHash = await hashPin(PIN);
	await getDb()
		.insert(people)
		.values([
			{ name: NAME, pinHash, roles: ['planner', 'welder', 'inspector', 'admin'] },
			{ name: INSPECTOR, pinHash, roles: ['inspector'] }
		])
		.onConflictDoNothing();
}
export async function signIn(page: Page, name = NAME) {
	await page.goto('/sign-in');
	await page.waitForLoadState('networkidle');
	await page.getByLabel('Name').fill(name);
	await page.getByLabel('PIN').fill(PIN);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await page.waitForURL('**/jobs');
}
export const ready = (page: Page) => expect(page.locator('[data-forecast=ready]')).toBeVisible({ timeout: 60_000 });
/** the deeper forecast has followed: before it the strip shows the quick one, after it the final shape */
export const finalShape = (page: Page) =>
	expect(page.getByText('By the buckling solution of the joined piece.').or(page.getByText('No panel comes near its limit.'))).toBeVisible({
		timeout: 120_000
	});
export const stage = (page: Page, name: string) => page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name, exact: true }).click();
export const accessible = async (page: Page, where: string) => {
	const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze();
	expect(violations.map((v) => `${where}: ${v.id} ${v.nodes[0]?.target}`)).toEqual([]);
};
/** Of a new piece only the sizes that make it are open. */
export const moreSizes = (page: Page) => page.getByText('More sizes, and what may be added').click();
export const saved = (page: Page) => expect(page.getByText('All saved')).toBeVisible();
/** A reading in every cell, as the drawing says or off by so much. */
export async function readFeature(page: Page, name: string, off: readonly number[] = [0]) {
	await page.getByLabel('Feature').selectOption({ label: name });
	const cells = page.locator('input[id^="cell-"]');
	const base = Number(/the drawing says ([-\d.]+)/.exec(await page.locator('main').innerText())?.[1] ?? 0);
	for (let i = 0; i < (await cells.count()); i++) await cells.nth(i).fill((base + off[i % off.length]).toFixed(2));
	await expect(page.getByText('Fill every cell'), name).toHaveCount(0);
	await page.getByRole('button', { name: 'Keep this reading' }).click();
	await expect(page.getByText(`${name}, `).last(), name).toBeVisible();
}

/** A new job as it comes, issued and begun at the bench. */
export async function startPiece(page: Page, name: string) {
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill(name);
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await issueAndStart(page);
}
/** The first revision of the job that is open, and its first piece. */
export async function issueAndStart(page: Page) {
	await stage(page, 'Forecast');
	await ready(page);
	await page.getByRole('button', { name: /Issue revision 1/ }).click();
	await page.getByRole('link', { name: 'Go to the bench' }).click();
	await page.getByRole('button', { name: 'Start this piece' }).click();
	await expect(page.getByText(/Step 1 of/)).toBeVisible();
}
