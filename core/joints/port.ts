import { FACES, type JointKind } from './joint';

export const port: JointKind = {
	name: 'port',
	symbol: 'fillet',
	usualPenetration: 'partial',
	isFlat: false,
	isEdgeToEdge: false,
	isCorner: false,
	isLaidOn: false,
	frontIsBehindEdges: true,
	sides: FACES,
	advice: []
};
