/** Forecast and reading of a feature on the scale of its limits, as a small drawing for paper: told by shape, not by colour. */
const [W, H] = [96, 16];
/** What lies further out than this many times the limits is drawn at the edge, with an arrow. */
const MOST = 1.6;

interface Limits {
	upper: number;
	lower?: number;
}
interface Band {
	predicted: number;
	low: number;
	high: number;
}

export function limitMark({ upper, lower }: Limits, forecast?: Band, read?: { value: number; uncertainty90: number }): string {
	// a form error begins at nothing
	const [from, to] = [lower ?? 0, upper];
	const [middle, half] = [(from + to) / 2, Math.max((to - from) / 2, 1e-9)];
	const share = (v: number) => Math.max(-MOST, Math.min(MOST, (v - middle) / half));
	const x = (v: number) => (W / 2) * (1 + share(v) / (MOST + 0.1));
	const at = (v: number) => x(v).toFixed(1);
	const parts = [
		`<rect x="${at(from)}" y="3" width="${(x(to) - x(from)).toFixed(1)}" height="10" fill="#eceff1"/>`,
		`<path d="M${at(from)} 1v14M${at(to)} 1v14" stroke="#000" stroke-width="0.8"/>`
	];
	if (forecast)
		parts.push(
			`<path d="M${at(forecast.low)} 5H${at(forecast.high)}" stroke="#2a5d86" stroke-width="3"/>`,
			`<path d="M${at(forecast.predicted)} 2v6" stroke="#2a5d86" stroke-width="1"/>`
		);
	if (read) {
		const beyond = Math.abs((read.value - middle) / half) > MOST;
		parts.push(`<path d="M${at(read.value - read.uncertainty90)} 11H${at(read.value + read.uncertainty90)}" stroke="#000" stroke-width="1"/>`);
		const c = x(read.value);
		const way = read.value > middle ? 1 : -1;
		parts.push(
			beyond
				? `<path d="M${(c - 4 * way).toFixed(1)} 8L${c.toFixed(1)} 11L${(c - 4 * way).toFixed(1)} 14Z" fill="#000"/>`
				: `<path d="M${c.toFixed(1)} 8l3 3l-3 3l-3 -3Z" fill="#000"/>`
		);
	}
	return `<svg width="${W}" height="${H}" viewBox="0 0 ${W} ${H}">${parts.join('')}</svg>`;
}
