import { describe, expect, it, vi } from 'vitest';
import { freshPage } from '$lib/desk/testing';
import { DeviceWatch } from './devices.svelte';

const at = freshPage();
const turn = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
const devices = [
	{ id: 's', kind: 'arc', name: 'Source', isSimulated: true },
	{ id: 'f', kind: 'switch', name: 'Pedal', isSimulated: false }
];
let seq = 0;
const heard = (...readings: [device: string, reading: object][]) => {
	const sent = readings.map(([deviceId, reading]) => ({
		seq: ++seq,
		deviceId,
		reading: { id: `r${seq}`, at: new Date().toISOString(), ...reading }
	}));
	at.server.answer(200, { devices, readings: sent, last: seq });
};
/** an arc of eight seconds by the source's own clock, sent in one go */
const arc = (): [string, object][] => [
	['s', { arc: 'on', at: new Date(Date.now() - 8000).toISOString() }],
	['s', { arc: 'off', at: new Date(Date.now()).toISOString() }]
];

describe('what devices send, as the bench page hears it', () => {
	it('an arc that goes out and a press that comes while the page is looked at are told, each once', async () => {
		const ears = { onarc: vi.fn(), onmissed: vi.fn(), onpress: vi.fn() };
		const w = new DeviceWatch('p1', 0, ears);
		heard();
		const end = w.begin();
		await turn();
		heard(...arc(), ['f', { pressed: true }]);
		await turn(1000);
		expect(ears.onarc).toHaveBeenCalledOnce();
		expect(ears.onarc.mock.calls[0][0]).toMatchObject({ arcS: 8 });
		expect(ears.onpress).toHaveBeenCalledOnce();
		heard();
		await turn(1000);
		expect(at.server.calls.map((c) => c.path.split('after=')[1])).toEqual(['0', '0', String(seq)]);
		expect([ears.onarc.mock.calls.length, ears.onpress.mock.calls.length, ears.onmissed.mock.calls.length]).toEqual([1, 1, 0]);
		end();
	});
	it('what came while nobody looked belongs to no step in hand: arcs are counted, presses let go of', async () => {
		const ears = { onarc: vi.fn(), onmissed: vi.fn(), onpress: vi.fn() };
		const w = new DeviceWatch('p1', seq, ears);
		heard();
		const end = w.begin();
		await turn();
		let isHidden = true;
		vi.stubGlobal('document', {
			get visibilityState() {
				return isHidden ? 'hidden' : 'visible';
			}
		});
		await turn(60_000);
		isHidden = false;
		heard(...arc(), ...arc(), ['f', { pressed: true }]);
		await turn(1000);
		expect(ears.onmissed.mock.calls).toEqual([[2, devices[0]]]);
		expect([ears.onarc.mock.calls.length, ears.onpress.mock.calls.length]).toEqual([0, 0]);
		// the next one is in hand again
		heard(...arc());
		await turn(1000);
		expect(ears.onarc).toHaveBeenCalledOnce();
		end();
	});
});
