import { CORNER, type JointKind } from './joint';

export const cornerOverlap: JointKind = {
	name: 'corner, overlap',
	symbol: 'fillet',
	usualPenetration: 'partial',
	isFlat: false,
	isEdgeToEdge: false,
	isCorner: true,
	frontIsBehindEdges: false,
	sides: CORNER,
	advice: []
};
