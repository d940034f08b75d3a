/**
 * Do the tests hold the constants? Each mutant changes one figure that moves a result (an own estimate, or a value from memory) or
 * makes one kind answer wrongly, in a copy of the project; the tests named beside it must fail. `npm run mutants` writes
 * docs/studies/mutants.md: some twenty minutes. `npm run mutants -- --only text` tries those whose name holds the text and writes nothing.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '..');
/** [what, file, from, to, tests] */
const MUTANTS = [
	['a tack pulls twice as much', 'core/staging/weldBook.ts', 'TACK_SHARE = 0.3', 'TACK_SHARE = 0.6', 'core/constants'],
	['both fillets of a tee turn it alike', 'core/staging/weldBook.ts', 'TEE_SHARE = 2 / 3', 'TEE_SHARE = 1', 'core/constants'],
	[
		'316L has 304’s strength when hot',
		'core/materials/metals/1.4404.ts',
		/hundreds\(.*?\)/,
		'hundreds(100, 0.64, 0.58, 0.51, 0.46, 0.41, 0.39, 0.34, 0.24, 0.13, 0.07, 0.04, 0)',
		'core/constants core/materials'
	],
	['copper conducts half as well', 'core/materials/grades.ts', 'conductivity: 0.39', 'conductivity: 0.19', 'core/constants core/materials'],
	['brass holds half the heat', 'core/materials/grades.ts', '8500e-9 * 380', '8500e-9 * 190', 'core/constants core/materials'],
	['a jig holds from its seam’s start whatever it says', 'core/holds/jig.ts', 'fromMm: h.fromMm', 'fromMm: 0', 'core/constants core/holds'],
	['a clamp holds 20 mm further on', 'core/holds/clamp.ts', /h\.stationMm/, 'h.stationMm + 20', 'core/constants core/holds'],
	['a weight is as soft as a sponge', 'core/holds/weight.ts', 'WEIGHT_STIFFNESS = 1000', 'WEIGHT_STIFFNESS = 50', 'core/constants core/holds'],
	['a table’s top takes a fifth of the heat', 'core/holds/holding-table.ts', 'TOP_WIDTH_MM = 150', 'TOP_WIDTH_MM = 30', 'core/constants core/holds'],
	['an aluminium top conducts like steel', 'core/holds/holding-table.ts', 'conductivity: 0.15', 'conductivity: 0.05', 'core/constants core/holds'],
	['film is peeled 2 mm beyond the tint', 'core/fitup/advice.ts', 'FILM_MARGIN_MM = 10', 'FILM_MARGIN_MM = 2', 'core/constants core/fitup'],
	['gaps may be twice as wide', 'core/fitup/advice.ts', '? 0.5 : 0.1', '? 1 : 0.2', 'core/constants core/fitup'],
	['an inch is 25 mm', 'core/units/length.ts', 'MM_PER_INCH = 25.4', 'MM_PER_INCH = 25', 'core/constants core/units'],
	['hot metal flows four times as slowly', 'core/response/layeredStrip.ts', 'VISCOSITY = 50', 'VISCOSITY = 200', 'core/constants'],
	['a coupon lets go of a third of what it held', 'core/response/layeredStrip.ts', 'LET_GO = 2 / 3', 'LET_GO = 1 / 3', 'core/constants'],
	['tint shows at 450 °C', 'core/response/weldResponse.ts', 'TINT_C = 300', 'TINT_C = 450', 'core/constants core/fitup'],
	[
		'the pull lies four times less surely',
		'core/response/weldResponse.ts',
		'ECCENTRICITY_SPREAD = 0.05',
		'ECCENTRICITY_SPREAD = 0.2',
		'core/constants'
	],
	['the section bows as it likes', 'core/response/weldResponse.ts', 'FREEDOM_IN_SOLID = 0.31 / 0.82', 'FREEDOM_IN_SOLID = 0.7', 'core/constants'],
	['a tight bar touches five times better', 'core/response/weldResponse.ts', 'tight: 2000e-6', 'tight: 10000e-6', 'core/constants'],
	['a pool twice as wide does not drop through', 'core/response/settingsAdvice.ts', 'DROPS_THROUGH = 4.5', 'DROPS_THROUGH = 9', 'core/constants'],
	['half a pool reaches the root', 'core/response/settingsAdvice.ts', 'REACHES_ROOT = 1.6', 'REACHES_ROOT = 0.8', 'core/constants'],
	['a bar is thick from 12 mm', 'core/response/settingsAdvice.ts', 'THICK_BAR_MM = 6', 'THICK_BAR_MM = 12', 'core/constants'],
	['a preset of 20 degrees is offered', 'core/search/presets.ts', 'MOST_PRESET_DEG = 8', 'MOST_PRESET_DEG = 20', 'core/constants'],
	['a flip takes half a minute', 'core/estimate/estimate.ts', 'FLIP_S = 60', 'FLIP_S = 30', 'core/constants core/estimate'],
	['a tack takes 24 s', 'core/estimate/estimate.ts', 'TACK_S = 12', 'TACK_S = 24', 'core/constants core/estimate'],
	['a fifth of the wire is lost', 'core/estimate/estimate.ts', 'DEPOSITED = 0.95', 'DEPOSITED = 0.8', 'core/constants core/estimate'],
	['caps stand twice as high', 'core/estimate/estimate.ts', 'CAP = 0.25', 'CAP = 0.5', 'core/constants core/estimate'],
	['going there and back takes a minute', 'core/estimate/fillWaits.ts', 'CHANGE_S = 20', 'CHANGE_S = 60', 'core/constants core/estimate'],
	['seams scatter twice as much', 'core/forecast/forecast.ts', 'SEAM_SCATTER = 0.15', 'SEAM_SCATTER = 0.3', 'core/constants'],
	['gaps are known half as well', 'core/forecast/forecast.ts', 'GAP_SIGMA_MM = 0.15', 'GAP_SIGMA_MM = 0.3', 'core/constants'],
	['30 s between runs', 'core/forecast/schedule.ts', 'BETWEEN_RUNS_S = 15', 'BETWEEN_RUNS_S = 30', 'core/constants core/estimate'],
	['a fan does nothing', 'core/forecast/schedule.ts', 'FAN_FILM = 3', 'FAN_FILM = 1', 'core/constants'],
	['a wet cloth does what a fan does', 'core/forecast/schedule.ts', 'LOCAL_FILM = 10', 'LOCAL_FILM = 3', 'core/constants'],
	['measured 40 K above the air', 'core/forecast/schedule.ts', 'MEASURE_ABOVE_AIR = 10', 'MEASURE_ABOVE_AIR = 40', 'core/constants'],
	['hold-downs are known to a factor of four', 'core/forecast/finalBands.ts', 'HOLD_FACTOR = 2', 'HOLD_FACTOR = 4', 'core/constants'],
	['a start warm by 100 K does not matter', 'core/forecast/seamResponses.ts', 'RISE_MATTERS = 12', 'RISE_MATTERS = 100', 'core/constants'],
	['the linear method errs by half', 'core/factors/factors.ts', 'MODEL_FORM = 0.25', 'MODEL_FORM = 0.5', 'core/constants core/factors'],
	['90 per cent is 95', 'core/factors/factors.ts', 'Z90 = 1.645', 'Z90 = 1.96', 'core/constants core/factors'],
	['roots stay bright at 1000 ppm', 'core/weldout/purge.ts', 'ROOT_OXYGEN_PPM = 100', 'ROOT_OXYGEN_PPM = 1000', 'core/constants core/weldout'],
	['40 L/min is gentle', 'core/weldout/purge.ts', 'GENTLE_FLOW = 20', 'GENTLE_FLOW = 40', 'core/constants core/weldout'],
	['a vent may whistle', 'core/weldout/purge.ts', 'VENT_FAST = 3', 'VENT_FAST = 6', 'core/constants core/weldout'],
	[
		'waits under three minutes are no step',
		'core/weldout/benchSteps.ts',
		'SHORTEST_WAIT_S = 20',
		'SHORTEST_WAIT_S = 200',
		'core/constants core/weldout core/layout core/fitup'
	],
	['a shim is asked for 100 mm out', 'core/weldout/preset.ts', 'REACH_MM = 150', 'REACH_MM = 100', 'core/constants core/weldout core/fitup'],
	['bends are laid flat on their middle', 'core/families/blank.ts', 'K_FACTOR = 0.42', 'K_FACTOR = 0.5', 'core/constants core/families'],
	[
		'a sag of six tenths of the limit matters not',
		'core/families/suitablePosture.ts',
		'SAG_MATTERS = 0.25',
		'SAG_MATTERS = 0.6',
		'core/constants core/families'
	],
	['weight is the moon’s', 'core/equilibrium/posture.ts', 'GRAVITY = 9.80665', 'GRAVITY = 1.62', 'core/constants'],
	['points of the piece hold a hundred times more', 'core/staging/condense.ts', 'HINGE = 1e-3', 'HINGE = 1e-1', 'core/constants'],
	['a socket’s weld lies inside it', 'core/joints/port.ts', 'frontIsBehindEdges: true', 'frontIsBehindEdges: false', 'core/joints core/mesh'],
	['lapped sheets are kept from bowing', 'core/joints/lap.ts', 'isFlat: true', 'isFlat: false', 'core/joints'],
	['still air cools twice as fast', 'core/heat/air.ts', 'STILL_AIR = 15e-6', 'STILL_AIR = 30e-6', 'core/constants'],
	[
		'a seam is level up to 20 degrees only',
		'core/layout/positions.ts',
		'LEAN = Math.cos((50',
		'LEAN = Math.cos((20',
		'core/constants core/layout core/schools'
	]
];

