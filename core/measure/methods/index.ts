/** Every way of reading a feature. */
import { angle } from './angle';
import { diagonals } from './diagonals';
import { grid } from './grid';
import type { MethodKind } from './method';
import { rock } from './rock';
import { square } from './square';
import { straightedge } from './straightedge';
import { tape } from './tape';
import { tapeRepeated } from './tapeRepeated';

const KINDS = { grid, straightedge, diagonals, tape, 'tape-repeated': tapeRepeated, angle, square, rock } satisfies Record<string, MethodKind>;

export type Method = keyof typeof KINDS;
export const METHODS = Object.keys(KINDS) as Method[];
export const METHOD_KINDS: Record<Method, MethodKind> = KINDS;
