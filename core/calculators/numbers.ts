/** Arithmetic that goes wrong by hand: shares, means, fractions and gauges. */
import { gaugeToMm, type GaugeTable } from '../units/gauge';
import { MM_PER_INCH } from '../units/length';
import { sampleOf } from '../trials/compare';
import type { CalcLine, Calculator } from './calculator';

const bars = (first: number, second: number, words: readonly [string, string]) => ({
	strokes: [
		{ d: `M40 100V${100 - first}H90V100Z`, as: 'part' },
		{ d: `M140 100V${100 - second}H190V100Z`, as: 'mark' },
		{ d: 'M20 100H220', as: 'light' }
	] as const,
	words: [
		{ x: 44, y: 114, text: words[0] },
		{ x: 144, y: 114, text: words[1] }
	]
});

const GAUGES = [10, 12, 14, 16, 18, 20, 22, 24];
const nearestGauge = (mm: number, table: GaugeTable): number =>
	GAUGES.reduce((best, g) => (Math.abs(gaugeToMm(g, table)! - mm) < Math.abs(gaugeToMm(best, table)! - mm) ? g : best));

export const NUMBERS: readonly Calculator[] = [
	{
		id: 'change',
		title: 'How much less, in percent',
		use: 'It was so much before and is so much now: by what share did it change?',
		fields: [
			{ id: 'before', label: 'Before', kind: 'length', min: 0.0001, max: 20_000, start: 9.525 },
			{ id: 'after', label: 'After', kind: 'length', min: 0, max: 20_000, start: 6.35 }
		],
		work(v) {
			const [before, after] = [v.number('before'), v.number('after')];
			return [
				{ label: 'Change', value: (100 * (after - before)) / before, kind: 'number', unit: '%', digits: 1, isMain: true },
				{ label: 'What is left of what it was', value: (100 * after) / before, kind: 'number', unit: '%', digits: 1 }
			];
		},
		formula: 'change = (after - before) / before',
		source: 'Arithmetic',
		note: 'The share is of what it was, not of what it is: from 3/8 to 1/4 in is one third less, not a half.',
		drawing: bars(81, 54, ['before', 'after'])
	},
	{
		id: 'average',
		title: 'Average and its scatter',
		use: 'The same thing read several times: what is it, and how well is that known?',
		fields: [{ id: 'readings', label: 'Readings, with blanks between', kind: 'list', min: -1e6, max: 1e6, start: [0.8, 1.1, 0.9, 1.0] }],
		work(v) {
			const r = v.list('readings');
			const { mean, scatter } = sampleOf(r);
			return [
				{ label: 'Average', value: mean, kind: 'number', digits: 3, isMain: true },
				{ label: 'From the least to the most', value: Math.max(...r) - Math.min(...r), kind: 'number', digits: 3 },
				{ label: 'Scatter of one reading (standard deviation)', value: scatter, kind: 'number', digits: 3 },
				{ label: 'Standard uncertainty of the average', value: scatter / Math.sqrt(r.length), kind: 'number', digits: 3 }
			];
		},
		formula: 's² = sum of (reading - average)² / (n - 1);  u = s / √n',
		source: 'JCGM 100:2008 (GUM), 4.2',
		note: 'Ten readings with a bad tape are ten bad readings: what the instrument itself may be wrong by is not in it.',
		drawing: bars(60, 64, ['readings', 'average'])
	},
	{
		id: 'length',
		title: 'Fractions, thou, gauge and millimetres',
		use: 'A length in one way of writing, in all the others.',
		fields: [{ id: 'length', label: 'Length: 3/8 in, 60 thou, 16 ga, 1.5 mm', kind: 'length', min: 0, max: 20_000, start: 1.588 }],
		work(v): CalcLine[] {
			const mm = v.number('length');
			const inch = mm / MM_PER_INCH;
			const as = (label: string, value: number, unit: string, digits: number, isMain = false): CalcLine => ({
				label,
				value,
				kind: 'number',
				unit,
				digits,
				...(isMain ? { isMain } : {})
			});
			return [
				as('Millimetres', mm, 'mm', 3, true),
				as('Inches', inch, 'in', 4),
				as('Thou', 1000 * inch, 'thou', 1),
				as('Sixteenths, the nearest', Math.round(16 * inch), '/16 in', 0),
				as('Sixty-fourths, the nearest', Math.round(64 * inch), '/64 in', 0),
				...(['stainless', 'carbon-steel', 'aluminium'] as const).map((t) =>
					as(`Nearest gauge of ${t.replace('-', ' ')}`, nearestGauge(mm, t), `ga (${gaugeToMm(nearestGauge(mm, t), t)} mm)`, 0)
				)
			];
		},
		formula: '1 in = 25.4 mm; a gauge is another thickness in each metal',
		source: 'International inch (1959); gauge tables from memory of the published ones',
		drawing: {
			strokes: [
				{ d: 'M20 40H220V80H20Z', as: 'part' },
				{ d: 'M40 40V56M60 40V50M80 40V56M100 40V50M120 40V62M140 40V50M160 40V56M180 40V50M200 40V56', as: 'mark' }
			],
			words: []
		}
	}
];
