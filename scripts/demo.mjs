// What scripts that look at a running bin/start --fresh share: its address, a browser, somebody of the demo signed in, its jobs.
import { existsSync, readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';

export const base = process.env.SARTA_URL ?? (existsSync('.data/address') ? readFileSync('.data/address', 'utf8').trim() : undefined);
if (!base) {
	console.log('Start the program with bin/start --fresh in another window first.');
	process.exit(1);
}
export const browser = await chromium.launch({
	executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
	args: [
		'--no-sandbox',
		'--disable-dev-shm-usage',
		'--use-gl=angle',
		'--use-angle=swiftshader',
		'--enable-unsafe-swiftshader',
		'--ignore-gpu-blocklist'
	]
});
/** A page of somebody of the demo who is signed in. */
export async function as(name, pin, viewport = { width: 1280, height: 800 }, ground = 'light') {
	const context = await browser.newContext({ viewport });
	await context.addInitScript((kept) => localStorage.setItem('sarta-ground', kept), ground);
	const page = await context.newPage();
	await page.goto(`${base}/sign-in`, { waitUntil: 'networkidle' });
	await page.fill('#name', name);
	await page.fill('#pin', pin);
	await page.click('button[type=submit]');
	await page.waitForURL('**/jobs');
	return page;
}
/** The address of a job by part of its name, from a page that may see the list. */
export async function addressOf(page, name) {
	if (!page.url().endsWith('/jobs')) await page.goto(`${base}/jobs`, { waitUntil: 'networkidle' });
	return (await page.locator('tbody a', { hasText: name }).first().getAttribute('href')).split('/').slice(0, 3).join('/');
}
