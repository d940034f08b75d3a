/** The server's word that a bench log grew. A page out of sight lets go of its line: a browser has six of them for all its tabs. */
const LOOK_MS = 5000;

/** @param piece only this one; all of them when absent. @param onnews told when it grew, when the line is made or cut, and every few seconds while it is. @returns how to stop */
export function followBench(piece: string | undefined, onnews: () => void): () => void {
	let stream: EventSource | undefined;
	const isSeen = () => typeof document === 'undefined' || document.visibilityState !== 'hidden';
	const open = () => {
		if (typeof EventSource === 'undefined' || stream) return;
		stream = new EventSource(`/api/bench-stream${piece ? `?piece=${piece}` : ''}`);
		stream.onmessage = onnews;
		// what was added between the page's own data and this line is in neither
		stream.onopen = onnews;
		// cut, or never there: looked at once, not after the next few seconds
		stream.onerror = onnews;
	};
	const close = () => {
		stream?.close();
		stream = undefined;
	};
	const turned = () => {
		if (!isSeen()) return close();
		open();
		onnews();
	};
	const timer = setInterval(() => {
		if (isSeen() && stream?.readyState !== 1) onnews();
	}, LOOK_MS);
	if (typeof document !== 'undefined') document.addEventListener('visibilitychange', turned);
	if (isSeen()) open();
	return () => {
		clearInterval(timer);
		close();
		if (typeof document !== 'undefined') document.removeEventListener('visibilitychange', turned);
	};
}
