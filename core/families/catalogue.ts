/** What each family is called and asks for. No generator here: a form can use this without carrying the geometry. */
import type { FamilyKind } from '../plan/words';
import type { FamilyParameters } from './defaults';

export type MadeFamily = Exclude<FamilyKind, 'free'>;

interface Base {
	name: string;
	label: string;
	hint?: string;
	/** asked only where this parameter has one of these values */
	when?: [name: string, ...values: (string | number | boolean)[]];
}
export type FieldDef = Base &
	(
		| { kind: 'length'; min: number; max: number }
		| { kind: 'angle'; min: number; max: number }
		| { kind: 'count'; min: number; max: number }
		| { kind: 'word'; options: Record<string, string> }
		| { kind: 'flag' }
		| { kind: 'lengths'; min: number; max: number; atLeast: number; atMost: number; each: string }
	);

const length = (name: string, label: string, min: number, max: number, hint?: string, when?: Base['when']): FieldDef => ({
	kind: 'length',
	name,
	label,
	min,
	max,
	hint,
	when
});
const count = (name: string, label: string, min: number, max: number, hint?: string): FieldDef => ({ kind: 'count', name, label, min, max, hint });
const flag = (name: string, label: string, when?: Base['when']): FieldDef => ({ kind: 'flag', name, label, when });
const ends = { open: 'open', flat: 'flat', dished: 'dished', conical: 'conical' };

export interface FamilyDef {
	name: string;
	/** one line a planner can tell it by */
	says: string;
	fields: readonly FieldDef[];
	/** lengths against which the sheet must be thin: at most half of the smallest */
	sizes: readonly string[];
	defaults: FamilyParameters;
}

const sheet = { thicknessMm: 1.5, material: '1.4301' };

