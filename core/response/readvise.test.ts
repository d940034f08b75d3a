/** Filler, gas and polarity by metal from the start, and again when the metal changes (common practice, no source). */
import { describe, expect, it } from 'vitest';
import { regenerate } from '../compose/resize';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { currentWords, rampWords } from '../weldout/currentWords';
import { fillerOfSettings } from '../weldout/fillerWords';

const sizes = (material: string) => ({ ...FAMILY_DEFAULTS['butt-panel'], material });
const of = (material: string) => newPlan('butt-panel', sizes(material)).plan!;

describe('settings that a first plan begins with', () => {
	it.each([
		['1.4301', '308L', 'DC-'],
		['1.4404', '316L', 'DC-'],
		['S235', 'G3Si1', 'DC-'],
		['6061', '4043', 'AC'],
		['5083', '5356', 'AC']
	])('%s: filler %s, %s, a start and a finish below the current', (material, filler, polarity) => {
		const [s] = of(material).settings;
		expect([s.fillerGrade, s.polarity]).toEqual([filler, polarity]);
		expect(s.startA!).toBeLessThan(s.ampsA);
		expect(s.finishA!).toBeLessThan(s.startA!);
		expect(currentWords(s)).toBe(`${s.ampsA} A ${polarity}`);
		expect(rampWords(s)).toBe(`from ${s.startA} A in ${s.upSlopeS} s, to ${s.finishA} A in ${s.downSlopeS} s`);
	});
	it('a fused seam is told no filler, whatever its settings name', () => {
		const p = of('1.4301');
		for (const j of p.joints) j.filler = false;
		expect(fillerOfSettings(p, p.settings[0])).toBe('no filler, fused');
	});
});

describe('another metal', () => {
	it('brings its filler, gas and polarity, and says so; back again, and all is as it was', () => {
		const first = of('1.4301');
		const there = regenerate(first, 'butt-panel', sizes('6061'));
		expect(there.plan!.settings[0]).toMatchObject({ fillerGrade: '4043', polarity: 'AC' });
		expect(there.faults.length ? [] : (there as { notes: string[] }).notes.join(' ')).toMatch(/filler 4043.*polarity AC/);
		const back = regenerate(there.plan!, 'butt-panel', sizes('1.4301'));
		expect(back.plan!.settings).toEqual(first.settings);
	});
	it('leaves what a person chose, and settings whose metals stay', () => {
		const p = of('1.4301');
		p.settings[0].fillerGrade = '309L';
		expect(regenerate(p, 'butt-panel', sizes('S235')).plan!.settings[0]).toMatchObject({ fillerGrade: '309L', polarity: 'DC-' });
		expect(regenerate(p, 'butt-panel', { ...sizes('1.4301'), lengthMm: 333 }).plan!.settings).toEqual(p.settings);
	});
});
