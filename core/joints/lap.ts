import { FACES, type JointKind } from './joint';

export const lap: JointKind = {
	name: 'lap',
	symbol: 'fillet',
	usualPenetration: 'partial',
	isFlat: true,
	isEdgeToEdge: false,
	isCorner: false,
	isLaidOn: true,
	frontIsBehindEdges: false,
	sides: FACES,
	advice: ['Clamp the lap shut: sheet on sheet along the whole edge. A lap that stands open draws the upper sheet down.']
};
