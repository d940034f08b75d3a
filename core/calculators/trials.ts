/** Small trials: whether one way is better than another, and how many pieces it takes to see it. */
import { apart, eachToSee, inPairs, sampleOf } from '../trials/compare';
import type { CalcField, CalcLine, Calculator } from './calculator';

const readings = (id: string, label: string, start: readonly number[]): CalcField => ({ id, label, kind: 'list', min: -1e6, max: 1e6, start });
const percent = (label: string, share: number): CalcLine => ({ label, value: 100 * share, kind: 'number', unit: '%', digits: share < 0.095 ? 1 : 0 });

/** One reading in a drawing. */
const dot = (x: number, y: number) => `M${x - 3} ${y}a3 3 0 1 0 6 0a3 3 0 1 0 -6 0`;

export const TRIALS: readonly Calculator[] = [
	{
		id: 'two-ways',
		title: 'Is one way better?',
		use: 'Some pieces done one way and some another: is the difference more than chance?',
		fields: [
			readings('first', 'Done the first way', [3.1, 2.8, 3.4, 3.0]),
			readings('second', 'Done the second way', [2.3, 2.6, 2.1, 2.4]),
			{
				id: 'how',
				label: 'What they are',
				kind: 'choice',
				options: [
					{ value: 'apart', name: 'Separate pieces' },
					{ value: 'pairs', name: 'Pairs, in order' }
				],
				start: 'apart'
			}
		],
		work(v) {
			const [first, second] = [v.list('first'), v.list('second')];
			const c = v.choice('how') === 'pairs' ? inPairs(first, second) : apart(sampleOf(first), sampleOf(second));
			return [
				{ label: 'First less second, on average', value: c.difference, kind: 'number', digits: 3, isMain: true },
				{ label: 'At the least, at 90 %', value: c.low, kind: 'number', digits: 3 },
				{ label: 'At the most, at 90 %', value: c.high, kind: 'number', digits: 3 },
				percent('Trials in which chance alone shows as much', c.chance)
			];
		},
		formula: 'difference ± t √(s²/n + s²/n), each way its own s;  in pairs: mean of the differences ± t s / √n',
		source: 'Welch 1947, Satterthwaite 1946; in pairs Student 1908',
		note: 'A band that holds 0 has shown nothing yet, and below 10 % it is more than chance. Change one thing only, and draw lots for which piece is done which way: a day that gets warmer counts for the way that came last.',
		drawing: {
			strokes: [
				{ d: 'M20 100H220', as: 'light' },
				{ d: [32, 41, 47, 60].map((y) => dot(64, y)).join(''), as: 'part' },
				{ d: [66, 75, 81, 90].map((y) => dot(160, y)).join(''), as: 'mark' },
				{ d: 'M76 45H122M148 78H102M112 45V78M107 73L112 78L117 73', as: 'light' }
			],
			words: [
				{ x: 44, y: 114, text: 'first' },
				{ x: 140, y: 114, text: 'second' }
			]
		}
	},
	{
		id: 'how-many',
		title: 'How many pieces for a trial',
		use: 'So much of a difference would matter: how many of each way show it?',
		fields: [
			{ id: 'difference', label: 'Difference that matters', kind: 'number', min: 1e-4, max: 1e6, start: 0.5 },
			{ id: 'scatter', label: 'Scatter of one piece, in the same unit', kind: 'number', min: 1e-4, max: 1e6, start: 0.3 },
			{ id: 'seen', label: 'Seen where it is there', kind: 'number', unit: '%', min: 50, max: 99, start: 80 }
		],
		work(v) {
			const each = eachToSee(v.number('difference'), v.number('scatter'), undefined, v.number('seen') / 100);
			return [
				{ label: 'Of each way', value: each, kind: 'number', digits: 0, isMain: true },
				{ label: 'In all', value: 2 * each, kind: 'number', digits: 0 }
			];
		},
		formula: 'n = 2 (1.645 + z)² (scatter / difference)² + 0.68',
		source: 'Normal formula, with a quarter of z² as Guenther 1981 (from memory)',
		note: 'Scatter is what “Average and its scatter” gives for pieces done alike. Twice the difference takes a quarter of the pieces: make the effect large, by a longer seam or more reach, before making more of them.',
		drawing: {
			strokes: [
				{ d: 'M20 100H220', as: 'light' },
				{ d: 'M30 100C60 100 70 40 90 40S120 100 150 100', as: 'part' },
				{ d: 'M90 100C120 100 130 40 150 40S180 100 210 100', as: 'mark' },
				{ d: 'M90 30H150M90 26V34M150 26V34', as: 'light' }
			],
			words: [{ x: 88, y: 20, text: 'difference' }]
		}
	}
];
