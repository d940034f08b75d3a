/** What a lesson was learned under, and how much one says of another. */
import { blocksOf } from '../holds';
import { findMaterial } from '../materials/grades';
import type { PlanDocument } from '../document/schema';

export interface Context {
	/** material group of the sheets */
	group: string;
	thicknessMm: number;
	/** process and current */
	technique: string;
	/** most of its seams lie on a bar */
	isOnBar: boolean;
}

/** Of a plan's first part and first settings; on a bar where more than half of its welded seams are. */
export function contextOf(plan: PlanDocument): Context {
	const [part] = plan.parts;
	const [settings] = plan.settings;
	const welded = new Set(plan.runs.map((r) => r.joint));
	const onBar = new Set(blocksOf(plan).flatMap((b) => (welded.has(b.joint) ? [b.joint] : [])));
	return {
		group: findMaterial(part.material, plan.materials).group,
		thicknessMm: part.thicknessMm,
		technique: settings ? `${settings.process} ${settings.current}` : 'TIG steady',
		isOnBar: onBar.size > welded.size / 2
	};
}

/**
 * Shares of what is not known of a factor: what the shop has in common whatever it welds (its meters, its hands), what goes with the
 * metal, with how it is welded, with a bar, and what only the same thing has in common. All own estimates; they sum to 1.
 */
const SHARES = { shop: 0.35, metal: 0.3, technique: 0.1, bar: 0.1, same: 0.15 } as const;
/** Two thicknesses are alike within about this many e-folds of one another, for a metal and for the same thing. */
const FAR = 0.6;
const NEAR = 0.2;

/** How far a factor in one context goes with the same factor in another: 1 for the same context, never negative. */
export function alike(a: Context, b: Context): number {
	const folds = Math.log(a.thicknessMm / b.thicknessMm);
	const within = (width: number) => Math.exp(-0.5 * (folds / width) ** 2);
	const is = (yes: boolean) => (yes ? 1 : 0);
	const group = is(a.group === b.group);
	const technique = is(a.technique === b.technique);
	const bar = is(a.isOnBar === b.isOnBar);
	return (
		SHARES.shop +
		SHARES.metal * group * within(FAR) +
		SHARES.technique * technique +
		SHARES.bar * bar +
		SHARES.same * group * technique * bar * within(NEAR)
	);
}

/** Contexts at least this alike count as one where pieces are counted. */
const AS_ONE = 0.95;
export const isSame = (a: Context, b: Context) => alike(a, b) >= AS_ONE;

export const contextWords = (c: Context) => `${c.group}, ${c.thicknessMm} mm, ${c.technique}${c.isOnBar ? ', on a bar' : ''}`;
