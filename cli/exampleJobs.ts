/** The example jobs, one of each family and three written by hand, made here so that a test can see that the files are current. */
import { FAMILY_DEFAULTS, type MadeFamily } from '../core/families';
import { newPlan, startingSettings } from '../core/families/newPlan';
import type { JobHeader } from '../core/formats/jobFile';
import { planOf } from '../core/reading/readPlan';
import type { PlanDocument } from '../core/document/schema';

export interface Example {
	file: string;
	job: JobHeader;
	plan: PlanDocument;
}

const family = (kind: MadeFamily, change: object): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error('an example’s sizes are wrong');
	return made.plan;
};

const world = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] };
const even = (length: number, pitch: number, joint: string) =>
	Array.from({ length: Math.floor(length / pitch) + 1 }, (_, i) => ({
		id: `t-${joint}-${i}`,
		joint,
		stationMm: Math.min(length, i * pitch),
		lengthMm: 5,
		stage: 1,
		fusionOnly: true
	}));
const runs = (length: number, n: number, joint: string) =>
	Array.from({ length: n }, (_, i) => ({ id: `r-${joint}-${i}`, joint, fromMm: (length * (i + 1)) / n, toMm: (length * i) / n, pass: 1 }));

/** A web welded along one side to a plate: a tee written straight in the schema. */
function tee(): PlanDocument {
	return planOf({
		format: 'sarta-plan',
		version: 1,
		materials: [],
		parts: [
			{
				id: 'plate',
				name: 'Plate',
				material: '1.4301',
				thicknessMm: 2,
				outline: [
					[0, 0],
					[300, 0],
					[300, 200],
					[0, 200]
				],
				holes: [],
				bends: [],
				frame: world
			},
			{
				id: 'web',
				name: 'Web',
				material: '1.4301',
				thicknessMm: 2,
				outline: [
					[0, 0],
					[300, 0],
					[300, 60],
					[0, 60]
				],
				holes: [],
				bends: [],
				frame: { origin: [0, 100, 0], x: [1, 0, 0], y: [0, 0, 1] }
			}
		],
		points: [
			{ id: 'o', name: 'Corner', part: 'plate', at: [0, 0] },
			{ id: 'x', name: 'Along', part: 'plate', at: [300, 0] },
			{ id: 'y', name: 'Across', part: 'plate', at: [0, 200] },
			{ id: 'p1', name: 'Plate, one', part: 'plate', at: [60, 20] },
			{ id: 'p2', name: 'Plate, two', part: 'plate', at: [240, 20] },
			{ id: 'p3', name: 'Plate, three', part: 'plate', at: [150, 80] },
			{ id: 'w1', name: 'Web, one', part: 'web', at: [60, 10] },
			{ id: 'w2', name: 'Web, two', part: 'web', at: [240, 10] },
			{ id: 'w3', name: 'Web, three', part: 'web', at: [150, 55] }
		],
		joints: [
			{
				id: 'f',
				name: 'Fillet, front',
				type: 'tee',
				a: {
					part: 'web',
					path: [
						[0, 0],
						[300, 0]
					]
				},
				b: {
					part: 'plate',
					path: [
						[0, 100],
						[300, 100]
					]
				},
				gapMm: 0,
				gapMeasured: false,
				presetDeg: 0,
				penetration: 'partial',
				filler: true,
				weldSizeMm: 2,
				weldSide: 'front',
				settings: 'main'
			}
		],
		holdDowns: [],
		settings: [startingSettings(2, '1.4301')],
		tacks: even(300, 60, 'f'),
		runs: runs(300, 6, 'f'),
		features: [
			{
				id: 'lean',
				name: 'Web to plate',
				kind: 'angle',
				faceA: ['p1', 'p2', 'p3'],
				faceB: ['w1', 'w2', 'w3'],
				tolerance: { upper: 1, lower: -1, source: 'typed' }
			},
			{
				id: 'flat',
				name: 'Plate flatness',
				kind: 'flatness',
				part: 'plate',
				at: [15, 15],
				size: [270, 170],
				nx: 5,
				ny: 5,
				tolerance: { upper: 1.5, source: 'typed' }
			}
		],
		probes: [{ id: 'tip', name: 'Web top, middle', part: 'web', at: [150, 60] }],
		datum: { origin: 'o', axis: 'x', plane: 'y' },
		posture: 'three-points',
		fitUp: { trueJoint: 'f', trueEnd: 'datum', checks: [] },
		interpassLimitC: 150,
		ambientC: 20
	});
}

