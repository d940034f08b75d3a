// `npm run screenshots`: one picture of each main view, from the demo data of a running bin/start --fresh. They go to docs/screenshots.
import sharp from 'sharp';
import { addressOf, as, base, browser } from './demo.mjs';

const only = process.argv.slice(2);
const desk = await as('Ines', '14709630');
const address = (name) => addressOf(desk, name);
const TROUGH = await address('Rearing trough');
const TUB = await address('Feed hopper tub');
const PAN = await address('Syrup reducing pan');
const drawn = () => desk.locator('[data-drawn]:not([data-drawn="0"])').first().waitFor();
const ready = () => desk.locator('[data-forecast=ready]').waitFor({ timeout: 120_000 });

/** What is opened, and what is waited for or pressed before the picture. */
const VIEWS = {
	parts: [`${TROUGH}/parts`, ready, drawn],
	'fit-up': [`${TROUGH}/fit-up`, ready, drawn],
	hold: [`${TROUGH}/hold`, ready, drawn],
	tack: [`${TROUGH}/tack`, ready, drawn],
	weld: [`${TROUGH}/weld`, ready, drawn],
	order: [`${TROUGH}/order`, ready, drawn],
	search: [
		`${PAN}/order/search`,
		async () => {
			await desk.getByRole('button', { name: /^Search (for a better order|again)/ }).click();
			await desk.getByRole('button', { name: 'Search again' }).waitFor({ timeout: 600_000 });
		}
	],
	forecast: [
		`${TROUGH}/forecast`,
		ready,
		() => desk.getByText('Hot; bands hold 90 %.').waitFor({ timeout: 240_000 }),
		drawn,
		() => desk.getByRole('heading', { name: 'Will it wave?' }).evaluate((h) => h.scrollIntoView())
	],
	measure: [
		`${TUB}/measure`,
		() => desk.getByLabel('Feature').selectOption({ label: 'Mouth width at mid-length' }),
		() => desk.getByText(/^Blue: the quick forecast/).waitFor()
	],
	learn: [`${TROUGH}/learn`, () => desk.getByText('Foretold by other pieces').waitFor({ timeout: 120_000 })],
	learned: ['/learned', () => desk.getByText('Foretold against measured').waitFor({ timeout: 120_000 })],
	coupons: ['/coupons?next', () => desk.getByText('Narrows the bands').first().waitFor({ timeout: 240_000 })],
	propose: [
		`${TROUGH}/propose`,
		() => desk.waitForLoadState('networkidle'),
		() => desk.getByRole('button', { name: 'Propose', exact: true }).click(),
		() => desk.getByRole('heading', { name: 'Decisions' }).waitFor({ timeout: 600_000 }),
		() => desk.waitForTimeout(500)
	],
	practice: [
		'/practice/butt',
		() => desk.waitForLoadState('networkidle'),
		() => desk.getByRole('radio', { name: 'On a copper bar' }).check(),
		() => desk.getByLabel(/comes to/).fill('2.5'),
		() => desk.getByLabel('A copper bar behind every seam').check(),
		() => desk.getByRole('button', { name: 'Weld it' }).click(),
		() => desk.getByText('What came of it').waitFor({ timeout: 240_000 }),
		() => desk.getByText('3. See it move').evaluate((h) => h.scrollIntoView())
	],
	'hand-over': [`${PAN}/hand-over`],
	'bench-board': ['/bench'],
	'put-right': [`${TUB}/put-right`, () => desk.getByText('Done: enter it').first().waitFor()],
	logbook: ['/logbook']
};
for (const [name, [path, ...before]] of Object.entries(VIEWS)) {
	if (only.length && !only.includes(name)) continue;
	// a page that sends what takes long when it is there is loaded only then
	await desk.goto(base + path, { waitUntil: 'commit' });
	await desk.waitForLoadState('load', { timeout: 300_000 });
	for (const step of before) await step();
	await desk.waitForTimeout(2500);
	await desk.screenshot({ path: `docs/screenshots/${name}.png` });
	console.log(name);
}
if (!only.length || only.includes('weld-out')) {
	// the bench as it is met: on the shop's screen and on a phone, side by side
	const bench = await as('Bram', '2580');
	await bench.goto(`${base}${TROUGH}/weld-out`);
	await bench.getByText(/Step \d+ of/).waitFor();
	const title = bench.getByRole('heading', { level: 1 });
	for (let i = 0; i < 12 && !/Run \d+/.test(await title.innerText()); i++) {
		await bench.getByRole('button', { name: /^(Done|Cool enough, go on)$/ }).click();
		await bench.waitForTimeout(700);
	}
	await bench.waitForTimeout(2500);
	const wide = await bench.screenshot();
	await bench.setViewportSize({ width: 370, height: 800 });
	await bench.waitForTimeout(1500);
	const narrow = await bench.screenshot();
	await sharp({ create: { width: 1664, height: 800, channels: 3, background: '#ffffff' } })
		.composite([
			{ input: wide, left: 0, top: 0 },
			{ input: narrow, left: 1294, top: 0 }
		])
		.png()
		.toFile('docs/screenshots/weld-out.png');
	console.log('weld-out');
}
await browser.close();
