/** Chart.js, loaded only where a chart is shown, with this program's letters and lines. */
import type { Chart, ChartConfiguration, ChartOptions } from 'chart.js';

const INK = '#4d5963';

/** An axis: its title, how many marks, and whether lines run across. */
export const axis = (title: string | undefined, ticks: number, lines: boolean) => ({
	title: title ? { display: true, text: title, color: INK } : undefined,
	ticks: { color: INK, maxTicksLimit: ticks },
	grid: lines ? { color: '#eceff1' } : { display: false }
});

/** @returns undefined when the page has moved on before it was loaded */
export async function newChart(
	canvas: () => HTMLCanvasElement | undefined,
	type: 'line' | 'scatter' | 'bar',
	options: ChartOptions
): Promise<Chart | undefined> {
	const { Chart, BarController, LineController, ScatterController, BarElement, LineElement, PointElement, LinearScale, CategoryScale, Tooltip } =
		await import('chart.js');
	const on = canvas();
	if (!on) return undefined;
	Chart.register(BarController, LineController, ScatterController, BarElement, LineElement, PointElement, LinearScale, CategoryScale, Tooltip);
	Chart.defaults.font.family = "'IBM Plex Sans', sans-serif";
	const config = {
		type,
		data: { datasets: [] },
		options: { animation: false, maintainAspectRatio: false, ...options, plugins: { legend: { display: false } } }
	} as unknown as ChartConfiguration;
	return new Chart(on, config) as unknown as Chart;
}
