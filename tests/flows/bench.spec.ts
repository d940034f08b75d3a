/** At the bench: what goes otherwise, on a phone, a tablet and a desk; a second device; the server gone. */
import { expect, type Page } from '@playwright/test';
import { closeDb } from '../../store/database';
import { accessible, addPerson, INSPECTOR, issueAndStart, saved, signIn, stage, startPiece, test } from './helpers';

test.beforeAll(addPerson);
test.afterAll(closeDb);

const SIZES = [
	[360, 740],
	[800, 1280],
	[1280, 800]
] as const;
const title = (page: Page) => page.getByRole('heading', { level: 1 });
const go = (page: Page) => page.getByRole('button', { name: /^(Done|Cool enough, go on)$/ });
const otherwise = async (page: Page, what: string | RegExp) => {
	await page.getByRole('button', { name: 'Otherwise' }).click();
	await page.getByRole('button', { name: what, exact: typeof what === 'string' }).click();
};
const stepLine = (page: Page) => page.getByText(/Step \d+ of/);
async function done(page: Page) {
	const before = await stepLine(page).innerText();
	await go(page).click();
	await expect.poll(async () => (await stepLine(page).count()) === 0 || (await stepLine(page).innerText()) !== before).toBe(true);
}
const until = async (page: Page, what: RegExp) => {
	for (let i = 0; i < 80 && !what.test(await title(page).innerText()); i++) await done(page);
	await expect(title(page)).toHaveText(what);
};
/** What is cut, overlaps the edge, or is too small for a glove. */
async function fits(page: Page, where: string) {
	for (const [width, height] of SIZES) {
		await page.setViewportSize({ width, height });
		const faults = await page.evaluate(() => {
			const [w, h] = [document.documentElement.clientWidth, window.innerHeight];
			const out: string[] = [];
			if (document.documentElement.scrollWidth > w + 1) out.push('the page scrolls sideways');
			if (document.documentElement.scrollHeight > h + 1) out.push('the page scrolls down');
			const title = document.querySelector('h1')?.getBoundingClientRect();
			if (title && title.width < 200) out.push('the title has no room');
			for (const e of document.querySelectorAll<HTMLElement>('main *')) {
				const box = e.getBoundingClientRect();
				if (!box.width || e.closest('svg')) continue;
				const words = (e.textContent ?? '').trim().slice(0, 30);
				if (box.right > w + 1 || box.left < -1) out.push(`beyond the edge: ${words}`);
				const isTarget = ['BUTTON', 'SUMMARY', 'SELECT', 'A'].includes(e.tagName);
				if (isTarget && box.height < 56) out.push(`small: ${words}`);
				if (isTarget && e.scrollWidth > e.clientWidth + 1) out.push(`cut: ${words}`);
			}
			return out;
		});
		expect(faults, `${where} at ${width} x ${height}`).toEqual([]);
	}
}

