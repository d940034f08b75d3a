/** Planes through three points. */
import { cross, sub, unit, type Vec3 } from '../geometry/vec';

export const faceNormal = (p: readonly Vec3[]) => unit(cross(sub(p[1], p[0]), sub(p[2], p[0])));