export const CATALOGUE: Record<MadeFamily, FamilyDef> = {
	'open-trough': {
		name: 'Trough, tray or tank',
		says: 'A bottom and four walls; lid, baffles, port and stiffeners if asked for',
		sizes: ['lengthMm', 'widthMm', 'depthMm'],
		fields: [
			length('lengthMm', 'Length inside', 20, 4000),
			length('widthMm', 'Width inside', 20, 4000),
			length('depthMm', 'Depth inside', 10, 2000),
			length('rimFlangeMm', 'Rim flange outward', 0, 200, '0 for none'),
			{
				kind: 'word',
				name: 'body',
				label: 'Made from',
				options: { 'u-body': 'Folded body, two ends', 'cross-blank': 'One folded blank, four corners', 'five-plates': 'Five plates, nothing folded' }
			},
			length('bendRadiusMm', 'Inside bend radius', 0, 50),
			count('baffles', 'Baffles inside', 0, 6),
			length('baffleHeightMm', 'Baffle height', 5, 2000, 'at most the depth', ['baffles', 1, 2, 3, 4, 5, 6]),
			length('crossBreakMm', 'Cross-break in the floor', 0, 20, 'height of the crossing, 0 for none'),
			count('stiffeners', 'Stiffeners under the floor', 0, 6),
			length('portMm', 'Port in the right end, diameter', 0, 1000, 'outside of its socket, 0 for none'),
			length('sumpMm', 'Sump in the floor, side', 0, 1000, '0 for none'),
			flag('lid', 'Flat lid, welded on')
		],
		defaults: {
			...sheet,
			lengthMm: 600,
			widthMm: 300,
			depthMm: 180,
			body: 'u-body',
			rimFlangeMm: 20,
			bendRadiusMm: 2,
			baffles: 0,
			baffleHeightMm: 120,
			crossBreakMm: 0,
			stiffeners: 0,
			portMm: 0,
			sumpMm: 0,
			lid: false
		}
	},
	enclosure: {
		name: 'Enclosure',
		says: 'Folded box with a flanged opening, mounting plate and door frame',
		sizes: ['widthMm', 'heightMm', 'depthMm'],
		fields: [
			length('widthMm', 'Width inside', 60, 3000),
			length('heightMm', 'Height inside', 60, 3000),
			length('depthMm', 'Depth inside', 20, 1000),
			length('flangeMm', 'Flange round the opening', 5, 200, 'inwards'),
			length('bendRadiusMm', 'Inside bend radius', 0, 50),
			length('standOffMm', 'Mounting plate off the back', 0, 500, '0 for none'),
			flag('doorFrame', 'Door frame on the flange')
		],
		defaults: { ...sheet, widthMm: 400, heightMm: 500, depthMm: 160, flangeMm: 25, bendRadiusMm: 2, standOffMm: 0, doorFrame: false }
	},
	'butt-panel': {
		name: 'Flat panel, butt welded',
		says: 'Blanks side by side',
		sizes: ['widthsMm', 'lengthMm'],
		fields: [
			length('lengthMm', 'Length of the seams', 20, 4000),
			{ kind: 'lengths', name: 'widthsMm', label: 'Blanks', each: 'Width of blank', min: 10, max: 4000, atLeast: 2, atMost: 8 },
			{ kind: 'word', name: 'fit', label: 'Fitted', options: { cut: 'cut to size', trimmed: 'overlapped, then trimmed to fit' } }
		],
		defaults: { ...sheet, widthsMm: [250, 250], lengthMm: 500, fit: 'cut' }
	},
	'lap-panel': {
		name: 'Flat panel, lapped',
		says: 'One sheet over the edge of another',
		sizes: ['widthsMm', 'lengthMm'],
		fields: [
			length('lengthMm', 'Length of the lap', 20, 4000),
			{ kind: 'lengths', name: 'widthsMm', label: 'Sheets', each: 'Width of sheet', min: 30, max: 4000, atLeast: 2, atMost: 2 },
			length('overlapMm', 'Overlap', 5, 500),
			flag('bothEdges', 'Welded along both edges')
		],
		defaults: { ...sheet, widthsMm: [250, 250], lengthMm: 400, overlapMm: 25, bothEdges: false }
	},
	'patched-panel': {
		name: 'Patched panel',
		says: 'A patch let into a hole, flush',
		sizes: ['widthMm', 'lengthMm'],
		fields: [
			length('widthMm', 'Width of the panel', 60, 4000),
			length('lengthMm', 'Length of the panel', 60, 4000),
			{ kind: 'word', name: 'shape', label: 'Patch', options: { round: 'round', rectangular: 'rectangular, round corners' } },
			length('patchMm', 'Diameter or width of the patch', 20, 2000),
			length('patchLengthMm', 'Length of the patch', 20, 2000, undefined, ['shape', 'rectangular']),
			flag('stick', 'Handling stick on the patch')
		],
		defaults: { ...sheet, widthMm: 400, lengthMm: 400, shape: 'round', patchMm: 160, patchLengthMm: 160, stick: false }
	},
	'stiffened-plate': {
		name: 'Tee or stiffened plate',
		says: 'Bars standing on a plate',
		sizes: ['lengthMm', 'widthMm', 'stiffenerHeightMm'],
		fields: [
			length('lengthMm', 'Length', 40, 4000),
			length('widthMm', 'Width of the plate', 40, 4000),
			length('stiffenerHeightMm', 'Height of the bars', 10, 500),
			count('stiffeners', 'Bars', 1, 8),
			flag('bothSides', 'Welded on both sides')
		],
		defaults: { ...sheet, thicknessMm: 2, lengthMm: 400, widthMm: 240, stiffenerHeightMm: 50, stiffeners: 1, bothSides: false }
	},
	cylinder: {
		name: 'Cylinder',
		says: 'Rolled shell with ends, girth seams and a port',
		sizes: ['diameterMm', 'lengthMm'],
		fields: [
			length('diameterMm', 'Outside diameter', 40, 3000),
			length('lengthMm', 'Length of the shell', 40, 4000),
			count('courses', 'Sheets in a row', 1, 4, 'girth seams between them'),
			{ kind: 'word', name: 'bottom', label: 'Bottom end', options: ends },
			{ kind: 'word', name: 'top', label: 'Top end', options: ends },
			{ kind: 'angle', name: 'coneAngleDeg', label: 'Cone, axis to wall', min: 20, max: 80 },
			length('portMm', 'Port in the shell, diameter', 0, 1000, 'outside of its socket, 0 for none'),
			length('portLengthMm', 'Length of the socket', 10, 500)
		],
		defaults: { ...sheet, diameterMm: 300, lengthMm: 400, courses: 1, bottom: 'flat', top: 'open', coneAngleDeg: 45, portMm: 0, portLengthMm: 60 }
	},
	collar: {
		name: 'Collar ring on a duct',
		says: 'A flange ring round a duct or tube',
		sizes: ['ductMm', 'ringMm', 'ductLengthMm'],
		fields: [
			{ kind: 'word', name: 'shape', label: 'Duct', options: { round: 'round', square: 'square' } },
			length('ductMm', 'Outside of the duct', 30, 2000),
			length('ductLengthMm', 'Length of the duct', 30, 2000),
			length('ringMm', 'Width of the ring', 8, 300),
			length('standMm', 'Duct stands through by', 2, 200),
			flag('bothSides', 'Welded on both sides')
		],
		defaults: { ...sheet, shape: 'round', ductMm: 200, ductLengthMm: 150, ringMm: 35, standMm: 4, bothSides: false }
	},
	manifold: {
		name: 'Manifold tube',
		says: 'A tube with sockets in a row',
		sizes: ['tubeMm', 'socketMm', 'socketLengthMm'],
		fields: [
			length('tubeMm', 'Outside of the tube', 20, 600),
			length('lengthMm', 'Length of the tube', 60, 4000),
			count('sockets', 'Sockets', 1, 12),
			length('socketMm', 'Outside of a socket', 8, 300),
			length('socketLengthMm', 'Height of a socket', 10, 300)
		],
		defaults: { ...sheet, tubeMm: 60, lengthMm: 700, sockets: 5, socketMm: 28, socketLengthMm: 30 }
	},
	'mitred-frame': {
		name: 'Mitred frame',
		says: 'Square tube, angle or flat, four mitred corners',
		sizes: ['sideMm'],
		fields: [
			{ kind: 'word', name: 'section', label: 'Section', options: { 'square-tube': 'square tube', angle: 'angle', flat: 'flat bar' } },
			length('lengthMm', 'Length outside', 80, 4000),
			length('widthMm', 'Width outside', 80, 4000),
			length('sideMm', 'Side of the section', 8, 300)
		],
		defaults: { ...sheet, section: 'square-tube', lengthMm: 600, widthMm: 400, sideMm: 40 }
	}
};

/** Is a field asked for with these parameters? */
export const isAsked = (f: FieldDef, given: FamilyParameters) => !f.when || f.when.slice(1).includes(given[f.when[0]] as string | number | boolean);
