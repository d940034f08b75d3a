/**
 * Exercises for a learner, without metal: a small piece, two or three ways to weld it, and one thing that is looked at. What the trade
 * says of the ways is common practice, no source; whether the virtual shop bears it out, each run says with its own figures.
 */
import { couponPlan } from '../coupons/coupons';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import type { FamilyParameters } from '../families/family';
import { usualAngle, usualBar } from '../holds/usual';
import { pathLength } from '../geometry/polyline';
import { orderPattern } from '../schools/orderPattern';
import type { OrderPattern } from '../schools/orders';
import { tackPattern } from '../schools/tackPattern';
import { DEFAULT_TACKS, tackStart } from '../schools/tacks';
import type { ExerciseId } from './ids';
import type { Doing, Tool } from './tools';

export interface Way extends Doing {
	name: string;
	/** of another metal or shape than the piece that is given: nobody's plan can come to it */
	isAnother?: true;
}

export interface Exercise {
	title: string;
	/** what lies on the bench */
	piece: string;
	/** what is looked at: the feature’s id */
	about: string;
	/** what the trade says, and which way it holds to leave least (common practice, no source) */
	trade: string;
	expects?: number;
	/** what one should take from it whichever way it came */
	why: string;
	tools: readonly Tool[];
	/** the piece as it is given to plan, and the ways it is compared */
	given(): PlanDocument;
	ways(given: PlanDocument): Way[];
}

function made(kind: MadeFamily, sizes: FamilyParameters): PlanDocument {
	const { plan, faults } = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...sizes });
	if (!plan) throw new RangeError(`${kind}: ${JSON.stringify(faults)}`);
	return plan;
}
const way = (name: string, plan: PlanDocument, planished = 0): Way => ({ name, plan, planished });
const another = (name: string, plan: PlanDocument): Way => ({ ...way(name, plan), isAnother: true });
const laid = (plan: PlanDocument, pattern: OrderPattern, runLengthMm = 50): PlanDocument => ({
	...plan,
	runs: orderPattern(plan, { pattern, runLengthMm })
});
const through = (plan: PlanDocument) => laid(plan, 'one-hit');
const butt = () => couponPlan({ kind: 'butt', material: '1.4301', thicknessMm: 1.5 });
const barred = (plan: PlanDocument): PlanDocument => ({
	...plan,
	holdDowns: [...plan.holdDowns, ...plan.joints.filter((j) => !j.stock).map((j) => usualBar(j, `bar-${j.id}`))]
});

const RING = { ductMm: 160, ductLengthMm: 100, ringMm: 50, thicknessMm: 1.2 };
const TRAY = { lengthMm: 400, widthMm: 300, depthMm: 70, rimFlangeMm: 15, thicknessMm: 1.2 };

