import { FACES, type JointKind } from './joint';

export const butt: JointKind = {
	name: 'butt',
	symbol: 'square-butt',
	usualPenetration: 'full',
	isFlat: true,
	isEdgeToEdge: true,
	isCorner: false,
	isLaidOn: true,
	frontIsBehindEdges: false,
	sides: FACES,
	advice: []
};
