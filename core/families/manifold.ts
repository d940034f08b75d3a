/** A tube with sockets in a row. Radii are of the mid-surface. */
import { Builder, rect } from './builder';
import { line, socket } from './socket';
import { SHEET, count, length, most, type FamilyRecord, type Generated, type Sheet } from './family';

export interface Manifold extends Sheet {
	/** outside diameter of the tube */
	tubeMm: number;
	lengthMm: number;
	sockets: number;
	socketMm: number;
	socketLengthMm: number;
}

function make(p: Manifold): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const R = (p.tubeMm - p.thicknessMm) / 2;
	const hoop = 2 * Math.PI * R;
	const L = p.lengthMm;
	// the tube lies along x, sockets stand up
	b.part(
		'tube',
		'Tube',
		rect(0, 0, hoop, L),
		{ origin: [0, 0, R], x: [0, -1, 0], y: [1, 0, 0] },
		{ roll: { hoop: 'x', radiusMm: R }, base: [hoop / 2, 0] }
	);
	b.stock('tube-stock', 'Tube, its own seam', 'tube', line(0, 0, 0, L), line(hoop, 0, hoop, L));
	const pitch = L / (p.sockets + 1);
	for (let i = 1; i <= p.sockets; i++) {
		const x = pitch * i;
		socket(b, {
			id: `socket-${i}`,
			name: `Socket ${i}`,
			main: 'tube',
			R,
			r: (p.socketMm - p.thicknessMm) / 2,
			at: [hoop / 2, x],
			length: p.socketLengthMm,
			frame: { out: [0, 0, 1], along: [0, -1, 0], axis: [1, 0, 0], centre: [x, 0, 0] }
		});
		b.point(`top-${i}`, `Socket ${i}, mouth`, `socket-${i}`, [Math.PI * ((p.socketMm - p.thicknessMm) / 2), p.socketLengthMm]);
	}
	b.straight('back', 'Tube straightness, opposite the sockets', 'tube', line(hoop / 48, 0, hoop / 48, L), L);
	b.straight('side', 'Tube straightness, seen from above', 'tube', line(hoop / 4, 0, hoop / 4, L), L);
	if (p.sockets > 1) b.length('pitch', 'First to last socket at the mouth', ['top-1', `top-${p.sockets}`], pitch * (p.sockets - 1), 'same-side');
	b.point('e-1', 'Tube end, left', 'tube', [hoop / 4, 0]);
	b.point('e-2', 'Tube end, far left', 'tube', [hoop / 4, L]);
	b.point('e-3', 'Tube end, right', 'tube', [(3 * hoop) / 4, 0]);
	return b.done(['e-1', 'e-2', 'e-3'], 'socket-1-foot');
}

export const manifold: FamilyRecord = {
	name: 'Manifold tube',
	isFilled: true,
	says: 'A tube with sockets in a row',
	sizes: ['tubeMm', 'socketMm', 'socketLengthMm'],
	fields: [
		length('tubeMm', 'Outside of the tube', 20, 600),
		length('lengthMm', 'Length of the tube', 60, 4000),
		count('sockets', 'Sockets', 1, 12),
		length('socketMm', 'Outside of a socket', 8, 300),
		length('socketLengthMm', 'Height of a socket', 10, 300)
	],
	defaults: { ...SHEET, tubeMm: 60, lengthMm: 700, sockets: 5, socketMm: 28, socketLengthMm: 30 },
	fits: [most('socketMm', (p) => Math.min(0.8 * p.tubeMm, (0.8 * p.lengthMm) / (p.sockets + 1)), 'sockets must fit on the tube, side by side')],
	make
};