test('every kind of step at three sizes, and all that can go otherwise, two taps away', async ({ page, context }) => {
	await startPiece(page, 'Otherwise');
	const piece = await page.locator('#piece').inputValue();
	const kinds = new Set<string>();
	for (let i = 0; i < 60 && !/Run 1 /.test(await title(page).innerText()); i++) {
		const kind = (await title(page).innerText()).replace(/^[A-Z]\n/, '').split(' ')[0];
		if (!kinds.has(kind)) await fits(page, kind);
		kinds.add(kind);
		await done(page);
	}
	await fits(page, 'a run');
	// a wrong tap is taken back
	const run = await title(page).innerText();
	await done(page);
	await page.getByRole('button', { name: 'Take back' }).click();
	await expect(page.getByText('It stays in the log, with a line that takes it back.')).toBeVisible();
	await fits(page, 'taking back');
	await page.getByRole('button', { name: 'Take it back' }).click();
	await expect(title(page)).toHaveText(run.replace('\n', ''));
	// stopped short: the rest is still to be run
	await otherwise(page, /^Laid otherwise/);
	await page.getByLabel(/^Stopped at/).fill('12');
	await fits(page, 'laid otherwise');
	await page.getByRole('button', { name: 'Log it' }).click();
	await expect(page.getByText('The rest of this run:')).toBeVisible();
	await done(page);
	// the wait counts down from the arc that was laid, and a reading ends it
	await expect(page.getByText(/Worked out from the arcs/)).toBeVisible();
	await fits(page, 'a wait');
	await otherwise(page, 'Metal read');
	await fits(page, 'a form');
	await accessible(page, 'a form of the bench');
	await page.getByLabel('Metal, °C').fill('60');
	await page.getByRole('button', { name: 'Log it' }).click();
	await expect(page.getByText('Time is up.')).toBeVisible();
	// left for later, taken next
	await done(page);
	const second = (await title(page).innerText()).replace('\n', '');
	await otherwise(page, 'Leave for later');
	await expect(title(page)).not.toHaveText(second);
	await expect(page.getByText('1 left for later')).toBeVisible();
	await page.getByRole('button', { name: 'Otherwise' }).click();
	await fits(page, 'what can go otherwise');
	await page.getByRole('button', { name: 'Take another step next' }).click();
	await fits(page, 'what may be taken');
	await page.getByRole('button', { name: `${second.slice(1)} (left before)` }).click();
	await expect(title(page)).toHaveText(second);
	await otherwise(page, 'Tack broken');
	await page.getByLabel('Station').fill('30');
	await page.getByRole('button', { name: 'Log it' }).click();
	// any switch that types a key
	await page.keyboard.press('PageDown');
	await expect(title(page)).not.toHaveText(second);
	await page.keyboard.press('ArrowLeft');
	await page.keyboard.press('Enter');
	await expect(title(page)).toHaveText(second);
	// in the dark
	await page.getByText('More', { exact: true }).click();
	await page.getByRole('button', { name: /^Dark/ }).click();
	await fits(page, 'the dark');
	await page.getByText('More', { exact: true }).click();
	// a second device sees the next tap at once
	const other = await context.newPage();
	await other.goto(page.url());
	await expect(title(other)).toHaveText(second);
	await done(page);
	await expect(title(other)).not.toHaveText(second, { timeout: 4000 });
	const { events } = await page.evaluate(async (id) => (await fetch(`/api/pieces/${id}/events`)).json(), piece);
	const kindsOf = (k: string) => events.filter((e: { kind: string }) => e.kind === k).length;
	expect([kindsOf('undone'), kindsOf('laid'), kindsOf('step-skipped'), kindsOf('step-taken'), kindsOf('happened')]).toEqual([2, 2, 1, 1, 2]);
});

test('with the server gone the page opens again, goes on, and sends later, in order, once', async ({ page, context }) => {
	await startPiece(page, 'Cut off');
	const piece = await page.locator('#piece').inputValue();
	await until(page, /Earth lead/);
	await page.waitForFunction(async () => (await caches.keys()).length === 2 && navigator.serviceWorker.controller !== null);
	await page.waitForFunction(async () => (await caches.match(location.href)) !== undefined);
	// its own scripts are kept a little later, the heat's last
	await page.waitForTimeout(6000);
	await done(page);
	const reached = await title(page).innerText();
	await expect
		.poll(async () => page.evaluate(async (id) => (await (await fetch(`/api/pieces/${id}/events`)).json()).events.at(-1).step, piece))
		.toBe('earth');
	await context.setOffline(true);
	await page.reload();
	await expect(title(page)).toHaveText(reached.replace('\n', ''));
	await done(page);
	await done(page);
	await expect(page.getByText(/Not sent yet \(2\)/)).toBeVisible();
	// what the camera gives is kept as well
	await page.getByRole('button', { name: 'Otherwise' }).click();
	const [camera] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Photograph' }).click()]);
	await camera.setFiles('docs/screenshots/measure.png');
	await expect(page.getByText('One photograph is on the way.')).toBeVisible();
	const offline = await title(page).innerText();
	await page.reload();
	await expect(title(page)).toHaveText(offline.replace('\n', ''));
	await context.setOffline(false);
	await expect(page.getByText(/Not sent yet/)).toBeHidden({ timeout: 15_000 });
	await expect(page.getByText('on the way')).toBeHidden({ timeout: 15_000 });
	await expect(page.getByRole('list', { name: 'Photographs of this step' }).getByRole('img')).toHaveCount(1);
	await page.reload();
	await expect(title(page)).toHaveText(offline.replace('\n', ''));
	const { events } = await page.evaluate(async (id) => (await fetch(`/api/pieces/${id}/events`)).json(), piece);
	const steps = events.filter((e: { kind: string }) => e.kind === 'step-done').map((e: { step: string }) => e.step);
	expect(new Set(steps).size).toBe(steps.length);
	expect(steps.length).toBe(Number(/Step (\d+)/.exec(await stepLine(page).innerText())![1]) - 1);
});

