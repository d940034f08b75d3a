/**
 * Who may import whom, types counted: see docs/architecture.md. Run by `npm run layers` and by the tests.
 * @type {import('dependency-cruiser').IConfiguration}
 */
// core's folders from the inside out: each may import those of the rows before its own
const CORE = [
	['refusal', 'units', 'geometry', 'testing'],
	['materials', 'measure', 'linalg'],
	['document', 'shell'],
	['joints', 'holds', 'equilibrium', 'factors', 'heat'],
	['registers', 'devices', 'trials'],
	['sequence'],
	['mesh'],
	['layout', 'response'],
	['features', 'schools', 'staging', 'access', 'draw'],
	['plan'],
	['families'],
	['reading', 'compose', 'forecast'],
	['hot', 'scan'],
	['estimate', 'weldout', 'formats', 'learn'],
	['fitup', 'calculators', 'coupons'],
	['search'],
	['corrections', 'practice', 'propose']
];
/** What each folder at the top may import besides itself and packages. */
const MAY = {
	core: [],
	store: ['core'],
	app: ['core', 'store', 'worker'],
	worker: ['core', 'store'],
	cli: ['core'],
	admin: ['core', 'store'],
	lan: [],
	standins: ['core', 'store'],
	trials: ['store', 'standins'],
	bench: ['core', 'cli', 'standins']
};
const inCore = (folders) => `^core/(${folders.join('|')})/`;

module.exports = {
	forbidden: [
		{ name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
		{ name: 'no-circle-of-folders', scope: 'folder', severity: 'error', from: { path: '^core/' }, to: { circular: true } },
		{
			name: 'core-folder-has-a-place',
			comment: 'a new folder of core is named in CORE above',
			severity: 'error',
			from: { path: '^core/[^/]+/', pathNot: inCore(CORE.flat()) },
			to: {}
		},
		...CORE.map((row, i) => ({
			name: `core-${row.join('-')}-inwards`,
			severity: 'error',
			from: { path: `^core/(${row.join('|')})/` },
			to: { path: '^core/([^/]+)/', pathNot: [inCore([...CORE.slice(0, i).flat(), ...row])] }
		})),
		...Object.entries(MAY).map(([top, others]) => ({
			name: `${top}-inwards`,
			severity: 'error',
			from: { path: `^${top}/` },
			to: { path: `^(${Object.keys(MAY).join('|')})/`, pathNot: `^(${[top, ...others].join('|')})/` }
		})),
		{
			name: 'core-knows-no-host',
			comment: 'core runs in a page, a worker and on the server alike',
			severity: 'error',
			from: { path: '^core/' },
			to: { path: '(^node:|node_modules/(svelte|three|pg|drizzle-orm|@sveltejs)/)', dependencyTypesNot: ['type-only'] }
		},
		{
			name: 'core-knows-no-node',
			severity: 'error',
			from: { path: '^core/' },
			to: { dependencyTypes: ['core'] }
		},
		{
			name: 'pages-know-no-store',
			comment: 'pages and components run in the browser: the database stays on the server’s side',
			severity: 'error',
			from: { path: '^app/', pathNot: '(\\.server\\.ts|\\+server\\.ts|/server/[^/]+\\.ts)$' },
			to: { path: '^store/', dependencyTypesNot: ['type-only'] }
		}
	],
	options: {
		tsPreCompilationDeps: true,
		tsConfig: { fileName: 'tsconfig.json' },
		webpackConfig: { fileName: 'scripts/aliases.cjs' },
		doNotFollow: { path: 'node_modules' },
		exclude: { path: '(\\.test\\.ts$|/\\$types|\\.svelte-kit)' }
	}
};
