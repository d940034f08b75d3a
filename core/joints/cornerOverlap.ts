import { CORNER, type JointKind } from './joint';

export const cornerOverlap: JointKind = {
	name: 'corner, overlap',
	symbol: 'fillet',
	usualPenetration: 'partial',
	isFlat: false,
	isEdgeToEdge: false,
	isCorner: true,
	isLaidOn: true,
	frontIsBehindEdges: false,
	sides: CORNER,
	advice: []
};
