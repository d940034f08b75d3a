/** Heat, gas, bends and weight: what is worked out before a job is begun. */
import { bendDeduction, dinFactor } from '../families/blank';
import { arcEnergy, meanCurrent } from '../heat/arcEnergy';
import { massFor } from '../heat/chillBlock';
import { BLOCK_METALS, findMaterial, GRADES } from '../materials/grades';
import { sweep } from '../weldout/purge';
import type { CalcField, Calculator } from './calculator';

const amps = (id: string, label: string, start: number): CalcField => ({ id, label, kind: 'number', unit: 'A', min: 1, max: 600, start });
const TORCH = [
	{ d: 'M20 90H220', as: 'part' },
	{ d: 'M120 20L128 84L136 20', as: 'light' },
	{ d: 'M128 84V90', as: 'mark' }
] as const;

export const SHOP: readonly Calculator[] = [
	{
		id: 'heat-input',
		title: 'Heat input',
		use: 'Current, volts and speed: how much heat goes into each millimetre of seam?',
		fields: [
			{
				id: 'process',
				label: 'Process',
				kind: 'choice',
				options: [
					{ value: 'TIG', name: 'TIG (k 0.6)' },
					{ value: 'MIG', name: 'MIG (k 0.8)' },
					{ value: 'MMA', name: 'MMA (k 0.8)' }
				],
				start: 'TIG'
			},
			amps('amps', 'Mean current', 100),
			{ id: 'volts', label: 'Arc volts', kind: 'number', unit: 'V', min: 5, max: 60, start: 12 },
			{ id: 'speed', label: 'Travel speed', kind: 'number', unit: 'mm/s', min: 0.1, max: 60, start: 2 }
		],
		work(v) {
			const e = arcEnergy({
				id: 'c',
				name: 'c',
				process: v.choice('process') as 'TIG',
				current: 'steady',
				ampsA: v.number('amps'),
				volts: v.number('volts'),
				speedMmPerS: v.number('speed'),
				gas: 'argon',
				gasLPerMin: 8
			});
			return [
				{ label: 'Heat input', value: e.netHeat, kind: 'number', unit: 'J/mm', digits: 0, isMain: true },
				{ label: 'Arc energy, before the arc’s own loss', value: e.arcEnergy, kind: 'number', unit: 'J/mm', digits: 0 }
			];
		},
		formula: 'heat input = k x volts x amps / speed',
		source: 'EN 1011-1:2009, clause 19',
		drawing: {
			strokes: TORCH,
			words: [
				{ x: 142, y: 60, text: 'volts, amps' },
				{ x: 60, y: 108, text: 'speed' }
			]
		}
	},
	{
		id: 'pulse',
		title: 'Mean of a pulsed current',
		use: 'Peak, background and the share of time at the peak: what is the current on average?',
		fields: [
			amps('peak', 'Peak', 50),
			amps('background', 'Background', 36),
			{ id: 'share', label: 'Time at the peak', kind: 'number', unit: '%', min: 1, max: 99, start: 50 }
		],
		work: (v) => [
			{
				label: 'Mean current',
				value: meanCurrent({
					current: 'pulsed',
					ampsA: v.number('peak'),
					backgroundA: v.number('background'),
					onFraction: v.number('share') / 100
				}),
				kind: 'number',
				unit: 'A',
				digits: 1,
				isMain: true
			}
		],
		formula: 'mean = peak x share + background x (1 - share)',
		source: 'Time mean; the frequency does not come into it',
		drawing: {
			strokes: [
				{ d: 'M20 90H50V30H90V90H120V30H160V90H190V30H220', as: 'part' },
				{ d: 'M20 60H220', as: 'mark' }
			],
			words: [
				{ x: 54, y: 24, text: 'peak' },
				{ x: 92, y: 106, text: 'background' }
			]
		}
	},
	{
		id: 'chill-block',
		title: 'Chill block',
		use: 'A block takes a share of a run’s heat and may grow so much warmer: how heavy must it be?',
		fields: [
			{ id: 'heat', label: 'Heat input', kind: 'number', unit: 'J/mm', min: 1, max: 5000, start: 160 },
			{ id: 'length', label: 'Length of the run', kind: 'length', min: 1, max: 5000, start: 200 },
			{ id: 'share', label: 'Share that the block takes', kind: 'number', unit: '%', min: 1, max: 100, start: 50 },
			{ id: 'rise', label: 'May grow warmer by', kind: 'number', unit: 'K', min: 1, max: 500, start: 40 },
			{ id: 'metal', label: 'Metal', kind: 'choice', options: BLOCK_METALS.map((m) => ({ value: m.id, name: m.name })), start: 'copper' }
		],
		work(v) {
			const heat = (v.number('heat') * v.number('length') * v.number('share')) / 100;
			const metal = BLOCK_METALS.find((m) => m.id === v.choice('metal'))!;
			// kg; volume from heat capacity by volume
			const volume = heat / (metal.rhoC * v.number('rise'));
			return [
				{ label: 'Mass', value: massFor(heat, v.number('rise'), metal.specificHeat), kind: 'number', unit: 'kg', digits: 2, isMain: true },
				{ label: 'As a bar along the run, section', value: volume / v.number('length'), kind: 'number', unit: 'mm²', digits: 0 },
				{ label: 'Heat it takes', value: heat / 1000, kind: 'number', unit: 'kJ', digits: 1 }
			];
		},
		formula: 'mass = heat / (specific heat x rise)',
		source: 'Heat balance of a lump of even temperature',
		note: 'It must touch along the whole seam; between runs it gives its heat away slowly.',
		drawing: {
			strokes: [
				{ d: 'M20 60H220', as: 'part' },
				{ d: 'M80 62H160V100H80Z', as: 'mark' }
			],
			words: [{ x: 98, y: 86, text: 'block' }]
		}
	},
	{
		id: 'purge',
		title: 'Purge time',
		use: 'A closed space is swept with argon: how long before the arc?',
		fields: [
			{ id: 'volume', label: 'Space closed in', kind: 'number', unit: 'L', min: 0.01, max: 10_000, start: 6 },
			{ id: 'flow', label: 'Flow', kind: 'number', unit: 'L/min', min: 0.1, max: 200, start: 8 },
			{ id: 'wanted', label: 'Oxygen that may be left', kind: 'number', unit: 'ppm', min: 1, max: 100_000, start: 100 },
			{ id: 'vent', label: 'Bore of the vent', kind: 'length', min: 1, max: 500, start: 10 }
		],
		work(v) {
			const s = sweep(v.number('volume'), v.number('flow'), v.number('vent'), v.number('wanted'));
			return [
				{ label: 'Sweep for', value: s.mixedMin, kind: 'number', unit: 'min', digits: 1, isMain: true },
				{ label: 'At the very least, where argon fills from below', value: s.displacedMin, kind: 'number', unit: 'min', digits: 1 },
				{ label: 'Argon', value: s.argonL, kind: 'number', unit: 'L', digits: 0 },
				{ label: 'Speed in the vent (above 3 m/s the space builds up pressure)', value: s.ventSpeed!, kind: 'number', unit: 'm/s' }
			];
		},
		formula: 'time = (volume / flow) ln(209,500 ppm / wanted)',
		source: 'Dilution of a well-mixed space; 100 ppm is common practice, no source',
		note: 'Argon displaces air and cannot be smelled: never put head or body into a purged space. Read the oxygen with a meter where the root matters.',
		drawing: {
			strokes: [
				{ d: 'M50 30H190V100H50Z', as: 'part' },
				{ d: 'M20 90H60', as: 'mark' },
				{ d: 'M150 34V14', as: 'light' }
			],
			words: [
				{ x: 8, y: 84, text: 'in' },
				{ x: 158, y: 20, text: 'vent' }
			]
		}
	},
	{
		id: 'bend',
		title: 'Bend allowance',
		use: 'A fold of an angle and radius: how much sheet does it take, and what comes off the two legs measured to the sharp corner?',
		fields: [
			{ id: 'thickness', label: 'Thickness', kind: 'length', min: 0.1, max: 25, start: 1.5 },
			{ id: 'radius', label: 'Inside radius', kind: 'length', min: 0.05, max: 500, start: 2 },
			{ id: 'angle', label: 'Bent by', kind: 'number', unit: '°', min: 1, max: 170, start: 90 },
			{
				id: 'rule',
				label: 'Neutral line',
				kind: 'choice',
				options: [
					{ value: 'din', name: 'by DIN 6935' },
					{ value: '0.33', name: 'K 0.33' },
					{ value: '0.42', name: 'K 0.42' },
					{ value: '0.5', name: 'K 0.5, the middle' }
				],
				start: '0.42'
			}
		],
		work(v) {
			const [thickness, radius, angle] = ['thickness', 'radius', 'angle'].map((id) => v.number(id));
			const k = v.choice('rule') === 'din' ? dinFactor(radius, thickness) : Number(v.choice('rule'));
			const allowance = (Math.PI / 180) * angle * (radius + k * thickness);
			const setback = (radius + thickness) * Math.tan((Math.PI / 360) * angle);
			return [
				{ label: 'Sheet in the bend (allowance)', value: allowance, kind: 'length', isMain: true },
				{ label: 'Off the two outside legs (deduction)', value: 2 * setback - allowance, kind: 'length' },
				{
					label: 'Off the two legs to the middle of the sheet',
					value: bendDeduction({ angleDeg: angle, insideRadiusMm: radius }, thickness, k),
					kind: 'length'
				},
				{ label: 'K', value: k, kind: 'number', digits: 3 }
			];
		},
		formula: 'allowance = angle x (radius + K thickness);  deduction = 2 (radius + thickness) tan(angle / 2) - allowance',
		source: 'Arc of the neutral line; DIN 6935 from memory',
		note: 'Bend a strip of the same sheet with the same tools and measure it: the tool decides the radius.',
		drawing: {
			strokes: [
				{ d: 'M30 100H140Q170 100 170 70V10', as: 'part' },
				{ d: 'M30 84H140Q154 84 154 70V10', as: 'part' },
				{ d: 'M30 92H140Q162 92 162 70V10', as: 'mark' }
			],
			words: [{ x: 120, y: 74, text: 'radius' }]
		}
	},
	{
		id: 'weight',
		title: 'Weight of a sheet',
		use: 'Length, width and thickness: what does it weigh?',
		fields: [
			{ id: 'length', label: 'Length', kind: 'length', min: 1, max: 20_000, start: 1000 },
			{ id: 'width', label: 'Width', kind: 'length', min: 1, max: 20_000, start: 500 },
			{ id: 'thickness', label: 'Thickness', kind: 'length', min: 0.1, max: 50, start: 1.5 },
			{ id: 'metal', label: 'Metal', kind: 'choice', options: GRADES.map((g) => ({ value: g.id, name: g.name })), start: '1.4301' },
			{ id: 'count', label: 'How many', kind: 'number', min: 1, max: 10_000, start: 1 }
		],
		work(v) {
			const { density } = findMaterial(v.choice('metal'));
			const one = v.number('length') * v.number('width') * v.number('thickness') * 1e-9 * density;
			return [
				{ label: 'One weighs', value: one, kind: 'number', unit: 'kg', isMain: true },
				{ label: 'All together', value: one * v.number('count'), kind: 'number', unit: 'kg' }
			];
		},
		formula: 'weight = length x width x thickness x density',
		source: 'Density of the grade, as in the library',
		drawing: {
			strokes: [
				{ d: 'M40 90L90 40H210L160 90Z', as: 'part' },
				{ d: 'M40 90V96L160 96V90M160 96L210 46V40', as: 'light' }
			],
			words: [
				{ x: 90, y: 112, text: 'length' },
				{ x: 194, y: 76, text: 'width' }
			]
		}
	}
];