test('a hold set by the planner locks the bench until the inspector has signed it on another device', async ({ page, browser }) => {
	await signIn(page);
	await page.getByRole('button', { name: 'New job' }).click();
	await page.getByLabel('Job name').fill('Held');
	await page.getByRole('button', { name: 'Make the job' }).click();
	await page.waitForURL('**/parts');
	await stage(page, 'Fit-up');
	const panel = page.locator('section').filter({ has: page.getByRole('heading', { name: /^Hold points/ }) });
	await panel.getByRole('button', { name: 'Add' }).click();
	await expect(panel.getByText('Fit-up accepted').first()).toBeVisible();
	await saved(page);
	await issueAndStart(page);
	await until(page, /Hold: fit-up accepted/);
	await fits(page, 'a hold');
	await expect(page.getByText('Locked until it is signed')).toBeVisible();
	// who stands at the bench is an inspector too in this shop; the hold is signed elsewhere all the same
	const other = await browser.newContext();
	const device = await other.newPage();
	await signIn(device, INSPECTOR);
	await device.goto('/bench');
	await expect(device.getByText('Waits to be signed by an inspector').first()).toBeVisible();
	await device.goto(page.url());
	await accessible(device, 'a hold');
	await device.getByRole('button', { name: `Sign as ${INSPECTOR}` }).click();
	await expect(title(page)).not.toHaveText(/Hold:/, { timeout: 5000 });
	await other.close();
});

