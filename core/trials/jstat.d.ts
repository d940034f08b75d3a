/** What is used of jstat, which brings no types of its own. */
declare module 'jstat' {
	const jStat: {
		/** Student's t with so many degrees of freedom */
		chisquare: { cdf(x: number, degrees: number): number };
		studentt: { cdf(t: number, degrees: number): number; inv(p: number, degrees: number): number };
		normal: { inv(p: number, mean: number, sd: number): number };
	};
	export default jStat;
}
