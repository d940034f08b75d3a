import { CORNER, type JointKind } from './joint';

export const cornerEdge: JointKind = {
	name: 'corner, edge to edge',
	symbol: 'edge',
	usualPenetration: 'full',
	isFlat: false,
	isEdgeToEdge: true,
	isCorner: true,
	isLaidOn: true,
	frontIsBehindEdges: false,
	sides: CORNER,
	advice: []
};