test('a piece from its first step to its last: devices at it, a wrong tap, a broken tack, a run out of its turn, the net cut, a second device, planned on; the record tells it', async ({
	page,
	context
}) => {
	test.setTimeout(420_000);
	await startPiece(page, 'The whole way at the bench');
	const piece = await page.locator('#piece').inputValue();
	const bench = page.url();
	// a planner puts them there
	await page.goto('/devices');
	const tag = Date.now().toString(36);
	for (const [kind, name] of [
		['Arc log', `Arcs ${tag}`],
		['Temperature probe', `Probe ${tag}`],
		['Foot switch', `Pedal ${tag}`]
	]) {
		await page.getByLabel('What it is').selectOption({ label: kind });
		await page.getByLabel('Name').fill(name);
		await page.getByRole('button', { name: 'Add it' }).click();
		const card = page.getByRole('listitem').filter({ hasText: name });
		await card.getByLabel('Stands at').selectOption(piece);
		await card.getByRole('button', { name: `Start ${name}` }).click();
		await expect(card.getByText('It runs.')).toBeVisible();
	}
	await accessible(page, 'devices');
	await page.goto(bench);
	// a wrong tap before the tacks, and a tack that breaks when it is squared
	await until(page, /^.?\s*Tack /);
	await done(page);
	await page.getByRole('button', { name: 'Take back' }).click();
	await page.getByRole('button', { name: 'Take it back' }).click();
	await expect(title(page)).toHaveText(/Tack /);
	await done(page);
	await otherwise(page, 'Tack broken');
	await page.getByLabel('Station').fill('30');
	await page.getByRole('button', { name: 'Log it' }).click();
	await until(page, /Run 1 /);
	await fits(page, 'devices');
	const run = await title(page).innerText();
	await expect(page.getByRole('group', { name: 'Devices' }).getByText(/arc burns/)).toBeVisible({ timeout: 30_000 });
	// nobody touches the screen
	await expect(title(page)).not.toHaveText(run.replace('\n', ''), { timeout: 120_000 });
	await expect(page.getByText(/an arc of \d+ s is taken for Run 1/)).toBeVisible();
	await fits(page, 'what an arc was taken for');
	await page.getByRole('button', { name: 'Seen' }).click();
	await page.getByRole('button', { name: 'Log this reading' }).click();
	const before = await title(page).innerText();
	const other = await context.newPage();
	await other.goto('/devices');
	await other
		.getByRole('listitem')
		.filter({ hasText: `Pedal ${tag}` })
		.getByRole('button', { name: /^Press it/ })
		.click();
	await page.bringToFront();
	await expect(title(page)).not.toHaveText(before.replace('\n', ''), { timeout: 20_000 });
	for (const name of ['Arcs', 'Probe', 'Pedal']) {
		await other.bringToFront();
		await other
			.getByRole('listitem')
			.filter({ hasText: `${name} ${tag}` })
			.getByRole('button', { name: /^Put away/ })
			.click();
	}
	await page.bringToFront();
	// a run out of its turn: the last of what may be taken
	await page.getByRole('button', { name: 'Otherwise' }).click();
	await page.getByRole('button', { name: 'Take another step next' }).click();
	const offer = page.getByRole('button', { name: /^Run \d+ / }).last();
	const taken = (await offer.innerText()).replace(/ \(left before\)$/, '');
	await offer.click();
	await until(page, new RegExp(taken.slice(0, 8).replace(/[()]/g, '.')));
	// the net is cut: done all the same, and sent later
	await context.setOffline(true);
	await done(page);
	await expect(page.getByText(/Not sent yet \(\d+\)/)).toBeVisible();
	await context.setOffline(false);
	await expect(page.getByText(/Not sent yet/)).toBeHidden({ timeout: 15_000 });
	// a second device has it, and goes on
	await other.goto(bench);
	await expect(stepLine(other)).toHaveText(await stepLine(page).innerText());
	await done(other);
	await expect(stepLine(page)).toHaveText(await stepLine(other).innerText(), { timeout: 4000 });
	await other.close();
	// planned on from here, and taken over for this piece alone
	await otherwise(page, 'Plan on from here');
	await expect(page.getByText('As planned', { exact: true })).toBeVisible({ timeout: 60_000 });
	const choose = page.getByRole('button', { name: 'Choose' }).first();
	await expect(choose).toBeVisible({ timeout: 120_000 });
	await choose.click();
	const goOn = page.getByRole('button', { name: /^Go on by: / });
	const way = (await goOn.innerText()).replace('Go on by: ', '');
	await goOn.click();
	await expect(page.getByText('of this piece alone')).toBeVisible({ timeout: 30_000 });
	// to its end
	for (let i = 0; i < 150 && (await stepLine(page).count()); i++) await done(page);
	await page.getByRole('button', { name: 'Finish this piece' }).click();
	await expect(page.getByRole('link', { name: 'Hand it over' })).toBeVisible();
	// the log tells it in order, each line once
	const logged = async () =>
		(await page.evaluate(async (id) => (await fetch(`/api/pieces/${id}/events`)).json(), piece)).events as { kind: string }[];
	// on screen at once, at the server a moment later
	await expect.poll(async () => (await logged()).some((e) => e.kind === 'finished'), { timeout: 20_000 }).toBe(true);
	const events = await logged();
	const lines = events as { clientId: string; kind: string; step?: string; note?: string; data?: { what?: string } }[];
	expect(new Set(lines.map((e) => e.clientId)).size).toBe(lines.length);
	const told = lines.map((e) => e.data?.what ?? e.kind).filter((k) => !['step-done', 'wait-started'].includes(k));
	const wanted = ['started', 'undone', 'tack-broken', 'as-set', 'metal', 'step-taken', 'replanned', 'finished'];
	expect(told.filter((k) => wanted.includes(k))).toEqual(wanted);
	expect(lines.find((e) => e.kind === 'replanned')!.note).toBe(way);
	const happened = lines.filter((e) => e.kind === 'happened').map((e) => e.data);
	expect(happened).toContainEqual(
		expect.objectContaining({ what: 'as-set', source: `Arcs ${tag} (simulated)`, currentA: expect.any(Number), volts: expect.any(Number) })
	);
	expect(happened).toContainEqual(expect.objectContaining({ what: 'metal', instrument: `Probe ${tag} (simulated)` }));
	// the runs in the order they were laid, the one out of its turn before those it was taken before
	const runs = lines.filter((e) => e.kind === 'step-done' && e.step?.startsWith('run:')).map((e) => e.step);
	const takenAt = lines.find((e) => e.kind === 'step-taken')!.step;
	expect(runs.indexOf(takenAt)).toBe(1);
	const record = await page.request.get(`/api/pieces/${piece}/record.pdf`);
	expect([record.status(), record.headers()['content-type']]).toEqual([200, 'application/pdf']);
});
