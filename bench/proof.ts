/**
 * The learning proof: `npm run proof` welds virtual shops and writes docs/studies/learning.md (about twenty minutes); `--shops N` and
 * `--full N` take fewer.
 */
import { writeFileSync } from 'node:fs';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { shareOf } from '../core/learn/honest';
import { prove, type Proof } from './learning';

const option = (name: string, usual: number) => {
	const at = process.argv.indexOf(name);
	return at < 0 ? usual : Number(process.argv[at + 1]);
};
const kernel = kernelFactory(WebAssembly);
const say = (of: number) => (done: number) => {
	if (done % 10 === 0 || done === of) console.log(`${done} of ${of}`);
};
const [cheapShops, dearShops] = [option('--shops', 200), option('--full', 12)];
const cheap = prove(cheapShops, { kernel, depth: 'quick', onShop: say(cheapShops) });
const dear = prove(dearShops, { kernel, depth: 'final-shape', firstSeed: 500_000, onShop: say(dearShops) });

const isMet = (yes: boolean) => (yes ? 'met' : '**missed**');
const percent = (v: number) => `${(100 * v).toFixed(0)} %`;
function rows(p: Proof): string[] {
	const covered = shareOf(p.inside, p.readings);
	return [
		`| mean error on the new piece, in its own doubts | halved or better | ${p.before.toFixed(2)} to ${p.after.toFixed(2)} | ${isMet(p.after <= p.before / 2)} |`,
		...p.byKind.map((k) => `| of it ${k.kind} | | ${k.before.toFixed(2)} to ${k.after.toFixed(2)}, in band ${k.inside} of ${k.readings} | |`),
		`| shops whose new piece is foretold better than before | | ${p.better} of ${p.shops} | |`,
		`| 90 % bands of the new piece cover | 85 to 95 % | ${percent(p.inside / p.readings)} (${percent(covered.low)} to ${percent(covered.high)}) | ${isMet(p.inside / p.readings >= 0.85 && p.inside / p.readings <= 0.95)} |`,
		`| tapes read in inches that are flagged | more than half | ${p.slipsFlagged} of ${p.slips} | ${p.slips ? isMet(p.slipsFlagged > p.slips / 2) : 'none came'} |`,
		`| sound readings that are flagged | | ${p.falseAlarms} | |`
	];
}
const table = (title: string, p: Proof) => [`## ${title}`, '', '| figure | asked | found | |', '| --- | --- | --- | --- |', ...rows(p), ''];

writeFileSync(
	'docs/studies/learning.md',
	[
		'# Does a shop that learns foretell better?',
		'',
		'Virtual shops (`standins/virtualShop.ts`) hide the factors of their metal, drawn as widely as the program’s prior has them, and do what the forecast is not told: every seam hotter or colder than set, hotter through the day, gaps that are not as drawn, a pull that sits elsewhere in the thickness, tapes read in inches. Each welds five butt coupons, reads them with the noise of real instruments, and then a panel of another size with two seams. The learner knows none of it. Seeds are fixed; `npm run proof` writes this page.',
		'',
		'Errors are counted in the doubt of each reading and of the forecast apart from its factors, so that millimetres and degrees can be put together: what no learner could foretell is about 0.8 of it.',
		'',
		...table(`${cheap.shops} shops by the linear staging`, cheap),
		...table(`${dear.shops} shops by the final shape, waves among them`, dear),
		'The truth of both shares the mechanics of the forecast (the same shells, the same section at other settings): what a real sheet does besides is in neither. Nobody has measured a real shop with it yet.',
		''
	].join('\n')
);
console.log('docs/studies/learning.md is written.');
