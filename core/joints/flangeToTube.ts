import { FACES, type JointKind } from './joint';

export const flangeToTube: JointKind = {
	name: 'flange to tube',
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
