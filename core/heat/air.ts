/** Still air plus radiation at low temperature, W/mm2.K for one face (15 W/m2K; common value, no source). */
export const STILL_AIR = 15e-6;
