import { tape } from './tape';
import type { MethodKind } from './method';

export const calliper: MethodKind = { ...tape, name: 'Calliper or height gauge', reading90: 0.1 };
