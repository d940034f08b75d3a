/** `npm run fuzz`: 10,000 changed job files and 2,000 changed requests. */
import { Shop } from './shop';
import { spoiling } from './spoiling';

const shop = await Shop.open();
try {
	const r = await spoiling(shop, 10_000, 2000);
	console.log(
		`${r.files} files (${r.taken} changes were harmless and taken), ${r.requests} requests: ${r.crashes.length} crashes, ${r.cut} lines closed after a large body was refused`
	);
	for (const c of r.crashes.slice(0, 20)) console.log(`  ${c}`);
	console.log(
		`the server's thread was held ${r.heldMs.toFixed(0)} ms at most (asked for: 500), an answer of no work waited ${r.stallMs.toFixed(0)} ms; largest answer ${(r.largestAnswer / 1e6).toFixed(2)} MB (1)`
	);
	process.exitCode = r.crashes.length || r.heldMs > 500 || r.largestAnswer > 1e6 ? 1 : 0;
} finally {
	await shop.close();
}
process.exit();
