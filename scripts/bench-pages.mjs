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
let scripts = [];
page.on('response', async (r) => {
	if (/\.(js|css)(\?|$)/.test(r.url())) scripts.push(gzipSync(await r.body().catch(() => Buffer.alloc(0))).length);
});
await page.goto(`${base}/sign-in`, { waitUntil: 'networkidle' });
await page.fill('#name', 'Ines');
await page.fill('#pin', '14709630');
await page.click('button[type=submit]');
await page.waitForURL('**/jobs');
const time = async (name, url, warm = true) => {
	if (warm) await page.goto(url, { waitUntil: 'networkidle' });
	scripts = [];
	const t0 = performance.now();
	await page.goto(url, { waitUntil: 'load' });
	// interactive: hydrated, and the main thread answers
	await page.evaluate(() => new Promise((done) => requestIdleCallback(done, { timeout: 5000 })));
	const ms = performance.now() - t0;
	await page.waitForLoadState('networkidle');
	console.log(`Page ${name.padEnd(24)} interactive after ${ms.toFixed(0).padStart(5)} ms`);
};
await time('jobs', `${base}/jobs`);
const fresh = await browser.newContext();
await fresh.addCookies(await page.context().cookies());
const list = await fresh.newPage();
let bytes = 0;
list.on('response', async (r) => {
	if (/\.(js|css)(\?|$)/.test(r.url())) bytes += gzipSync(await r.body().catch(() => Buffer.alloc(0))).length;
});
await list.goto(`${base}/jobs`, { waitUntil: 'networkidle' });
console.log(`Job list: ${(bytes / 1000).toFixed(0)} kB of scripts and styles, compressed`);
const href = await page.locator('tbody a').first().getAttribute('href');
const job = href.split('/').slice(0, 3).join('/');
for (const s of ['job', 'parts', 'tack', 'order', 'forecast', 'weld-out', 'measure']) await time(s, `${base}${job}/${s}`);
await browser.close();
