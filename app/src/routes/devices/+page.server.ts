import { DEVICE_KINDS } from '$core/document/words';
import { DEVICE } from '$core/devices/readings';
import { isSimulating } from '$lib/server/simulated';
import { piecesAtBench } from '$store/bench';
import { getDb } from '$store/database';
import { listDevices } from '$store/devices';

export const load = async () => {
	const db = getDb();
	return {
		kinds: DEVICE_KINDS.map((kind) => ({ kind, words: DEVICE[kind].words, does: DEVICE[kind].does })),
		devices: (await listDevices(db)).map((d) => ({ ...d, isRunning: isSimulating(d.id) })),
		pieces: (await piecesAtBench(db)).map((p) => ({ id: p.id, name: `${p.job}, ${p.serial}` }))
	};
};
