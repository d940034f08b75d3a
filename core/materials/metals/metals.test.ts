/** Every grade is whole: curves that belong to its group, a filler, a gas; and a shop's own metal runs on its own group's curves. */
import { describe, expect, it } from 'vitest';
import { fillerFor } from '../../response/settingsAdvice';
import { GRADES, findMaterial, MATERIAL_GROUPS, type Material } from '../grades';
import { hotMetal, metalOf } from '../hot';
import { GROUP_GRADE, METALS } from '.';
import { interpolate } from './tables';

/** The clause that a group's curves are from: another group's would be quietly wrong. */
const SOURCE = {
	austenitic: /EN 1993-1-2:2005 Annex C/,
	duplex: /EN 1993-1-2:2005 Annex C.*EN 10088-1/,
	'carbon-steel': /EN 1993-1-2:2005 clause 3\.4 and table 3\.1/,
	aluminium: /EN 1999-1-2:2007/
} as const;
/** Where a fire code says the metal has lost all but a few per cent of its strength, °C. */
const SPENT = { austenitic: 1150, duplex: 1000, 'carbon-steel': 1000, aluminium: 550 } as const;
/** Still a tenth of it left here, °C. */
const HOLDS = { austenitic: 800, duplex: 800, 'carbon-steel': 700, aluminium: 300 } as const;

describe.each(METALS.map((m) => [m.id, m] as const))('%s', (id, m) => {
	it('is listed once, with answers that are numbers in a sane range', () => {
		expect(METALS.filter((x) => x.id === id)).toHaveLength(1);
		// what pages are sent is plain values: it survives being written and read
		const plain = GRADES.find((g) => g.id === id)!;
		expect(JSON.parse(JSON.stringify(plain))).toEqual(plain);
		expect(m).toMatchObject(plain);
		expect(m.density).toBeGreaterThan(2500);
		expect(m.density).toBeLessThan(8200);
		expect(m.hardening.mpa).toBeGreaterThan(100);
		expect(m.hardening.mpa).toBeLessThan(5000);
		expect(m.welding.usual.map((f) => f.toUpperCase())).toContain(m.welding.filler.toUpperCase());
		// at room temperature the curve and the single value are one property
		expect(m.curves.conductivity(20) / (1000 * m.conductivity)).toBeGreaterThan(0.85);
		expect(m.curves.conductivity(20) / (1000 * m.conductivity)).toBeLessThan(1.35);
	});
	it('has the curves of its own group: source, strength that lasts as long, melting where it melts', () => {
		const hot = hotMetal(m);
		expect(hot.source).toMatch(SOURCE[m.group]);
		expect(hot.source).not.toMatch(/scaled/);
		expect(hot.proof(20)).toBeCloseTo(m.proofStrength, 6);
		expect(hot.proof(HOLDS[m.group])).toBeGreaterThan(0.1 * m.proofStrength);
		expect(hot.proof(SPENT[m.group])).toBeLessThan(0.05 * m.proofStrength);
		for (let c = 50; c <= hot.topC; c += 50) {
			expect(hot.proof(c)).toBeLessThanOrEqual(hot.proof(c - 50) + 1e-9);
			expect(hot.elongation(c)).toBeGreaterThanOrEqual(hot.elongation(c - 50));
			expect(hot.heatContent(c)).toBeGreaterThan(hot.heatContent(c - 50));
		}
		const [from, to] = m.curves.melts;
		expect(m.responsePair.meltC).toBeGreaterThan(from - 100);
		expect(m.responsePair.meltC).toBeLessThan(to + 1);
		expect(hot.solidC).toBeLessThan(from);
	});
});

describe('a shop’s own metal', () => {
	it.each(MATERIAL_GROUPS)('of the group %s runs on the curves of that group’s grade, scaled to its own strength', (group) => {
		const own: Material = { ...GROUP_GRADE[group], id: 'own-1', name: 'Own', proofStrength: 333 };
		const hot = hotMetal(own);
		expect(hot.source).toMatch(SOURCE[group]);
		expect(hot.source).toMatch(/scaled/);
		expect(hot.proof(300)).toBeCloseTo(333 * interpolate(GROUP_GRADE[group].curves.proof, 300), 6);
		expect(metalOf(own).group).toBe(group);
	});
	it('a duplex grade is neither solid aluminium at 550 °C nor without strength at 800', () => {
		const hot = hotMetal({ ...GROUP_GRADE.duplex, id: 'lean-duplex' });
		expect(hot.solidC).toBe(1200);
		expect(hot.proof(800)).toBeGreaterThan(100);
	});
});

describe('fillers by pair (common practice, no source)', () => {
	it.each([
		['1.4301', '1.4301', '308L'],
		['1.4404', '1.4404', '316L'],
		['1.4301', '1.4404', '309L'],
		['1.4301', 'S235', '309L'],
		['1.4462', '1.4462', '2209'],
		['1.4462', '1.4404', '2209'],
		['S235', 'S235', 'G3Si1'],
		['5083', '5052', '5356'],
		['6061', '5083', '4043'],
		['1.4301', '5083', undefined]
	])('%s to %s: %s', (a, b, filler) => {
		expect(fillerFor(findMaterial(a), findMaterial(b)).grade).toBe(filler);
		expect(fillerFor(findMaterial(b), findMaterial(a)).grade).toBe(filler);
	});
});
