/** What to look for on a step and what to beware of on it, beside what its own lines say (stepWords): facts of the trade (common practice, no source). */
import type { BenchStep } from './benchSteps';

const HELP: { [K in BenchStep['kind']]: readonly string[] } = {
	check: [],
	film: ['Film that burns fouls the run and the lungs: well back, on both faces.'],
	parts: ['Square on the corners, then the diagonals. What is a millimetre out now is out for good.'],
	look: ['Light from the far side shows a gap; a straightedge shows what the eye forgives.'],
	preset: ['Set it over by the figure, not by feel, and read it again after the tacks.'],
	hold: ['Metal to metal: a chip under a bar is a gap. Clamps near the seam hold more than far from it.'],
	purge: [
		'Argon is heavier than air and gives no warning: never lean into a purged space.',
		'Sweep until a meter says so; a leak at the root is seen as blue sugar.'
	],
	tack: [
		'Ends and middle first, then between. Small, hot and quick: a tack that is cold inside cracks when the run comes.',
		'Close tacks hold the gap while the run shrinks it; one that pulls out of line is broken and set again.'
	],
	grind: [],
	flip: [],
	wait: [
		'A fan over the piece is safe once the arc is out; at a lit arc it takes the gas away.',
		'Filled with water or shut, it wants an hour and more.'
	],
	run: [
		'Gas proven on a scrap of copper, tungsten sharp and clean, wire dry.',
		'A gap that opens ahead of the arc: stop, draw it in, tack, go on. Torch over the end until the gas stops.'
	],
	sign: [],
	measure: ['Read cold, as the piece lies by itself: what is read warm or held is not what it will be.']
};

export const stepHelp = (step: BenchStep): readonly string[] => HELP[step.kind];