const only = process.argv[process.argv.indexOf('--only') + 1];
const chosen = process.argv.includes('--only') ? MUTANTS.filter(([what]) => what.includes(only)) : MUTANTS;
const copy = mkdtempSync(path.join(root, '.test/mutants-'));
const survivors = [];
try {
	// tracked files as they lie here, committed or not; packages are those of the project
	execFileSync(
		'bash',
		['-c', `git ls-files -z --cached --others --exclude-standard | tar --null -T - -cf - --ignore-failed-read 2>/dev/null | tar -xf - -C "${copy}"`],
		{ cwd: root }
	);
	symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'));
	for (const [what, file, from, to, tests] of chosen) {
		const at = path.join(copy, file);
		const before = readFileSync(at, 'utf8');
		const after = before.replace(from, to);
		if (after === before) throw new Error(`${file} no longer holds ${from}: mend the list`);
		writeFileSync(at, after);
		const run = spawnSync(
			'npx',
			['vitest', 'run', '--project', 'unit', '--project', 'core', '--bail', '1', '--reporter', 'dot', ...tests.split(' ')],
			{
				cwd: copy,
				encoding: 'utf8'
			}
		);
		writeFileSync(at, before);
		const killed = run.status !== 0;
		console.log(`${killed ? 'killed  ' : 'SURVIVED'}  ${what}`);
		if (!killed) survivors.push([what, file, String(from), to]);
	}
} finally {
	rmSync(copy, { recursive: true, force: true });
}
console.log(`${chosen.length - survivors.length} of ${chosen.length} killed`);
if (chosen === MUTANTS) {
	const rows = MUTANTS.map(
		([what, file, from, to]) =>
			`| ${what} | \`${file}\` | \`${from}\` | \`${to}\` | ${survivors.some((s) => s[0] === what) ? '**survived**' : 'killed'} |`
	);
	writeFileSync(
		path.join(root, 'docs/studies/mutants.md'),
		`# Do the tests hold the constants?\n\nWritten by \`npm run mutants\`: each line changes one figure that moves a result, or makes one kind answer wrongly; the tests of the folders it touches must fail. ${MUTANTS.length - survivors.length} of ${MUTANTS.length} are killed.\n\n| mutant | file | from | to | |\n|---|---|---|---|---|\n${rows.join('\n')}\n`
	);
}
process.exit(survivors.length ? 1 : 0);
