/** A school or an order that applies to any seams. */
export const ALWAYS = () => undefined;
