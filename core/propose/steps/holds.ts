/** Bars, clamps and angles, one at a time by what they bring for their time; bars and clamps from the shop's register first. */
import { pathLength } from '../../geometry/polyline';
import type { AnyHoldDown, Bar, PlanDocument } from '../../document/schema';
import { standsOut, useBar } from '../../registers/use';
import type { ItemOf } from '../../registers/registers';
import { LeverBench, type Lever } from '../../search/levers';
import { HOLD_S } from '../../estimate/estimate';
import { accessFindings } from '../../access/access';
import { assemblyMesh } from '../../mesh/assemblyMesh';
import { inTheWay } from '../../holds/checks';
import type { ProposalDesk } from '../desk';
import type { Weighed } from '../flavour';

/** Hold-downs are put on one after the other, so many at most: a plan that holds everything is nobody's plan. */
const MOST = 6;
/** Tried at each step, those first that help most by themselves. */
const TRIED = 6;
/** What a step must bring at the least, share of what the plan costs. */
const LEAST = 0.01;
/** A bar of the register that stands out by more than this beyond its seam would not go in, mm (own estimate). */
const MAY_STAND_OUT = 40;

type Candidate = LeverBench['list'][number];

export function decideHolds(desk: ProposalDesk): void {
	const { plan } = desk;
	if (!plan.features.length || !plan.runs.length) return;
	const bench = new LeverBench(plan, desk.options.factors, desk.options.kernel, ['bar', 'clamps', 'stiffener']);
	const none = bench.values(new Set());
	const base = desk.weigh(plan);
	/** levelled: what the levers do is added to what the plan is forecast to be */
	const weigh = (on: readonly Candidate[]): Weighed => {
		const values = bench.values(new Set(on.map((c) => c.id)));
		const put = on.reduce((n, c) => n + (c.change.holdDowns?.length ?? 0), 0);
		return { values: base.values.map((v, k) => v + values[k] - none[k]), minutes: base.minutes + (put * HOLD_S) / 60 };
	};
	const alone: { c: Candidate; price: number }[] = [];
	for (const c of bench.list) {
		if (desk.stopped) return;
		alone.push({ c, price: desk.price(weigh([c]), 'truest') });
	}
	const inTurn = alone.sort((p, q) => p.price - q.price).map((x) => x.c);
	const reached = new Map<string, boolean>();
	const mayGo = (c: Candidate): boolean => {
		if (!reached.has(c.id)) reached.set(c.id, canBePut(plan, c));
		return reached.get(c.id)!;
	};
	const on: Candidate[] = [];
	let now = desk.price(base, 'truest');
	while (on.length < MOST && !desk.stopped) {
		const tried = inTurn
			.filter((c) => !on.includes(c) && mayGo(c))
			.slice(0, TRIED)
			.map((c) => ({ c, price: desk.price(weigh([...on, c]), 'truest') }))
			.sort((p, q) => p.price - q.price);
		if (!tried.length || tried[0].price > now * (1 - LEAST)) break;
		on.push(tried[0].c);
		now = tried[0].price;
	}
	for (const c of on) put(desk, c);
}

/** No plan is proposed that hands cannot carry out: it must be got at, and stand in no torch's way. */
function canBePut(plan: PlanDocument, { change: { holdDowns = [] } }: Candidate): boolean {
	if (plan.holdDowns.some((there) => holdDowns.some((h) => inTheWay(there, h)))) return false;
	const held = { ...plan, holdDowns: [...plan.holdDowns, ...holdDowns] };
	const own = new Set(holdDowns.map((h) => h.id));
	return !accessFindings(held, assemblyMesh(held)).some((f) => f.holdDown !== undefined && own.has(f.holdDown));
}

function put(desk: ProposalDesk, c: Candidate) {
	const holds = structuredClone(c.change.holdDowns ?? []) as AnyHoldDown[];
	const notes = holds.flatMap((h) => (h.kind === 'bar' ? [fromRegister(desk, h)] : []));
	desk.add({ id: c.id, kind: 'hold', what: c.label, why: [WHY[c.kind], ...notes].join(' '), change: { holdDowns: holds } });
}
const WHY: Record<Lever['kind'], string> = {
	bar: 'It takes heat out of the seam before it gets into the sheet.',
	clamps: 'They keep the sheets from folding while the seam cools.',
	stiffener: 'It keeps the line straight while the seams beside it pull.',
	heat: 'Less heat, less pull.'
};

/** The shop's own bar in its place where one is long enough and goes in. @returns which, in words */
function fromRegister({ plan, options }: ProposalDesk, bar: Bar): string {
	const joint = plan.joints.find((j) => j.id === bar.joint)!;
	const length = pathLength(joint.a.path);
	const own = options.stock.filter((s) => s.kind === 'bar').map((s) => s.item as ItemOf['bar']);
	if (!own.length) return 'The register has no bar: this one is of the usual size.';
	const fit = own
		.filter((b) => b.material === bar.material && b.lengthMm >= length && standsOut(length, b) <= MAY_STAND_OUT)
		.sort((p, q) => q.thicknessMm * q.widthMm - p.thicknessMm * p.widthMm);
	if (!fit.length) return `No bar of the register is of ${bar.material} and goes along its ${Math.round(length)} mm: this one would have to be cut.`;
	useBar(bar, fit[0], joint.name);
	return `“${fit[0].name}” of the register goes there.`;
}
