// Compressed size of what the job list loads, and time to interactive of the main pages from a warm server. Needs a running bin/start.
import { existsSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';

const base = process.env.SARTA_URL ?? (existsSync('.data/address') ? readFileSync('.data/address', 'utf8').trim() : undefined);
if (!base) {
	console.log('Pages: start the program with bin/start in another window to time them.');
	process.exit(0);
}
const browser = await chromium.launch({
	executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
	args: ['--no-sandbox', '--disable-dev-shm-usage']
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${base}/sign-in`, { waitUntil: 'networkidle' });
await page.fill('#name', 'Ines');
await page.fill('#pin', '14709630');
await page.click('button[type=submit]');
await page.waitForURL('**/jobs');
const middle = (a) => a.sort((x, y) => x - y)[Math.floor(a.length / 2)];
/** Middle of five openings from a warm server, each out of an empty page: what the page before still draws is not this one's time. */
const time = async (name, url, drawsPiece = false) => {
	const interactive = [];
	const drawn = [];
	await page.goto(url, { waitUntil: 'networkidle' });
	for (let k = 0; k < 5; k++) {
		await page.goto('about:blank');
		const t0 = performance.now();
		await page.goto(url, { waitUntil: 'load' });
		// interactive: hydrated, and the main thread answers
		await page.evaluate(() => new Promise((done) => requestIdleCallback(done, { timeout: 5000 })));
		interactive.push(performance.now() - t0);
		if (drawsPiece) {
			await page.locator('[data-drawn]:not([data-drawn="0"])').first().waitFor();
			drawn.push(performance.now() - t0);
		}
		await page.waitForLoadState('networkidle');
	}
	const piece = drawsPiece ? `, piece drawn after ${middle(drawn).toFixed(0).padStart(5)} ms` : '';
	console.log(`Page ${name.padEnd(24)} interactive after ${middle(interactive).toFixed(0).padStart(5)} ms${piece}`);
};
await time('jobs', `${base}/jobs`);
const fresh = await browser.newContext();
await fresh.addCookies(await page.context().cookies());
const list = await fresh.newPage();
const bodies = [];
list.on('response', (r) => {
	if (/\.(js|css)(\?|$)/.test(r.url())) bodies.push(r.body().catch(() => Buffer.alloc(0)));
});
await list.goto(`${base}/jobs`, { waitUntil: 'networkidle' });
const bytes = (await Promise.all(bodies)).reduce((n, b) => n + gzipSync(b).length, 0);
console.log(`Job list: ${(bytes / 1000).toFixed(0)} kB of scripts and styles, compressed`);
const href = await page.locator('tbody a').first().getAttribute('href');
const job = href.split('/').slice(0, 3).join('/');
for (const s of ['job', 'weld-out', 'measure']) await time(s, `${base}${job}/${s}`);
for (const s of ['parts', 'hold', 'tack', 'order', 'forecast']) await time(s, `${base}${job}/${s}`, true);
await browser.close();
