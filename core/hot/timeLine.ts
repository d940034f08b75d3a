/** When the arc burns, and the steps in which time is taken. */
import { arcOf, longestStep, type HotSeam } from './seam';

export interface ArcStep {
	fromS: number;
	toS: number;
	/** which run burns, or -1 */
	run: number;
	/** the last one: all is brought back to where it began */
	isLast: boolean;
}

/** s of cooling after the last run, and the longest step in it. */
const COOLING = 3000;
const LONGEST = 300;

export class TimeLine {
	readonly steps: ArcStep[] = [];
	/** s at which each run begins */
	readonly begins: number[] = [];

	constructor(private readonly seam: HotSeam) {
		const { stepS } = seam.mesh;
		let t = 0;
		const idle = (until: number, growth: number, longest: number) => {
			for (let h = stepS; t < until - 1e-9; h = Math.min(h * growth, longest)) {
				const toS = t + 1.3 * h >= until ? until : t + h;
				this.steps.push({ fromS: t, toS, run: -1, isLast: false });
				t = toS;
			}
		};
		seam.runs.forEach((r, run) => {
			if (r.waitS > 0) idle(t + r.waitS, 1.3, Math.max(5 * stepS, r.waitS / 20));
			const { speed } = arcOf(seam, r);
			const burns = Math.abs(r.toMm - r.fromMm) / speed;
			const n = Math.max(1, Math.round(burns / longestStep(seam, r)));
			const begin = t;
			this.begins.push(begin);
			for (let i = 0; i < n; i++) this.steps.push({ fromS: begin + (burns * i) / n, toS: begin + (burns * (i + 1)) / n, run, isLast: false });
			t = begin + burns;
		});
		idle(t + COOLING, 1.25, LONGEST);
		this.steps.push({ fromS: t, toS: t + 1, run: -1, isLast: true });
	}

	/** mm, where the arc of a run stands at a moment */
	at(run: number, s: number): number {
		const r = this.seam.runs[run];
		return r.fromMm + this.way(run) * arcOf(this.seam, r).speed * (s - this.begins[run]);
	}

	/** 1 or -1: towards which end it goes */
	way(run: number): number {
		const r = this.seam.runs[run];
		return Math.sign(r.toMm - r.fromMm);
	}
}
