import { describe, expect, it } from 'vitest';
import type { Bar, Strongback, WeldSettings } from '../document/schema';
import { angleBar } from '../holds/sections';
import { beyondIts, sourceFault, standsOut, useBar, useCup, useFiller, useSource, useStrongback, useTungsten } from './use';

const settings = (): WeldSettings => ({
	id: 's',
	name: 'S',
	process: 'TIG',
	current: 'steady',
	ampsA: 60,
	speedMmPerS: 2,
	gas: 'Argon',
	gasLPerMin: 8
});

describe('a thing of the shop’s in a plan', () => {
	it('a bar brings its metal and sizes, and reaches no further than it is long', () => {
		const bar = {
			id: 'b',
			name: 'Bar',
			kind: 'bar',
			joint: 'j',
			fromMm: 50,
			toMm: 650,
			material: 'own',
			metal: { conductivity: 0.05, rhoC: 0.004 },
			widthMm: 30,
			thicknessMm: 8,
			contact: 'tight',
			life: { on: 'start', off: 'end' }
		} as Bar;
		useBar(bar, { name: 'Copper 2', material: 'copper', widthMm: 25, thicknessMm: 6, lengthMm: 300 }, 'Seam A');
		expect(bar).toMatchObject({ name: 'Copper 2 on Seam A', material: 'copper', widthMm: 25, thicknessMm: 6, fromMm: 50, toMm: 350 });
		expect(bar.metal).toBeUndefined();
		// a longer one leaves the stretch as planned
		useBar(bar, { name: 'Copper 1', material: 'copper', widthMm: 40, thicknessMm: 10, lengthMm: 600 }, 'Seam A');
		expect([bar.fromMm, bar.toMm]).toEqual([50, 350]);
	});
	it('a strongback keeps its side, and says by how much it is too short', () => {
		const back = {
			id: 'b',
			name: 'Back',
			kind: 'strongback',
			part: 'p',
			path: [
				[0, 0],
				[300, 400],
				[300, 1000]
			],
			areaMm2: 1,
			iOutMm4: 1,
			iInMm4: 1,
			torsionMm4: 1,
			eModulusMPa: 2e5,
			offsetMm: -20,
			pitchMm: 50,
			life: { on: 'start', off: 'end' }
		} as Strongback;
		const item = { name: 'Angle', section: 'angle-40-4', lengthMm: 1000 };
		useStrongback(back, item, 'Panel');
		expect(back.iOutMm4).toBeCloseTo(angleBar(40, 4).iOutMm4, 6);
		expect(back.offsetMm).toBeCloseTo(-angleBar(40, 4).offsetMm, 6);
		// 3-4-5 triangle and 600 mm more: 1100 mm
		expect(beyondIts(back, item)).toBeCloseTo(100, 9);
		expect(beyondIts(back, { ...item, lengthMm: 1100 })).toBe(0);
		// a bar of 600 in a corner of 211.5
		const bar = { name: 'C', material: 'copper', widthMm: 40, thicknessMm: 10, lengthMm: 600 } as const;
		expect([standsOut(211.5, bar), standsOut(700, bar)]).toEqual([388.5, 0]);
	});
	it('machine, tungsten, cup and filler go into the settings; what the machine cannot give is said', () => {
		const s = settings();
		useSource(s, { name: 'Bay 2', fromA: 5, toA: 160, polarity: 'DC-' });
		useTungsten(s, { name: 'Grey', grade: 'WC20', diameterMm: 1.6 });
		useCup(s, { name: 'Lens', boreMm: 12 });
		useFiller(s, { name: 'Thin', grade: '308L', diameterMm: 1, batch: 'F-1' });
		expect(s).toMatchObject({ source: 'Bay 2', polarity: 'DC-', tungsten: 'WC20', tungstenMm: 1.6, cupMm: 12, fillerGrade: '308L', fillerMm: 1 });
		const bay = { name: 'Bay 2', fromA: 5, toA: 160 };
		expect(sourceFault(s, bay)).toBeUndefined();
		expect(sourceFault({ ...s, ampsA: 170 }, bay)).toBe('Bay 2 gives 5 to 160 A: 170 A is beyond it');
		expect(sourceFault({ ...s, startA: 3 }, bay)).toMatch(/3 A is beyond/);
		// background counts only where it pulses
		expect(sourceFault({ ...s, backgroundA: 2 }, bay)).toBeUndefined();
		expect(sourceFault({ ...s, current: 'pulsed', backgroundA: 2 }, bay)).toMatch(/2 A is beyond/);
	});
});