/** A lap of two strips with a strongback tacked along one of them, and a measured response given for the joint. */
function lap(): PlanDocument {
	return planOf({
		format: 'sarta-plan',
		version: 1,
		materials: [],
		parts: [
			{
				id: 'lower',
				name: 'Lower sheet',
				material: '1.4404',
				thicknessMm: 1.5,
				outline: [
					[0, 0],
					[160, 0],
					[160, 400],
					[0, 400]
				],
				holes: [
					[
						[30, 180],
						[60, 180],
						[60, 220],
						[30, 220]
					]
				],
				bends: [],
				frame: world
			},
			{
				id: 'upper',
				name: 'Upper sheet',
				material: '1.4404',
				thicknessMm: 1.5,
				outline: [
					[0, 0],
					[160, 0],
					[160, 400],
					[0, 400]
				],
				holes: [],
				bends: [],
				frame: { origin: [145, 0, 1.5], x: [1, 0, 0], y: [0, 1, 0] }
			}
		],
		points: [
			{ id: 'o', name: 'Corner', part: 'lower', at: [0, 0] },
			{ id: 'x', name: 'Across', part: 'lower', at: [140, 0] },
			{ id: 'y', name: 'Along', part: 'lower', at: [0, 400] },
			{ id: 'l', name: 'Left edge, middle', part: 'lower', at: [0, 200] },
			{ id: 'r', name: 'Right edge, middle', part: 'upper', at: [160, 200] }
		],
		joints: [
			{
				id: 'lap',
				name: 'Lap',
				type: 'lap',
				a: {
					part: 'upper',
					path: [
						[0, 0],
						[0, 400]
					]
				},
				b: {
					part: 'lower',
					path: [
						[145, 0],
						[145, 400]
					]
				},
				gapMm: 0.2,
				gapMeasured: true,
				presetDeg: 0,
				penetration: 'partial',
				filler: true,
				weldSizeMm: 1.5,
				weldSide: 'front',
				settings: 'main',
				response: { tendonForceN: 14000, transverseShrinkageMm: 0.22, angularChangeRad: 0.012 }
			}
		],
		holdDowns: [
			{
				id: 'back',
				name: 'Angle 30 x 30 x 3',
				kind: 'strongback',
				part: 'upper',
				path: [
					[80, 10],
					[80, 390]
				],
				areaMm2: 171,
				iOutMm4: 14700,
				iInMm4: 14700,
				torsionMm4: 513,
				eModulusMPa: 210000,
				offsetMm: 9,
				pitchMm: 95,
				life: { on: 'start', off: 'when-cold' }
			},
			{
				id: 'bar',
				name: 'Brass bar',
				kind: 'bar',
				joint: 'lap',
				fromMm: 0,
				toMm: 400,
				material: 'brass',
				widthMm: 30,
				thicknessMm: 8,
				contact: 'fair',
				life: { on: 'start', off: 'when-cold' }
			}
		],
		settings: [{ ...startingSettings(1.5, '1.4404'), current: 'pulsed', ampsA: 60, backgroundA: 35, pulsesPerSecond: 6, onFraction: 0.5 }],
		tacks: even(400, 100, 'lap'),
		runs: runs(400, 8, 'lap'),
		features: [
			{ id: 'width', name: 'Width at mid-length', kind: 'length', points: ['l', 'r'], tolerance: { upper: 1, lower: -1, source: 'typed' } },
			{
				id: 'bow',
				name: 'Outer edge straightness',
				kind: 'straightness',
				part: 'upper',
				path: [
					[160, 0],
					[160, 400]
				],
				n: 9,
				tolerance: { upper: 1.5, source: 'typed' }
			}
		],
		probes: [{ id: 'edge', name: 'Outer edge, middle', part: 'upper', at: [160, 200] }],
		datum: { origin: 'o', axis: 'x', plane: 'y' },
		posture: 'flat-on-bench',
		fitUp: { trueJoint: 'lap', trueEnd: 'datum', checks: [] },
		interpassLimitC: 120,
		ambientC: 18
	});
}

export const exampleJobs = (): Example[] => [
	{ file: 'trough.json', job: { name: 'Example trough', quantity: 2 }, plan: family('open-trough', { lengthMm: 400, widthMm: 220, depthMm: 120 }) },
	{ file: 'panel.json', job: { name: 'Example panel', quantity: 1 }, plan: family('butt-panel', { widthsMm: [200, 250], lengthMm: 400 }) },
	{
		file: 'tank-with-baffle.json',
		job: { name: 'Example tank with baffle, cross-break, port and lid', quantity: 1 },
		plan: family('open-trough', {
			lengthMm: 360,
			widthMm: 220,
			depthMm: 140,
			baffles: 1,
			baffleHeightMm: 100,
			crossBreakMm: 2,
			portMm: 50,
			lid: true
		})
	},
	{
		file: 'enclosure.json',
		job: { name: 'Example enclosure', quantity: 1 },
		plan: family('enclosure', { widthMm: 240, heightMm: 300, depthMm: 100, standOffMm: 30 })
	},
	{ file: 'lap-panel.json', job: { name: 'Example lapped panel', quantity: 1 }, plan: family('lap-panel', { widthsMm: [160, 160], lengthMm: 300 }) },
	{
		file: 'corner-panel.json',
		job: { name: 'Example corner', quantity: 1 },
		plan: family('corner-panel', { lengthMm: 300, baseMm: 120, heightMm: 100 })
	},
	{
		file: 'patched-panel.json',
		job: { name: 'Example patched panel', quantity: 1 },
		plan: family('patched-panel', { widthMm: 300, lengthMm: 300, patchMm: 120 })
	},
	{
		file: 'stiffened-plate.json',
		job: { name: 'Example stiffened plate', quantity: 1 },
		plan: family('stiffened-plate', { lengthMm: 300, widthMm: 200, stiffeners: 2 })
	},
	{
		file: 'cylinder.json',
		job: { name: 'Example cylinder', quantity: 1 },
		plan: family('cylinder', { diameterMm: 200, lengthMm: 240, bottom: 'conical' })
	},
	{ file: 'collar.json', job: { name: 'Example collar', quantity: 1 }, plan: family('collar', { ductMm: 150 }) },
	{ file: 'manifold.json', job: { name: 'Example manifold', quantity: 1 }, plan: family('manifold', { lengthMm: 360, sockets: 3 }) },
	{
		file: 'mitred-frame.json',
		job: { name: 'Example mitred frame', quantity: 1 },
		plan: family('mitred-frame', { lengthMm: 400, widthMm: 300, sideMm: 30 })
	},
	{ file: 'tee.json', job: { name: 'Example tee, no family', quantity: 1 }, plan: tee() },
	{ file: 'lap-with-strongback.json', job: { name: 'Example lap with a strongback and a measured response', quantity: 1 }, plan: lap() }
];
