import { describe, expect, it } from 'vitest';
import { freshPage, keptInBrowser } from '../desk/testing';
import { ReadingDraft } from './draft.svelte';

freshPage();

describe('a reading as it is typed', () => {
	it('outlives a reload, each piece by itself, until the server has it', () => {
		const typed = new ReadingDraft('a');
		typed.begin();
		typed.setCells('flat', ['0.4', '', '1']);
		typed.set({ moment: 'cold', instrument: 'Dial', metalC: 21 });
		const again = new ReadingDraft('a');
		again.begin();
		expect(again.cells('flat', 3)).toEqual(['0.4', '', '1']);
		expect([again.moment, again.instrument, again.metalC]).toEqual(['cold', 'Dial', 21]);
		// another revision asks for other places: half a reading of the old ones is none
		expect(again.cells('flat', 2)).toEqual(['', '']);
		const other = new ReadingDraft('b');
		other.begin();
		expect(other.cells('flat', 3)).toEqual(['', '', '']);
		again.taken('flat');
		typed.begin();
		expect(typed.cells('flat', 3)).toEqual(['', '', '']);
		expect(typed.instrument).toBe('Dial');
	});
	it('has one name however often it is sent, over a reload too, and another once a number is changed', () => {
		const draft = new ReadingDraft('a');
		const name = draft.nameOf({ feature: 'flat', readings: [1, 2] });
		expect(draft.nameOf({ feature: 'flat', readings: [1, 2] })).toBe(name);
		const again = new ReadingDraft('a');
		again.begin();
		expect(again.nameOf({ feature: 'flat', readings: [1, 2] })).toBe(name);
		expect(again.nameOf({ feature: 'flat', readings: [1, 3] })).not.toBe(name);
		again.taken('flat');
		expect(again.nameOf({ feature: 'flat', readings: [1, 2] })).not.toBe(name);
	});
	it('a browser that keeps nothing, or something broken, is no fault', () => {
		const browser = keptInBrowser();
		browser.set('sarta-reading-a', '{broken');
		const draft = new ReadingDraft('a');
		draft.begin();
		expect(draft.cells('flat', 1)).toEqual(['']);
		keptInBrowser(true);
		draft.setCells('flat', ['1']);
		expect(draft.cells('flat', 1)).toEqual(['1']);
	});
});
