/** A rectangular bar's second moments and torsion, mm4 (thin-rectangle formula for torsion). */
export const barSection = (widthMm: number, heightMm: number) => ({
	areaMm2: widthMm * heightMm,
	iOutMm4: (widthMm * heightMm ** 3) / 12,
	iInMm4: (heightMm * widthMm ** 3) / 12,
	torsionMm4: (Math.max(widthMm, heightMm) * Math.min(widthMm, heightMm) ** 3) / 3
});
