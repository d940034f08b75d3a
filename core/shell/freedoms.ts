/** Six freedoms a node: its moves along x, y and z, then its turns about them. Every vector of the whole piece is laid out so. */
export const PER_NODE = 6;
/** Direction of a node's first turn. */
export const TURN = 3;

export const freedom = (node: number, direction: number): number => PER_NODE * node + direction;
export const nodeOf = (f: number): number => Math.floor(f / PER_NODE);
export const directionOf = (f: number): number => f % PER_NODE;
