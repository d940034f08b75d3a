import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { followBench } from './follow';

class Line {
	static made: Line[] = [];
	readyState = 0;
	onmessage?: () => void;
	onerror?: () => void;
	onopen?: () => void;
	constructor(readonly address: string) {
		Line.made.push(this);
	}
	close() {
		this.readyState = 2;
	}
}
let visibility = 'visible';
let turned: () => void;
beforeEach(() => {
	vi.useFakeTimers();
	Line.made = [];
	visibility = 'visible';
	vi.stubGlobal('EventSource', Line);
	vi.stubGlobal('document', {
		get visibilityState() {
			return visibility;
		},
		addEventListener: (_: string, f: () => void) => (turned = f),
		removeEventListener: () => (turned = () => {})
	});
});
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});

describe('the line by which a page hears of other devices', () => {
	it('tells at once, looks by itself while it is cut, and not while it stands', () => {
		const news = vi.fn();
		const stop = followBench('p1', news);
		expect(Line.made.map((l) => l.address)).toEqual(['/api/bench-stream?piece=p1']);
		vi.advanceTimersByTime(5000);
		expect(news).toHaveBeenCalledTimes(1);
		Line.made[0].readyState = 1;
		vi.advanceTimersByTime(20_000);
		expect(news).toHaveBeenCalledTimes(1);
		Line.made[0].onmessage!();
		expect(news).toHaveBeenCalledTimes(2);
		Line.made[0].onerror!();
		expect(news).toHaveBeenCalledTimes(3);
		stop();
		vi.advanceTimersByTime(20_000);
		expect([news.mock.calls.length, Line.made[0].readyState]).toEqual([3, 2]);
	});
	it('looks once the line is made: a tap may have come after the page was written and before it listened', () => {
		const news = vi.fn();
		const stop = followBench('p1', news);
		Line.made[0].readyState = 1;
		Line.made[0].onopen!();
		expect(news).toHaveBeenCalledTimes(1);
		stop();
	});
	it('out of sight it lets go and asks nothing; back in sight it looks at once and follows again', () => {
		const news = vi.fn();
		const stop = followBench(undefined, news);
		visibility = 'hidden';
		turned();
		vi.advanceTimersByTime(60_000);
		expect([Line.made.length, Line.made[0].readyState, news.mock.calls.length]).toEqual([1, 2, 0]);
		visibility = 'visible';
		turned();
		expect([Line.made.length, Line.made[1].address, news.mock.calls.length]).toEqual([2, '/api/bench-stream', 1]);
		stop();
	});
});
