/** A small drawing beside a word of the glossary, 72 x 44: shapes by what they are, so that all are drawn alike. */
export type Shape = readonly [is: 'sheet' | 'plate' | 'weld' | 'tool' | 'copper' | 'ink' | 'dash' | 'move', d: string];

/** Two sheets from above, edge to edge. */
const PAIR: Shape[] = [
	['sheet', 'M6 8h60v12H6z'],
	['sheet', 'M6 22h60v12H6z']
];
const right = (x: number, y: number) => `M${x - 4} ${y - 3}l4 3l-4 3`;
const left = (x: number, y: number) => `M${x + 4} ${y - 3}l-4 3l4 3`;
const down = (x: number, y: number) => `M${x - 3} ${y - 4}l3 4l3-4`;
const up = (x: number, y: number) => `M${x - 3} ${y + 4}l3-4l3 4`;

/** By the word as the glossary has it. */
export const DRAWINGS: Readonly<Record<string, readonly Shape[]>> = {
	piece: [
		['sheet', 'M8 16l20-8h36v18l-20 10H8z'],
		['ink', 'M8 16h36l20-8M44 16v20']
	],
	part: [
		['sheet', 'M22 6h28v8h14v16H50v8H22v-8H8V14h14z'],
		['dash', 'M22 14h28v16H22z']
	],
	'seam, joint': [...PAIR, ['weld', 'M6 19h60v4H6z']],
	'datum end, station': [
		['sheet', 'M6 14h60v12H6z'],
		['tool', 'M5 9h4v22H5z'],
		['ink', 'M18 26v-5M30 26v-5M42 26v-5M54 26v-5'],
		['move', `M9 37h33${right(42, 37)}`]
	],
	run: [...PAIR, ['weld', 'M16 19h30v4H16z'], ['move', `M16 39h30${right(46, 39)}`]],
	tack: [...PAIR, ['weld', 'M10 18h5v6h-5zM33 18h5v6h-5zM56 18h5v6h-5z']],
	'back-step': [
		...PAIR,
		['move', `M24 21H8${left(8, 21)}M44 21H28${left(28, 21)}M64 21H48${left(48, 21)}`],
		['dash', 'M8 40h56'],
		['ink', right(64, 40)]
	],
	'hold-down': [
		['ink', 'M4 36h64'],
		['sheet', 'M8 29h56v5H8z'],
		['tool', 'M32 12h8v16h-8z'],
		['ink', 'M36 12V6h22v30']
	],
	'bar, chill block': [
		['sheet', 'M6 12h29v6H6zM37 12h29v6H37z'],
		['weld', 'M33 11h6v7h-6z'],
		['copper', 'M16 19h40v14H16z'],
		['move', `M30 21v8${down(30, 30)}M42 21v8${down(42, 30)}`]
	],
	'preset, over-angle': [
		['dash', 'M6 28h60'],
		['plate', 'M8 16L36 28L64 16'],
		['move', `M14 34v-8${up(14, 25)}M58 34v-8${up(58, 25)}`]
	],
	register: [
		['sheet', 'M12 6h48v32H12z'],
		['ink', 'M18 14h24M18 22h30M18 30h18'],
		['tool', 'M50 12h4v4h-4zM50 20h4v4h-4zM50 28h4v4h-4z']
	],
	'step (of the assembly)': [
		['sheet', 'M8 30h56v6H8z'],
		['sheet', 'M30 4h12v14H30z'],
		['move', `M36 20v8${down(36, 28)}`]
	],
	'guard band': [
		['ink', 'M6 22h60M12 10v24M60 10v24'],
		['sheet', 'M20 17h32v10H20z'],
		['move', `M12 38h8${right(20, 38)}M60 38h-8${left(52, 38)}`]
	],
	posture: [
		['plate', 'M6 16h60'],
		['tool', 'M12 20l5 12H7zM36 20l5 12H31zM60 20l5 12H55z'],
		['ink', 'M2 33h68']
	],
	planishing: [
		['sheet', 'M6 24h60v5H6z'],
		['weld', 'M32 22h8v7h-8z'],
		['tool', 'M28 30h16v10H28zM28 10h16v8H28z'],
		['ink', 'M44 14h22'],
		['move', `M24 27H12${left(12, 27)}M48 27h12${right(60, 27)}`]
	],
	'winding sticks': [
		['sheet', 'M12 16l44-6l6 20l-44 6z'],
		['plate', 'M8 10L22 40M50 2L68 34']
	],
	sag: [
		['dash', 'M6 14h60'],
		['plate', 'M6 14Q36 36 66 14'],
		['tool', 'M6 17l5 12H1zM66 17l5 12H61z']
	],
	springback: [
		['dash', 'M6 30h60'],
		['plate', 'M6 30Q36 6 66 30'],
		['move', `M36 30V22${up(36, 21)}`]
	],
	'outside, inside, in doubt': [
		['ink', 'M44 3v38'],
		['sheet', 'M12 6h22v7H12zM32 18h24v7H32zM50 30h18v7H50z'],
		['tool', 'M22 5h2v9h-2zM43 17h2v9h-2zM58 29h2v9h-2z']
	],
	coupon: [
		['sheet', 'M20 6h32v14H20zM20 22h32v14H20z'],
		['weld', 'M20 19h32v4H20z'],
		['move', `M60 13v6${down(60, 20)}M60 29v-6${up(60, 22)}`]
	],
	'pull, tendon force': [...PAIR, ['weld', 'M6 19h60v4H6z'], ['move', `M6 21h12${right(18, 21)}M66 21H54${left(54, 21)}`]],
	'shrinkage, angular change': [
		['dash', 'M6 30h60'],
		['plate', 'M8 18L36 30L64 18'],
		['weld', 'M32 24h8l-2 6h-4z'],
		['move', `M6 38h14${right(20, 38)}M66 38H52${left(52, 38)}`]
	],
	'eigenstrain, zone': [
		['sheet', 'M6 6h60v32H6z'],
		['weld', 'M6 20h60v4H6z'],
		['dash', 'M6 13h60M6 31h60']
	],
	'spring of the section': [
		['plate', 'M6 14Q36 4 66 14'],
		['ink', 'M20 14l-4 4l8 3l-8 3l8 3l-4 4v4M52 14l-4 4l8 3l-8 3l8 3l-4 4v4M2 36h68']
	],
	'branch, either way': [
		['plate', 'M6 22Q36 0 66 22'],
		['dash', 'M6 22Q36 44 66 22'],
		['ink', 'M6 22h60']
	],
	band: [
		['ink', 'M6 22h60'],
		['sheet', 'M18 17h36v10H18z'],
		['tool', 'M33 13h3v18h-3z']
	]
};
