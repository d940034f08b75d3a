/** Things put on the piece and moved by pointing at it, by the tape and by keys: one and the same plan, undone step by step. */
import { expect, type Page } from '@playwright/test';
import { closeDb } from '../../store/database';
import { addPerson, moreSizes, ready, saved, signIn, stage, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

const said = (page: Page) => page.locator('[data-pointed]');

/** A place of the canvas where the pointer means something. */
async function findPlace(page: Page, is: () => Promise<boolean>): Promise<{ x: number; y: number }> {
	const box = (await page.locator('canvas').boundingBox())!;
	for (let fy = 0.3; fy < 0.9; fy += 0.05)
		for (let fx = 0.25; fx < 0.75; fx += 0.03) {
			const at = { x: box.x + fx * box.width, y: box.y + fy * box.height };
			await page.mouse.move(at.x, at.y);
			if (await is()) return at;
		}
	throw new Error('nothing on the drawing answers the pointer');
}

test('a clamp is put where the pointer is, dragged, moved by keys, taken off and brought back', async ({ page }) => {
	test.setTimeout(180_000);
	await signIn(page);
	await page.goto('/jobs');
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Pointed at');
	await moreSizes(page);
	for (const [label, value] of Object.entries({ 'Length inside': '240', 'Width inside': '150', 'Depth inside': '70', 'Rim flange outward': '0' })) {
		await page.getByLabel(label).fill(value);
		await page.getByLabel(label).press('Tab');
	}
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await ready(page);
	await stage(page, 'Hold');
	await page.getByLabel('What', { exact: true }).selectOption('clamp');
	await page.getByRole('button', { name: 'Point on the piece' }).click();
	await expect(page.getByText('Clamp: click on a seam; Esc leaves')).toBeVisible();
	// somewhere within a seam: at its end it is a tenth short of it
	const at = await findPlace(page, async () => (await said(page).count()) > 0 && /, [3-5]\d mm$/.test((await said(page).textContent()) ?? ''));
	const words = (await said(page).textContent())!;
	const [, seam, mm] = /^Clamp: (.*), ([\d.]+) mm$/.exec(words)!;
	await page.mouse.click(at.x, at.y);
	const clamp = page.getByRole('slider', { name: /^Clamp 1 on/ });
	await expect(clamp).toHaveAttribute('aria-valuenow', mm);
	await expect(page.getByText(`${seam}, at ${mm} mm from its datum end`)).toBeVisible();
	await page.getByRole('button', { name: 'Stop pointing' }).click();

	// taken hold of on the piece: the view stands still and the clamp goes along its seam
	const grip = await findPlace(page, () => page.locator('canvas').evaluate((c) => (c as HTMLElement).style.cursor === 'grab'));
	await page.mouse.down();
	await page.mouse.move(grip.x + 25, grip.y + 12, { steps: 5 });
	await expect(said(page)).toContainText('Clamp 1 on');
	await page.mouse.up();
	const dragged = Number(await clamp.getAttribute('aria-valuenow'));
	expect(dragged).not.toBe(Number(mm));

	// and on the tape, by keys
	await clamp.focus();
	await page.keyboard.press(dragged > 20 ? 'ArrowLeft' : 'ArrowRight');
	await expect(clamp).toHaveAttribute('aria-valuenow', String(dragged > 20 ? dragged - 1 : dragged + 1));
	await page.getByRole('application').focus();
	await page.keyboard.press('Delete');
	await expect(clamp).toHaveCount(0);
	for (const now of [dragged > 20 ? dragged - 1 : dragged + 1, dragged, Number(mm)]) {
		await page.getByRole('button', { name: 'Undo' }).click();
		await expect(clamp).toHaveAttribute('aria-valuenow', String(now));
	}
	await saved(page);
});
