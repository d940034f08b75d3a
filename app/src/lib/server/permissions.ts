/** Who may do what, by route and method. A route that is not in this table is refused to everybody: see tests/contracts/roles. */
import type { Role } from '$store/auth';

/** `signed-in`: everybody who works here; a learner who has no other role does not. */
export type Rule = 'public' | 'signed-in' | 'learners-too' | readonly Role[];

const ANYONE: Rule = 'signed-in';
const LEARNERS_TOO: Rule = 'learners-too';
const PLANNERS: Rule = ['planner', 'admin'];
const BENCH: Rule = ['welder', 'planner', 'admin'];
const MEASURERS: Rule = ['welder', 'planner', 'inspector', 'admin'];
const INSPECTORS: Rule = ['inspector', 'admin'];
const ADMINS: Rule = ['admin'];

export const RULES: Record<string, Record<string, Rule>> = {
	'/api/sign-in': { POST: 'public' },
	// what a tablet needs before it can trust anything else
	'/api/certificate': { GET: 'public' },
	'/api/sign-out': { POST: 'public' },
	'/api/me': { PATCH: LEARNERS_TOO },
	'/api/practice/[exercise]': { POST: LEARNERS_TOO },
	'/api/practice/[exercise]/set': { POST: PLANNERS },
	'/api/backups': { POST: ADMINS },
	'/api/everything': { GET: ADMINS },
	'/api/settings': { GET: ADMINS, PATCH: ADMINS },
	'/api/people': { GET: ADMINS, POST: ADMINS },
	'/api/people/[person]': { PATCH: ADMINS },
	'/api/logbook.csv': { GET: ANYONE },
	'/api/families/[kind].svg': { GET: ANYONE },
	'/api/families/preview': { POST: ANYONE },
	'/api/jobs': { GET: ANYONE, POST: PLANNERS },
	'/api/coupons': { POST: PLANNERS },
	'/api/coupons/readings': { GET: ANYONE },
	'/api/trials': { POST: PLANNERS },
	'/api/trials/size': { POST: PLANNERS },
	'/api/trials/[trial]/adopt': { POST: PLANNERS },
	'/api/trials/[trial]/conclude': { POST: PLANNERS },
	'/api/trials/[trial]/readings.csv': { GET: ANYONE },
	'/api/jobs/import': { POST: PLANNERS },
	'/api/shapes': { POST: PLANNERS },
	'/api/jobs/[job]': { GET: ANYONE, PATCH: PLANNERS },
	'/api/jobs/[job]/duplicate': { POST: PLANNERS },
	'/api/jobs/[job]/export': { GET: ANYONE },
	'/api/jobs/[job]/record': { GET: ANYONE },
	'/api/jobs/[job]/history/[photograph]': { GET: ANYONE },
	'/api/jobs/[job]/plan': { GET: ANYONE, PUT: PLANNERS },
	'/api/jobs/[job]/ahead': { GET: ANYONE },
	'/api/jobs/[job]/issue': { POST: PLANNERS },
	'/api/jobs/[job]/tasks': { GET: ANYONE, POST: PLANNERS },
	'/api/jobs/[job]/other-runs': { GET: ANYONE },
	'/api/tasks/[task]': { GET: ANYONE },
	'/api/tasks/[task]/cancel': { POST: BENCH },
	'/api/tasks/[task]/result': { GET: ANYONE },
	'/api/jobs/[job]/run-sheet.pdf': { GET: ANYONE },
	'/api/jobs/[job]/fit-up-sheet.pdf': { GET: ANYONE },
	'/api/jobs/[job]/hold-sheet.pdf': { GET: ANYONE },
	'/api/jobs/[job]/cutting-list.pdf': { GET: ANYONE },
	'/api/jobs/[job]/cutting-list.csv': { GET: ANYONE },
	'/api/jobs/[job]/blanks.dxf': { GET: ANYONE },
	'/api/jobs/[job]/etched-blanks.dxf': { GET: ANYONE },
	'/api/jobs/[job]/traveller.pdf': { GET: ANYONE },
	'/api/jobs/[job]/labels.pdf': { GET: ANYONE },
	'/api/jobs/[job]/strips.pdf': { GET: ANYONE },
	'/api/jobs/[job]/strips/[joint].svg': { GET: ANYONE },
	'/api/jobs/[job]/marks-sheet.pdf': { GET: ANYONE },
	'/api/bench-stream': { GET: ANYONE },
	// each tap is judged by the role of whoever tapped it: those of a welder may be sent under an inspector's session
	'/api/pieces/[piece]/events': { GET: ANYONE, POST: ANYONE },
	'/api/pieces/[piece]/replan': { GET: ANYONE, POST: BENCH },
	// who of them may take it over, the plan says
	'/api/pieces/[piece]/replan/[task]': { GET: ANYONE, POST: BENCH },
	'/api/pieces/[piece]/readings.csv': { GET: ANYONE },
	'/api/pieces/[piece]/as-run.csv': { GET: ANYONE },
	'/api/pieces/[piece]/photographs': { GET: ANYONE, POST: ANYONE },
	'/api/pieces/[piece]/photographs/[photograph]': { GET: ANYONE },
	'/api/pieces/[piece]/scans': { GET: ANYONE, POST: MEASURERS },
	'/api/pieces/[piece]/scans/[scan]': { GET: ANYONE },
	'/api/pieces/[piece]/measurements': { GET: ANYONE, POST: MEASURERS },
	'/api/pieces/[piece]/measurements/[measurement]': { PATCH: MEASURERS },
	'/api/pieces/[piece]/learn': { GET: ANYONE, POST: PLANNERS },
	'/api/lessons/[lesson]/withdraw': { POST: PLANNERS },
	'/api/learned.csv': { GET: ANYONE },
	'/api/pieces/[piece]/sign': { POST: INSPECTORS },
	'/api/pieces/[piece]/record.pdf': { GET: ANYONE },
	'/api/procedures': { GET: ANYONE, POST: PLANNERS },
	'/api/procedures/[procedure]': { GET: ANYONE, PATCH: PLANNERS },
	'/api/procedures/[procedure]/sheet.pdf': { GET: ANYONE },
	'/api/materials': { GET: ANYONE, POST: PLANNERS },
	// by its own token, which the route looks at
	'/api/devices/readings': { POST: 'public' },
	'/api/devices': { GET: ANYONE, POST: PLANNERS },
	'/api/devices/[device]': { PATCH: BENCH },
	'/api/devices/[device]/simulate': { POST: BENCH },
	'/api/pieces/[piece]/devices': { GET: ANYONE },
	'/api/registers': { GET: ANYONE, POST: MEASURERS },
	'/api/registers/[item]': { PATCH: MEASURERS },
	'/api/registers/[kind]/csv': { GET: ANYONE, POST: MEASURERS },
	'/api/heats': { GET: ANYONE, POST: BENCH }
};

/** Pages: everything but the sign-in page asks for a session; some ask for a role. */
export const PAGE_RULES: Record<string, Rule> = {
	'/': LEARNERS_TOO,
	'/sign-in': 'public',
	'/practice': LEARNERS_TOO,
	'/practice/[exercise]': LEARNERS_TOO,
	'/people': ADMINS,
	'/people/audit': ADMINS
};

export const ruleFor = (routeId: string, method: string): Rule | undefined =>
	routeId.startsWith('/api/') ? RULES[routeId]?.[method] : (PAGE_RULES[routeId] ?? 'signed-in');

export const allows = (rule: Rule | undefined, roles: readonly Role[] | undefined): boolean =>
	rule === 'public' || (rule !== undefined && roles !== undefined && roles.some((r) => allowsRole(rule, r)));
const allowsRole = (rule: Exclude<Rule, 'public'>, role: Role): boolean =>
	rule === 'learners-too' || (rule === 'signed-in' ? role !== 'learner' : rule.includes(role));
