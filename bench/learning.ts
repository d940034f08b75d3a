/**
 * Does a shop that learns foretell its next piece better? Virtual shops with hidden metal, hands and slips (core/practice/virtualShop): five
 * coupons welded and read, then a piece of another size. Seeds fixed; used by `npm run proof` and, with fewer shops, by the tests.
 */
import { FAMILY_DEFAULTS } from '../core/families';
import { newPlan } from '../core/families/newPlan';
import { readingContext } from '../core/features/context';
import { featureKind } from '../core/features';
import { Z90 } from '../core/factors/factors';
import { ForecastCache } from '../core/forecast/analysis';
import { contextOf } from '../core/learn/context';
import { evidenceOf } from '../core/learn/fromPiece';
import type { PieceReading } from '../core/learn/readings';
import { linearSensitivities, sensitivitiesOf, type Sensitivity } from '../core/learn/sensitivity';
import { learnShop, type Evidence } from '../core/learn/shop';
import type { KernelFactory } from '../core/linalg/kernel/kernel';
import { evaluateReadings } from '../core/measure/readings';
import type { PlanDocument } from '../core/document/schema';
import { hiddenShop, VirtualPiece } from '../core/practice/virtualShop';

const COUPONS = 5;
const DAY = 86_400_000;

/** A butt pair whose shrinkage and angle are many times what a calliper and a protractor doubt. */
function pair(widthMm: number, lengthMm: number): PlanDocument {
	const { plan } = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [widthMm, widthMm], lengthMm });
	return { ...plan!, meshSizeMm: 30 };
}
/** The new piece: two seams, wider blanks. */
function piece(): PlanDocument {
	const { plan } = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [140, 120, 140], lengthMm: 300 });
	return { ...plan!, meshSizeMm: 35 };
}

export interface Proof {
	shops: number;
	/** mean of |measured - foretold| over its own doubt before anything was learned: as made, and after five coupons */
	before: number;
	after: number;
	/** shops of which the new piece was foretold better than before */
	better: number;
	inside: number;
	readings: number;
	/** readings in inches among all, and how many of them were flagged */
	slips: number;
	slipsFlagged: number;
	/** sound readings that were flagged */
	falseAlarms: number;
	byKind: { kind: string; before: number; after: number; inside: number; readings: number }[];
}

export interface ProofOptions {
	kernel: KernelFactory;
	/** `quick`: the truth by the linear staging, without waves */
	depth: 'quick' | 'final-shape';
	firstSeed?: number;
	onShop?: (done: number) => void;
}

export function prove(shops: number, { kernel, depth, firstSeed = 1000, onShop }: ProofOptions): Proof {
	const [coupon, next] = [pair(80, 200), piece()];
	const say = (plan: PlanDocument) => (depth === 'quick' ? linearSensitivities(plan, kernel) : sensitivitiesOf(plan, { kernel }));
	const [ofCoupon, ofNext] = [say(coupon), say(next)];
	const caches = new Map([coupon, next].map((p) => [p, new ForecastCache(kernel)]));
	const out: Proof = { shops, before: 0, after: 0, better: 0, inside: 0, readings: 0, slips: 0, slipsFlagged: 0, falseAlarms: 0, byKind: [] };
	for (let k = 0; k < shops; k++) {
		const seed = firstSeed + 100 * k;
		const shop = hiddenShop(seed);
		const all: (Evidence & { isSlip: boolean })[] = [];
		for (let i = 0; i <= COUPONS; i++) {
			const isNew = i === COUPONS;
			const plan = isNew ? next : coupon;
			const virtual = new VirtualPiece(plan, isNew ? { ...shop, inches: 0 } : shop, {
				seed: seed + i,
				piece: i,
				depth,
				cache: caches.get(plan),
				isFine: true
			});
			all.push(...read(virtual, plan, isNew ? ofNext : ofCoupon, isNew ? 'next' : `coupon-${i}`, i * DAY));
		}
		tally(out, all);
		onShop?.(k + 1);
	}
	for (const b of out.byKind) {
		b.before /= b.readings;
		b.after /= b.readings;
	}
	out.before /= out.readings;
	out.after /= out.readings;
	return out;
}

/** Every feature once, free of clamps. */
function read(virtual: VirtualPiece, plan: PlanDocument, sensitivities: readonly Sensitivity[], name: string, at: number) {
	return plan.features.flatMap((f) => {
		const said = sensitivities.find((s) => s.feature === f.id && s.moment === 'unclamped');
		if (!said || (featureKind(f).isOwnedByWaves && said.depth === 'quick')) return [];
		const { method, readings } = virtual.read(f, 'unclamped');
		const e = evaluateReadings(method, readings, readingContext(f, plan));
		const reading: PieceReading = { id: `${name}-${f.id}`, feature: f.id, moment: 'unclamped', value: e.value, uncertainty90: e.uncertainty90, at };
		return [{ ...evidenceOf(name, contextOf(plan), said, reading), isSlip: Math.abs(e.value) > 20 }];
	});
}

function tally(out: Proof, all: readonly (Evidence & { isSlip: boolean })[]) {
	const rows = learnShop(all, []).rows;
	const slips = new Set(all.filter((e) => e.isSlip).map((e) => e.reading));
	for (const r of rows.filter((x) => x.piece !== 'next')) {
		if (slips.has(r.reading)) {
			out.slips++;
			if (r.isOutlier) out.slipsFlagged++;
		} else if (r.isOutlier) out.falseAlarms++;
	}
	let [before, after] = [0, 0];
	for (const r of rows.filter((x) => x.piece === 'next')) {
		const doubt = Math.hypot(r.sigma, r.spread);
		const [b, a] = [Math.abs(r.measured - r.predicted) / doubt, Math.abs(r.measured - r.alone) / doubt];
		const isInside = Math.abs(r.measured - r.alone) <= Z90 * r.aloneSigma;
		let kind = out.byKind.find((x) => x.kind === r.kind);
		if (!kind) out.byKind.push((kind = { kind: r.kind, before: 0, after: 0, inside: 0, readings: 0 }));
		kind.before += b;
		kind.after += a;
		kind.readings++;
		if (isInside) kind.inside++;
		before += b;
		after += a;
		out.readings++;
		if (isInside) out.inside++;
	}
	out.before += before;
	out.after += after;
	if (after < before) out.better++;
}
