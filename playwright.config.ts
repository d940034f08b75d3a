import { defineConfig } from '@playwright/test';

// bin/test starts the server and names it; by hand: bin/start, then SARTA_URL=http://127.0.0.1:4173 npx playwright test
export default defineConfig({
	testDir: 'tests/flows',
	workers: 1,
	timeout: 400_000,
	reporter: [['list']],
	expect: { timeout: 20_000 },
	use: {
		actionTimeout: 120_000,
		baseURL: process.env.SARTA_URL ?? 'http://127.0.0.1:4173',
		viewport: { width: 1280, height: 800 },
		launchOptions: {
			executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
			args: [
				'--no-sandbox',
				'--disable-dev-shm-usage',
				'--use-gl=angle',
				'--use-angle=swiftshader',
				'--enable-unsafe-swiftshader',
				'--ignore-gpu-blocklist'
			]
		}
	}
});