export const EXERCISES: Record<ExerciseId, Exercise> = {
	'tee-tacks': {
		title: 'A tee, tacked on one side or at both',
		piece: 'A web of 50 mm on a plate of 160 by 300, 3 mm, welded on both sides.',
		about: 'lean-1',
		trade: 'Tacks on one side pull the web over before the first run; tacks at opposite ends and sides keep it straight.',
		expects: 1,
		why: 'A tack is a small weld: what it pulls is not undone by the next. What is pulled evenly stays where it was set.',
		tools: ['tacks', 'order', 'preset'],
		given: () => made('stiffened-plate', { lengthMm: 300, widthMm: 160, stiffenerHeightMm: 50, bothSides: true, thicknessMm: 3 }),
		ways(given) {
			const [near] = given.joints.filter((j) => !j.stock);
			const oneSided = tackPattern(given, { ...tackStart('long-tacks'), order: 'from-true-corner' }, [near.id]);
			const both = tackPattern(given, tackStart('alternate-sides'));
			return [
				way('All on one side, from one end', { ...given, tacks: oneSided }),
				way('Both sides in turn, opposite ends', { ...given, tacks: both })
			];
		}
	},
	mitre: {
		title: 'A mitred frame, by both schools',
		piece: 'A frame of 30 mm square tube, 300 by 220.',
		about: 'square',
		trade: 'One school welds the outside corners first and the faces last, the other the faces first: each swears by its own.',
		why: 'What is welded first shrinks while the rest still gives. Which face that should be depends on which corner may open.',
		tools: ['tacks', 'order', 'clamps'],
		given: () => made('mitred-frame', { lengthMm: 300, widthMm: 220, sideMm: 30 }),
		ways: (given) => [way('Outside first', laid(given, 'mitre-outside-first')), way('Faces first', laid(given, 'mitre-face-first'))]
	},
	butt: {
		title: 'A butt seam: free, on a bar, back-stepped',
		piece: 'Two strips of 1.5 mm sheet, each 140 wide.',
		about: 'bow-1',
		trade: 'Clamped on a copper bar it stays flat; free it warps; back-stepping helps a little.',
		expects: 1,
		why: 'A bar takes the heat before it gets into the sheet: less metal yields, less pulls.',
		tools: ['tacks', 'order', 'bar', 'clamps', 'preset'],
		given: butt,
		ways: (given) => [
			way('Free, straight through', given),
			way('On a copper bar', barred(given)),
			way('Free, back-stepped', laid(given, 'back-step'))
		]
	},
	box: {
		title: 'A small box: straight through or skipped',
		piece: 'Five plates of 1.5 mm, 200 by 140 by 90, nothing folded.',
		about: 'mouth-width',
		trade: 'Seam after seam from one corner pulls the mouth out; skipping round spreads it.',
		expects: 1,
		why: 'Each seam shrinks against what is stiff by then. Spread out, no corner is made stiff and pulled before the others.',
		tools: ['tacks', 'order', 'bar'],
		given: () => made('open-trough', { body: 'five-plates', lengthMm: 200, widthMm: 140, depthMm: 90, rimFlangeMm: 0 }),
		ways: (given) => [way('Seam after seam, straight through', through(given)), way('Skipped round in short runs', laid(given, 'skip-round'))]
	},
	ring: {
		title: 'A ring round a duct: in one go or in quarters',
		piece: 'A ring of 50 mm on a duct of 160 mm, 1.2 mm.',
		about: 'ring-flat',
		trade: 'In quarters, opposite ones in turn, a flange stays in its plane.',
		expects: 1,
		why: 'The ring is pulled down where the arc is. Opposite quarters pull against one another.',
		tools: ['tacks', 'order', 'clamps'],
		given: () => made('collar', RING),
		ways: (given) => [way('Once round', through(given)), way('In quarters, opposite ones in turn', laid(given, 'quarters'))]
	},
	header: {
		title: 'Sockets on a tube, with a strongback and without',
		piece: 'A tube of 40 mm and 500 long with five sockets on one side.',
		about: 'back',
		trade: 'All the weld is on one side, so the tube bends towards it; an angle clamped along it until it is cold keeps it straight.',
		expects: 1,
		why: 'What is held while it shrinks stretches instead. What springs back when it is let go is what was only bent.',
		tools: ['order', 'strongback'],
		given: () => made('manifold', { tubeMm: 40, lengthMm: 500, sockets: 5, socketMm: 24 }),
		ways(given) {
			const line = given.features.find((f) => f.kind === 'straightness')!;
			const held = line.kind === 'straightness' ? [usualAngle(line, 'angle')] : [];
			return [way('Free', given), way('An angle clamped along it until cold', { ...given, holdDowns: [...given.holdDowns, ...held] })];
		}
	},
	gap: {
		title: 'A gap ahead of the arc: few tacks or many',
		piece: 'Two strips of 1.5 mm set half a millimetre apart.',
		about: 'width',
		trade: 'The gap closes ahead of the arc where few tacks hold it; tacked closely it stays, and the piece comes narrower by less.',
		expects: 1,
		why: 'Between tacks the edges are free to come together as the metal behind them shrinks.',
		tools: ['tacks', 'order', 'clamps'],
		given: () => ({ ...butt(), joints: butt().joints.map((j) => ({ ...j, gapMm: 0.5 })) }),
		ways(given) {
			const every = (mm: number) => ({ ...given, tacks: tackPattern(given, { ...DEFAULT_TACKS, locateMm: mm, closeMm: mm }) });
			return [way('A tack every 100 mm', every(100)), way('A tack every 20 mm', every(20))];
		}
	},
	metals: {
		title: 'The same tube on the same plate in three metals',
		piece: 'A square tube of 40 mm on a plate, 1.5 mm, welded all round.',
		about: 'lean',
		trade: 'Stainless pulls most, then aluminium, carbon steel least.',
		expects: 2,
		why: 'Stainless grows more as it warms and leads the heat away badly: a narrow band gets very hot. Carbon steel grows less and changes inside as it cools.',
		tools: ['tacks', 'order', 'clamps'],
		given: () => couponPlan({ kind: 'tube-on-plate', material: '1.4301', thicknessMm: 1.5 }),
		ways: () =>
			(
				[
					['1.4301', 'Stainless 304', way],
					['5052', 'Aluminium 5052', another],
					['S235', 'Carbon steel S235', another]
				] as const
			).map(([material, name, as]) => as(name, couponPlan({ kind: 'tube-on-plate', material, thicknessMm: 1.5 })))
	},
	patch: {
		title: 'A patch let into a panel',
		piece: 'A round patch of 100 mm in a panel of 250 by 250, 1.5 mm.',
		about: 'patch-flat',
		trade: 'A patch is drawn tight all round and pops: short runs opposite one another leave it flatter than once round.',
		expects: 1,
		why: 'A closed seam shrinks on itself: there is no free end for the metal to come from, whatever the order.',
		tools: ['tacks', 'order', 'bar', 'planish'],
		given: () => made('patched-panel', { widthMm: 250, lengthMm: 250, patchMm: 100 }),
		ways: (given) => [way('Once round', through(given)), way('In quarters, opposite ones in turn', laid(given, 'quarters'))]
	},
	'cross-break': {
		title: 'A flat floor or a cross-broken one',
		piece: 'A tray of 400 by 300 by 70 with a rim, 1.2 mm.',
		about: 'floor-flat',
		trade: 'A flat floor oil-cans; broken across its corners by a few millimetres it stands.',
		expects: 1,
		why: 'A flat sheet takes next to no push before it waves. A few millimetres of shape make it many times as stiff.',
		tools: ['tacks', 'order', 'bar'],
		given: () => made('open-trough', { ...TRAY, crossBreakMm: 0 }),
		ways: (given) => [way('Flat floor', given), another('Floor cross-broken by 5 mm', made('open-trough', { ...TRAY, crossBreakMm: 5 }))]
	},
	flange: {
		title: 'A flange, free or bolted to a block',
		piece: 'A ring of 50 mm on a duct of 160 mm, 1.2 mm.',
		about: 'ring-flat',
		trade: 'Bolted down on a thick block until it is cold a flange comes off flat enough to seal.',
		expects: 1,
		why: 'The block holds it in its plane and takes the heat. What comes back when the bolts are taken out is what it was only bent by.',
		tools: ['tacks', 'order', 'clamps'],
		given: () => made('collar', RING),
		ways: (given) => [way('Free', given), another('Bolted to a block', made('collar', { ...RING, holes: 'bolted', bolts: 8 }))]
	},
	planishing: {
		title: 'Planishing a weld line',
		piece: 'Two strips of 1.5 mm sheet, each 140 wide, welded free.',
		about: 'bow-1',
		trade: 'A seam hammered on a dolly grows by what it had shrunk, and the sheet lies down. Too much and it waves the other way.',
		expects: 2,
		why: 'A seam pulls because it is too short. Stretched by what it lacks it pulls no more.',
		tools: ['planish', 'bar'],
		given: butt,
		ways: (given) => [way('As welded', given), way('Half of its pull hammered out', given, 0.5), way('All of its pull hammered out', given, 1)]
	}
};

/** mm of seam that is welded, for a learner to see how large a piece is. */
export const seamLength = (plan: PlanDocument): number =>
	plan.joints.filter((j) => plan.runs.some((r) => r.joint === j.id)).reduce((s, j) => s + pathLength(j.a.path), 0);
