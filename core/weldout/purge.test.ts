/** What stands behind the root, in words: of a plan, seam by seam. */
import { describe, expect, it } from 'vitest';
import { WHAT_IFS } from '../search/whatIf';
import type { PlanDocument } from '../document/schema';
import { rootWords } from './purge';
import { make } from './testing';

const plan = (): PlanDocument => ({ ...make('open-trough'), root: undefined });
const open = plan().joints.filter((j) => !j.stock && j.penetration === 'full');
const barred = (p: PlanDocument, ids: readonly string[]) => ids.reduce((q, id) => WHAT_IFS.find((w) => w.id === 'bar')!.apply(q, id), p);
const with_ = (p: PlanDocument, care: 'bar' | 'both' | 'purge') => ({ ...p, root: { care } }) as PlanDocument;

describe('behind the root', () => {
	it('nothing planned: it will sugar; a tight bar at one seam: the others will, by name', () => {
		expect(rootWords(plan())).toMatch(/^Nothing behind the root: it will sugar/);
		const one = rootWords(barred(plan(), [open[0].id]));
		expect(one).toMatch(new RegExp(`^A tight bar stands behind “${open[0].name}”, nothing behind “${open[1].name}”`));
		expect(
			rootWords(
				barred(
					plan(),
					open.map((j) => j.id)
				)
			)
		).toMatch(/^A tight bar stands behind every root/);
	});
	it('a loose bar keeps no air off', () => {
		const p = barred(plan(), [open[0].id]);
		const loose = { ...p, holdDowns: p.holdDowns.map((h) => (h.kind === 'bar' ? { ...h, contact: 'loose' as const } : h)) };
		expect(rootWords(loose)).toMatch(/^Nothing behind the root/);
	});
	it('a bar chosen and not put on: which seams have none yet', () => {
		expect(rootWords(with_(plan(), 'bar'))).toMatch(/No tight bar stands behind .* yet\.$/);
		expect(
			rootWords(
				with_(
					barred(
						plan(),
						open.map((j) => j.id)
					),
					'both'
				)
			)
		).not.toMatch(/yet/);
		expect(rootWords(with_(plan(), 'purge'))).toMatch(/^Argon keeps the root bright.*in air\.$/);
	});
});
