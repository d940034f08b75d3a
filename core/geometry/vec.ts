/** Small vectors. Vec3 is [x, y, z] in mm (or a direction), Vec2 is [x, y] in a part's layout. */
export type Vec2 = [number, number];
export type Vec3 = [number, number, number];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Vec3, b: Vec3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
/** by square root: Math.hypot guards against overflow, which lengths in mm never meet, and is many times slower */
export const norm = (a: Vec3) => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
export const unit = (a: Vec3): Vec3 => scale(a, 1 / norm(a));
export const distance = (a: Vec3, b: Vec3) => norm(sub(a, b));

export const distance2 = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Rotates `v` about unit axis `axis` by `angle` rad (Rodrigues' formula). */
export function rotate(v: Vec3, axis: Vec3, angle: number): Vec3 {
	const c = Math.cos(angle);
	const s = Math.sin(angle);
	const k = dot(axis, v) * (1 - c);
	const x = cross(axis, v);
	return [v[0] * c + x[0] * s + axis[0] * k, v[1] * c + x[1] * s + axis[1] * k, v[2] * c + x[2] * s + axis[2] * k];
}
