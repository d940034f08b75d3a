// `npm run axe`: every page of a running bin/start --fresh at three sizes and on a dark ground, for what axe-core finds against WCAG 2 A and AA, and for
// pages that are wider than their screen. Written to docs/studies/axe.md; ends with 1 where anything is found.
import { writeFileSync } from 'node:fs';
import { AxeBuilder } from '@axe-core/playwright';
import { addressOf, as, base, browser } from './demo.mjs';

const SIZES = { desk: [1280, 800], tablet: [820, 1180], phone: [390, 844], 'desk, dark': [1280, 800, 'dark'] };
const STAGES = [
	'job',
	'parts',
	'fit-up',
	'hold',
	'tack',
	'weld',
	'order',
	'order/search',
	'order/estimate',
	'order/come-true',
	'order/watch',
	'forecast'
];
const AFTER = ['weld-out', 'measure', 'put-right', 'learn', 'hand-over', 'history', 'propose'];
const SHOP = [
	'jobs',
	'bench',
	'library',
	'library/registers',
	'logbook',
	'calculators',
	'learned',
	'coupons',
	'coupons?next',
	'trials',
	'practice',
	'practice/butt',
	'people',
	'people/audit',
	'devices',
	'tablets',
	'me'
];
const only = process.argv.slice(2);

const first = await as('Ines', '14709630');
const [trough, tub] = [await addressOf(first, 'Rearing trough'), await addressOf(first, 'Feed hopper tub')];
const pages = [...SHOP.map((p) => `/${p}`), ...STAGES.map((s) => `${trough}/${s}`), ...AFTER.map((s) => `${tub}/${s}`)];
const nameOf = (address) => address.replace(trough, '(job)').replace(tub, '(job)');

const rows = [];
let found = 0;
for (const [size, [width, height, ground]] of Object.entries(SIZES)) {
	const page = await as('Ines', '14709630', { width, height }, ground);
	for (const address of pages.filter((p) => !only.length || only.some((o) => nameOf(p).includes(o)))) {
		const answer = await page.goto(`${base}${address}`, { waitUntil: 'commit' });
		const isShown = await page
			.locator('#main')
			.waitFor({ timeout: 20_000 })
			.then(() => true)
			.catch(() => false);
		await page.waitForTimeout(1500);
		const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze();
		const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
		const said = [
			...(isShown ? [] : ['its main part is not to be seen']),
			...(answer.status() >= 400 ? [`answers ${answer.status()}`] : []),
			...violations.map((v) => `${v.id}: ${v.nodes.length}, ${v.nodes[0].target.join(' ')}`),
			...(wide > 0 ? [`${wide} px wider than the screen`] : [])
		];
		found += said.length;
		rows.push([nameOf(address), size, said]);
		console.log(nameOf(address), size, said.length ? said.join('; ') : 'nothing');
	}
	await page.context().close();
}
await browser.close();
if (!only.length) {
	const clean = rows.filter(([, , said]) => !said.length).length;
	const list = rows
		.filter(([, , said]) => said.length)
		.map(([name, size, said]) => `| ${name} | ${size} | ${said.join('; ').replaceAll('|', '/')} |`);
	writeFileSync(
		'docs/studies/axe.md',
		[
			'# Every page at three sizes and on a dark ground',
			'',
			`Made by \`npm run axe\` from the demo data: ${rows.length / Object.keys(SIZES).length} pages at ${Object.entries(SIZES)
				.map(([name, [w, h]]) => `${name} (${w} x ${h})`)
				.join(
					', '
				)}; axe-core's checks of WCAG 2 A and AA, and whether the page is wider than the screen. ${clean} of ${rows.length} with nothing found.`,
			'',
			...(list.length ? ['| page | size | found |', '| --- | --- | --- |', ...list, ''] : [])
		].join('\n')
	);
}
process.exit(found ? 1 : 0);
