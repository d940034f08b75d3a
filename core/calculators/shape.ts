/** Out of straight, out of square, out of line: what a quick reading says of a length or an angle. */
import { Refusal } from '../refusal/refusal';
import type { Calculator } from './calculator';

const RAD = Math.PI / 180;
const deg = (rad: number) => rad / RAD;

const CORNER = [
	{ d: 'M20 105H220', as: 'part' },
	{ d: 'M40 105L60 15', as: 'part' }
] as const;

export const SHAPE: readonly Calculator[] = [
	{
		id: 'bow',
		title: 'Straightedge and gap',
		use: 'A straightedge rests on two high spots and there is a gap in the middle: how round is that, and what is it over a metre?',
		fields: [
			{ id: 'span', label: 'Between the high spots', kind: 'length', min: 1, max: 20_000, start: 1000 },
			{ id: 'gap', label: 'Gap in the middle', kind: 'length', min: 0.001, max: 5000, start: 2 }
		],
		work(v) {
			const [span, gap] = [v.number('span'), v.number('gap')];
			if (gap > span / 2) throw new Refusal('A gap of more than half the span is no bow: no circle rests on those two spots');
			const radius = span ** 2 / (8 * gap) + gap / 2;
			const metre = radius >= 500 ? radius - Math.sqrt(radius ** 2 - 500 ** 2) : undefined;
			return [
				{ label: 'Radius of the bow', value: radius, kind: 'length', digits: 0, isMain: true },
				...(metre === undefined ? [] : [{ label: 'Gap over one metre of the same bow', value: metre, kind: 'length' } as const]),
				{ label: 'Slope at the ends', value: deg(Math.asin(span / 2 / radius)), kind: 'number', unit: '°' }
			];
		},
		formula: 'radius = span² / (8 gap) + gap / 2',
		source: 'Geometry of the circle (sagitta of a chord)',
		drawing: {
			strokes: [
				{ d: 'M20 80Q120 10 220 80', as: 'part' },
				{ d: 'M20 80H220', as: 'light' },
				{ d: 'M120 80V46', as: 'mark' }
			],
			words: [
				{ x: 126, y: 66, text: 'gap' },
				{ x: 104, y: 98, text: 'span' }
			]
		}
	},
	{
		id: 'square-gap',
		title: 'Square and gap',
		use: 'A square stands in the corner and there is a gap at the end of its leg: how many degrees is that?',
		fields: [
			{ id: 'reach', label: 'From the corner to the gap', kind: 'length', min: 1, max: 5000, start: 100 },
			{ id: 'gap', label: 'Gap', kind: 'length', min: 0, max: 5000, start: 1.5 }
		],
		work(v) {
			const [reach, gap] = [v.number('reach'), v.number('gap')];
			return [
				{ label: 'Off square', value: deg(Math.atan2(gap, reach)), kind: 'number', unit: '°', isMain: true },
				{ label: 'One degree is, at this reach', value: reach * Math.tan(RAD), kind: 'length' }
			];
		},
		formula: 'angle = atan(gap / reach)',
		source: 'Right-angled triangle',
		drawing: {
			strokes: [...CORNER, { d: 'M40 105V15', as: 'light' }, { d: 'M40 15H60', as: 'mark' }],
			words: [
				{ x: 64, y: 20, text: 'gap' },
				{ x: 4, y: 64, text: 'reach' }
			]
		}
	},
	{
		id: 'shim',
		title: 'Angle to shim',
		use: 'A joint is to be set over by so many degrees: what shim or gap is that at the reach you have?',
		fields: [
			{ id: 'angle', label: 'Angle', kind: 'number', unit: '°', min: 0, max: 60, start: 2 },
			{ id: 'reach', label: 'Reach', kind: 'length', min: 1, max: 5000, start: 100 }
		],
		work: (v) => [{ label: 'Shim or gap', value: v.number('reach') * Math.tan(v.number('angle') * RAD), kind: 'length', isMain: true }],
		formula: 'shim = reach tan(angle)',
		source: 'Right-angled triangle',
		drawing: {
			strokes: [...CORNER, { d: 'M40 105V15', as: 'light' }, { d: 'M40 15H60', as: 'mark' }],
			words: [
				{ x: 64, y: 20, text: 'shim' },
				{ x: 4, y: 64, text: 'reach' },
				{ x: 46, y: 76, text: 'angle' }
			]
		}
	},
	{
		id: 'diagonals',
		title: 'Diagonals to shear',
		use: 'Two diagonals of a rectangle differ: how far is it out of square, and which way is it pushed over?',
		fields: [
			{ id: 'a', label: 'Long side', kind: 'length', min: 1, max: 20_000, start: 400 },
			{ id: 'b', label: 'Short side', kind: 'length', min: 1, max: 20_000, start: 300 },
			{ id: 'd1', label: 'Diagonal 1', kind: 'length', min: 1, max: 30_000, start: 501 },
			{ id: 'd2', label: 'Diagonal 2', kind: 'length', min: 1, max: 30_000, start: 499 }
		],
		work(v) {
			const [a, b, d1, d2] = ['a', 'b', 'd1', 'd2'].map((id) => v.number(id));
			const sine = (d1 ** 2 - d2 ** 2) / (4 * a * b);
			if (Math.abs(sine) >= 1) throw new Refusal('No four-sided frame of these sides has such diagonals: read them again');
			// of a parallelogram the squares of the diagonals add up to twice those of the sides
			const fits = Math.sqrt((d1 ** 2 + d2 ** 2) / 2) - Math.hypot(a, b);
			return [
				{ label: 'Diagonals differ by', value: d1 - d2, kind: 'length' },
				{ label: 'Off square', value: deg(Math.asin(sine)), kind: 'number', unit: '°', isMain: true },
				{ label: 'One long side is pushed along the other by', value: b * sine, kind: 'length' },
				{ label: 'Diagonals and sides disagree by', value: fits, kind: 'length' }
			];
		},
		formula: 'sin(angle) = (d1² - d2²) / (4 long short)',
		source: 'Law of cosines in a parallelogram',
		note: 'Half of the difference of the diagonals is what one corner must travel along its diagonal. Where diagonals and sides disagree by more than your tape reads, a side is not what you think it is.',
		drawing: {
			strokes: [
				{ d: 'M30 100H190L214 20H54Z', as: 'part' },
				{ d: 'M30 100L214 20', as: 'mark' },
				{ d: 'M190 100L54 20', as: 'light' }
			],
			words: [
				{ x: 150, y: 44, text: '1' },
				{ x: 78, y: 50, text: '2' },
				{ x: 100, y: 116, text: 'long' },
				{ x: 208, y: 68, text: 'short' }
			]
		}
	},
	{
		id: 'laser-spot',
		title: 'Laser spot to angle',
		use: 'A laser fixed to the piece throws a spot on the wall, marked before and after a weld: how far did the piece turn?',
		fields: [
			{ id: 'distance', label: 'From the piece to the wall', kind: 'length', min: 1, max: 20_000, start: 3000 },
			{ id: 'right', label: 'Spot moved to the right', kind: 'length', min: -20_000, max: 20_000, start: 12 },
			{ id: 'up', label: 'Spot moved up', kind: 'length', min: -20_000, max: 20_000, start: -5 }
		],
		work(v) {
			const [distance, right, up] = ['distance', 'right', 'up'].map((id) => v.number(id));
			return [
				{ label: 'Turned to the right (yaw)', value: deg(Math.atan2(right, distance)), kind: 'number', unit: '°' },
				{ label: 'Tilted up (pitch)', value: deg(Math.atan2(up, distance)), kind: 'number', unit: '°' },
				{ label: 'Together', value: deg(Math.atan2(Math.hypot(right, up), distance)), kind: 'number', unit: '°', digits: 3, isMain: true },
				{ label: 'A spot 1 mm further is', value: deg(Math.atan2(1, distance)), kind: 'number', unit: '°', digits: 3 }
			];
		},
		formula: 'angle = atan(move / distance)',
		source: 'Right-angled triangle; the spot began square to the wall',
		note: 'A laser can hurt eyes: class 2 or less, above or below where anybody looks.',
		drawing: {
			strokes: [
				{ d: 'M20 70H50V90H20Z', as: 'part' },
				{ d: 'M210 10V110', as: 'part' },
				{ d: 'M50 80H210', as: 'light' },
				{ d: 'M50 80L210 36', as: 'mark' }
			],
			words: [
				{ x: 110, y: 94, text: 'distance' },
				{ x: 214, y: 62, text: 'move' }
			]
		}
	},
	{
		id: 'preset',
		title: 'Preset from a practice piece',
		use: 'A practice piece pulled by so much at a reach: what must the real joint be set over, the other way, at its own reach?',
		fields: [
			{ id: 'pulled', label: 'Practice piece pulled by', kind: 'length', min: 0, max: 1000, start: 3 },
			{ id: 'reach', label: 'At a reach of', kind: 'length', min: 1, max: 5000, start: 100 },
			{ id: 'own', label: 'Reach of the real joint', kind: 'length', min: 1, max: 5000, start: 60 }
		],
		work(v) {
			const angle = Math.atan2(v.number('pulled'), v.number('reach'));
			return [
				{ label: 'It pulled', value: deg(angle), kind: 'number', unit: '°' },
				{ label: 'Set it over by, at its reach', value: v.number('own') * Math.tan(angle), kind: 'length', isMain: true }
			];
		},
		formula: 'set over = own reach x pulled / reach',
		source: 'Right-angled triangle; same metal, thickness, settings and length of seam as the practice piece (common practice, no source)',
		drawing: {
			strokes: [...CORNER, { d: 'M40 105V15', as: 'light' }, { d: 'M40 105L20 15', as: 'mark' }],
			words: [
				{ x: 64, y: 20, text: 'pulled' },
				{ x: 2, y: 12, text: 'set' }
			]
		}
	}
];
