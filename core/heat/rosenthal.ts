/** Moving line source in a thin plate with surface loss. Rosenthal (1946), Trans. ASME 68, 849-866. */

/** Modified Bessel function K0. Abramowitz & Stegun 9.8.1, 9.8.5, 9.8.6 (error below 2e-7). */
export function besselK0(x: number): number {
	if (x <= 2) {
		const y = (x * x) / 4;
		const t = (x / 3.75) ** 2;
		const i0 = 1 + t * (3.5156229 + t * (3.0899424 + t * (1.2067492 + t * (0.2659732 + t * (0.0360768 + t * 0.0045813)))));
		return (
			-Math.log(x / 2) * i0 +
			(-0.57721566 + y * (0.4227842 + y * (0.23069756 + y * (0.0348859 + y * (0.00262698 + y * (0.0001075 + y * 0.0000074))))))
		);
	}
	return Math.exp(-x) * tailK0(x);
}

/** K0(x) e^x for x above 2: kept apart so that far behind a fast arc neither factor overflows. */
function tailK0(x: number): number {
	const z = 2 / x;
	return (
		(1 / Math.sqrt(x)) *
		(1.25331414 + z * (-0.07832358 + z * (0.02189568 + z * (-0.01062446 + z * (0.00587872 + z * (-0.0025154 + z * 0.00053208))))))
	);
}

export interface ThinPlate {
	/** net power, W */
	power: number;
	/** mm/s */
	speed: number;
	/** mm */
	thickness: number;
	/** W/mm.K */
	lambda: number;
	/** J/mm3.K */
	rhoC: number;
	/** °C */
	ambient: number;
	/** loss of both faces together, W/mm2.K */
	loss: number;
}

/** Temperature, °C, at `x` mm ahead of the arc (negative behind) and `y` mm aside. */
export function rosenthal(p: ThinPlate, x: number, y: number): number {
	const half = (p.speed * p.rhoC) / (2 * p.lambda);
	const r = Math.max(1e-3, Math.hypot(x, y));
	const k = Math.sqrt(half * half + p.loss / (p.lambda * p.thickness));
	const shape = k * r > 2 ? Math.exp(-half * x - k * r) * tailK0(k * r) : Math.exp(-half * x) * besselK0(k * r);
	return p.ambient + (p.power / (2 * Math.PI * p.lambda * p.thickness)) * shape;
}

/** Peak temperature at `y` mm from the line, °C: the largest value as the arc goes by. */
export function peakTemperature(p: ThinPlate, y: number): number {
	// the peak lies behind the arc; golden section on log(distance behind), where the curve has one hump
	const at = (s: number) => rosenthal(p, -Math.exp(s), y);
	let lo = Math.log(1e-3 + 1e-3 * y);
	let hi = Math.log(10 + 20 * y + (y * y * p.speed * p.rhoC) / p.lambda);
	const g = (Math.sqrt(5) - 1) / 2;
	let a = hi - g * (hi - lo);
	let b = lo + g * (hi - lo);
	let fa = at(a);
	let fb = at(b);
	for (let i = 0; i < 60; i++) {
		if (fa < fb) {
			lo = a;
			a = b;
			fa = fb;
			b = lo + g * (hi - lo);
			fb = at(b);
		} else {
			hi = b;
			b = a;
			fb = fa;
			a = hi - g * (hi - lo);
			fa = at(a);
		}
	}
	return Math.max(fa, fb);
}

/** Full width, mm, of the band that is heated to `celsius` or more. */
export function heatedWidth(p: ThinPlate, celsius: number): number {
	let lo = 1e-3;
	let hi = 1;
	if (peakTemperature(p, lo) <= celsius) return 0;
	while (peakTemperature(p, hi) > celsius && hi < 4000) hi *= 2;
	for (let i = 0; i < 60; i++) {
		const mid = (lo + hi) / 2;
		if (peakTemperature(p, mid) > celsius) lo = mid;
		else hi = mid;
	}
	return lo + hi;
}

/** Instantaneous line source: peak rise at `y`, K. `q / (t rho c y sqrt(2 pi e))`. */
export const linePeakRise = (netHeat: number, thickness: number, rhoC: number, y: number) =>
	netHeat / (thickness * rhoC * y * Math.sqrt(2 * Math.PI * Math.E));
