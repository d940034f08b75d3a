/** What a planner should know before trusting the numbers: named by part, seam and setting. */
import { JOINTS } from '../joints';
import type { Analysis } from './analysis';

/** m/s2 */
const GRAVITY = 9.81;

/** Found by solid models of two thin tees (docs/verification.md): their pull is met, their turn by three quarters and more. */
const FILLET_WORDS =
	'how far its weld bends the sheet it stands on is known to a third (solid models of two 1.5 mm tees had 1.7° and 1.5° where this has 1.3°). The bands say so; weld a coupon and give the joint its own angle.';

export function planWarnings(a: Analysis): string[] {
	const { plan } = a;
	const out = new Set<string>();
	const [bare, loose]: Set<string>[] = [new Set(), new Set()];
	const { short, fillets, said } = ofResponses(a);
	for (const w of said) out.add(w);
	for (const seam of a.mesh.seams) {
		const j = seam.joint;
		if (j.stock) continue;
		const runs = plan.runs.filter((r) => r.joint === j.id && r.pass === 1);
		const covered = runs.reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0);
		if (!runs.length) bare.add(`“${j.name}”`);
		else if (covered < seam.lengthMm - 1)
			out.add(`Seam “${j.name}”: ${(seam.lengthMm - covered).toFixed(0)} mm of ${seam.lengthMm.toFixed(0)} mm are not welded.`);
		if (runs.length && !plan.tacks.some((t) => t.joint === j.id)) loose.add(`“${j.name}”`);
		if (j.gapMm > plan.parts.find((p) => p.id === j.a.part)!.thicknessMm / 2)
			out.add(`Seam “${j.name}” has a gap of ${j.gapMm} mm, more than half the sheet: close it before welding.`);
		const offset = seam.frames.reduce((m, f) => Math.max(m, Math.hypot(...f.offset)), 0);
		const sheet = Math.max(...[j.a.part, j.b.part].map((id) => plan.parts.find((p) => p.id === id)!.thicknessMm));
		if (offset > 2 * sheet + j.gapMm + 1)
			out.add(`Seam “${j.name}”: the two sides lie ${offset.toFixed(1)} mm apart in the drawing. Check the parts’ places.`);
	}
	// what holds of several seams is said once
	const together = (seams: ReadonlySet<string>, one: string, several: string) => {
		if (seams.size) out.add(seams.size === 1 ? `Seam ${[...seams][0]} ${one}` : `Seams ${[...seams].join(', ')} ${several}`);
	};
	together(bare, 'has no runs yet: the forecast leaves it as tacked.', 'have no runs yet: the forecast leaves them as tacked.');
	together(
		loose,
		'is welded without a tack: its gap will move ahead of the arc, which the linear method cannot tell.',
		'are welded without a tack: their gaps will move ahead of the arc, which the linear method cannot tell.'
	);
	together(fillets, `is a fillet: ${FILLET_WORDS}`, `are fillets: ${FILLET_WORDS}`);
	together(
		short,
		'is short: the closed forms are for long seams and overstate its pull.',
		'are short: the closed forms are for long seams and overstate their pull.'
	);
	for (const h of plan.holdDowns) {
		if (h.kind !== 'weight') continue;
		const [row] = a.condensed.holdRows.get(h.id)!;
		const force = Math.max(...a.staged.marks.map((m) => Math.abs(m.lambda.reduce((s, v) => s + v[row], 0))));
		const own = h.massKg * GRAVITY;
		if (force > own)
			out.add(
				`“${h.name}” weighs ${own.toFixed(0)} N and the sheet pushes with up to ${force.toFixed(0)} N: it would be lifted. Use a clamp, or more weight.`
			);
	}
	// parts that nothing joins float
	const group = plan.parts.map((_, i) => i);
	const root = (i: number): number => (group[i] === i ? i : (group[i] = root(group[i])));
	for (const j of plan.joints) {
		if (!j.stock && !plan.tacks.some((t) => t.joint === j.id) && !plan.runs.some((r) => r.joint === j.id)) continue;
		group[root(plan.parts.findIndex((p) => p.id === j.a.part))] = root(plan.parts.findIndex((p) => p.id === j.b.part));
	}
	const main = root(0);
	plan.parts.forEach((p, i) => {
		if (root(i) !== main) out.add(`Part “${p.name}” is tied to “${plan.parts[0].name}” by no tack and no run: features between them mean nothing.`);
	});
	return [...out];
}

/** What the responses themselves say; and seams, by name, that are short or fillets: each kind is spoken of once. */
function ofResponses({ plan, responses, mesh }: Analysis) {
	const [said, short, fillets]: Set<string>[] = [new Set(), new Set(), new Set()];
	for (const { joint, settings, response } of responses) {
		const welded = plan.joints.find((j) => j.id === joint)!;
		const { name } = welded;
		for (const w of response.warnings) said.add(`${plan.settings.find((s) => s.id === settings)!.name}: ${w}`);
		const length = mesh.seams.find((s) => s.joint.id === joint)!.lengthMm;
		if (!JOINTS[welded.type].isEdgeToEdge && !welded.response && !welded.stock) fillets.add(`“${name}”`);
		// the strip method's plane sections fail on short lengths; the closed forms are for long seams
		if (length < 60) short.add(`“${name}” (${length.toFixed(0)} mm)`);
	}
	return { said, short, fillets };
}
