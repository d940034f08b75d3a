import { FACES, type JointKind } from './joint';

export const tee: JointKind = {
	name: 'tee / fillet',
	symbol: 'fillet',
	usualPenetration: 'partial',
	isFlat: false,
	isEdgeToEdge: false,
	isCorner: false,
	isLaidOn: false,
	frontIsBehindEdges: false,
	sides: FACES,
	advice: []
};
