/**
 * A starting point for a joint's settings, with the reason of each, and what the heat solver makes of it: does it melt
 * through, reach the root, only fuse? Figures without a source are common practice; the shop's own procedure comes first.
 */
import { JOINTS } from '../joints';
import { arcEnergy } from '../heat/arcEnergy';
import type { Material } from '../materials/grades';
import { metalOf } from '../materials/hot';
import { METALS } from '../materials/metals';
import type { Bar, Joint, WeldSettings } from '../document/schema';
import type { Polarity } from '../document/words';
import { heatForLeg, MELTING_SHARE } from './fillet';
import { filletOf, poolWidth, weldResponse, TINT_C, type ResponseInput } from './weldResponse';

export interface AdvisedField {
	key: keyof WeldSettings;
	label: string;
	value: string | number;
	unit: string;
	why: string;
}
export interface HeatCheck {
	label: string;
	/** is it of the weld itself, or of how the surface will look */
	of: 'weld' | 'surface';
	isGood: boolean;
	words: string;
}
export interface SettingsAdvice {
	settings: WeldSettings;
	fields: AdvisedField[];
	checks: HeatCheck[];
	cautions: string[];
}

/** A bar this thick takes so much that the rule of thumb is cut (common practice, no source), mm. */
export const THICK_BAR_MM = 6;
/** Pool width wanted on the line, in thicknesses: through to the root, part of the way, or fusing the faces only (own estimates). */
const POOL_WANTED = { full: 2.6, partial: 1.9, sealing: 1.4 } as const;
/** Beyond this the pool sags or drops through; below this it does not reach the root (own estimates), in thicknesses. */
export const DROPS_THROUGH = 4.5;
export const REACHES_ROOT = 1.6;
/** A line source melts a thread at any heat: below this pool the faces do not run together (own estimate), in thicknesses. */
export const FUSES = 0.5;
/** Travel that a hand keeps up (common practice, no source), mm/s. */
const SPEEDS = [1.2, 5] as const;

/** Tungsten by current, DC electrode negative (typical ranges, quoted from memory): upper end, A, and diameter, mm. */
const TUNGSTENS = [
	[70, 1.0],
	[140, 1.6],
	[240, 2.4],
	[400, 3.2]
] as const;

/** Filler by pair of grades (common practice, no source). */
export function fillerFor(a: Material, b: Material): { grade?: string; why: string } {
	const groups = new Set([a.group, b.group]);
	if (groups.has('aluminium') && groups.size > 1) return { why: 'Aluminium cannot be fusion welded to steel: use a bolted or bonded joint.' };
	if (groups.has('carbon-steel') && groups.size > 1)
		return { grade: '309L', why: 'stainless to carbon steel: over-alloyed, so that the mixed weld stays tough' };
	const [ma, mb] = [a, b].map((m) => METALS.find((x) => x.id === m.id));
	if (!ma || !mb) return { why: 'a grade of your own: take the filler its supplier names' };
	if (ma.welding.filler === mb.welding.filler) return { grade: ma.welding.filler, why: ma.welding.why };
	// of two aluminium alloys the one that cracks without its filler decides; duplex keeps its nickel
	const leads = [ma, mb].find((m) => m.id === '6061' || m.group === 'duplex');
	if (leads) return { grade: leads.welding.filler, why: leads.welding.why };
	return { grade: '309L', why: `unlike grades (${a.name} to ${b.name})` };
}

/** Which way the current goes through two sheets: an oxide skin wants AC. */
export const polarityFor = (a: Material, b: Material): Polarity => ([a, b].some((m) => metalOf(m).welding.polarity === 'AC') ? 'AC' : 'DC-');

/** Start and finish: enough to form a pool without a blow-through, and a fall slow enough that the crater fills (common practice, no source). */
const RAMPS = { start: 0.5, upS: 0.5, finish: 0.25, downS: 3 } as const;
export const rampsFor = (ampsA: number): Required<Pick<WeldSettings, 'startA' | 'upSlopeS' | 'finishA' | 'downSlopeS'>> => ({
	startA: Math.max(5, Math.round(RAMPS.start * ampsA)),
	upSlopeS: RAMPS.upS,
	finishA: Math.max(5, Math.round(RAMPS.finish * ampsA)),
	downSlopeS: RAMPS.downS
});

/** @param own the settings in use now: volts, process and gas are kept; the rest is advised */
// eslint-disable-next-line complexity, max-lines-per-function -- a line for each field of the settings
export function adviseSettings(joint: Joint, sheets: ResponseInput['sheets'], own: WeldSettings, ambientC: number, bar?: Bar): SettingsAdvice {
	const [a, b] = [sheets[0], sheets[1] ?? sheets[0]];
	const m = a.material;
	const mean = (a.thicknessMm + b.thicknessMm) / 2;
	const thin = Math.min(a.thicknessMm, b.thicknessMm);
	const thick = Math.max(a.thicknessMm, b.thicknessMm);
	const cautions: string[] = [];
	const fields: AdvisedField[] = [];
	const put = (key: keyof WeldSettings, label: string, value: string | number, unit: string, why: string) =>
		fields.push({ key, label, value, unit, why });

	const isOnBar = bar !== undefined && bar.thicknessMm >= THICK_BAR_MM && Math.abs(bar.offsetMm ?? 0) < bar.widthMm / 2;
	const share = isOnBar ? 5 / 6 : 1;
	// sealing: 50 A peak and 36 A background, half on, are 43 A on 1.2 mm
	const cut = joint.penetration === 'full' ? 1 : joint.penetration === 'partial' ? 0.95 : 0.91;
	const rule = (mean / 0.0254) * share * cut;
	const pulsed = joint.penetration === 'sealing' || thin <= 1;
	const settings: WeldSettings = { ...own, current: pulsed ? 'pulsed' : 'steady' };
	delete settings.backgroundA;
	delete settings.pulsesPerSecond;
	delete settings.onFraction;
	/** peak and background for a mean current: half on, background seven tenths of the peak */
	const set = (amps: number) => {
		if (!pulsed) return { ...settings, ampsA: amps };
		const peak = amps / 0.85;
		return { ...settings, ampsA: peak, backgroundA: 0.7 * peak, pulsesPerSecond: 8, onFraction: 0.5 };
	};
	const chosen = set(rule);
	const round = (v: number) => Math.max(1, Math.round(v));
	chosen.ampsA = round(chosen.ampsA);
	if (pulsed) chosen.backgroundA = round(chosen.backgroundA!);
	// the travel that gives the pool wanted at that current, by bisection on the heat solver
	const wanted = POOL_WANTED[joint.penetration] * mean * (isOnBar ? 1.1 : 1);
	const input = (speedMmPerS: number): ResponseInput => ({ joint, settings: { ...chosen, speedMmPerS }, sheets, ambientC, bar });
	let [lo, hi] = [0.2, 40];
	for (let i = 0; i < 12; i++) {
		const mid = Math.sqrt(lo * hi);
		if (poolWidth(input(mid)) > wanted) lo = mid;
		else hi = mid;
	}
	const solved = Math.sqrt(lo * hi);
	// a leg of filler wants heat of its own: no faster than melts it
	const leg = filletOf(joint);
	const melts = leg ? arcEnergy({ ...chosen, speedMmPerS: 1 }).netHeat / heatForLeg(leg, m) : Infinity;
	const asked = Math.round(10 * Math.min(SPEEDS[1], Math.max(SPEEDS[0], solved))) / 10;
	chosen.speedMmPerS = asked <= melts ? asked : Math.max(0.1, Math.floor(10 * melts) / 10);
	if (melts < SPEEDS[0])
		cautions.push(
			`A leg of ${leg} mm is heavy for ${mean.toFixed(1)} mm sheet at this current: its filler melts at ${melts.toFixed(1)} mm/s or slower. A smaller leg, more current, or a second pass.`
		);
	if (solved < SPEEDS[0] || solved > SPEEDS[1])
		cautions.push(
			`At the current the trade starts from, the heat solver asks for ${solved.toFixed(1)} mm/s for a pool of ${wanted.toFixed(1)} mm: ${solved > SPEEDS[1] ? 'faster than a hand keeps up, so take less current' : 'slower than is usual, so take more current'}. Try it on scrap of the same thickness first.`
		);
	const ruleWords = `1 A per 0.001 in is ${(mean / 0.0254).toFixed(0)} A${isOnBar ? ', five sixths of it on a thick bar' : ''}${cut < 1 ? `, ${cut} of it for ${joint.penetration}` : ''} (common practice, no source)`;
	put(
		'current',
		'Current',
		pulsed ? 'pulsed' : 'steady',
		'',
		pulsed ? 'thin or sealing work: pulses keep the pool small' : 'thick enough to run steady'
	);
	put('ampsA', pulsed ? 'Peak' : 'Amps', chosen.ampsA, 'A', ruleWords);
	if (own.process === 'TIG') {
		chosen.polarity = polarityFor(a.material, b.material);
		put(
			'polarity',
			'Polarity',
			chosen.polarity,
			'',
			chosen.polarity === 'AC' ? 'AC breaks the oxide skin of aluminium' : 'electrode negative: the heat goes into the sheet and the point lasts'
		);
		const ramps = rampsFor(chosen.ampsA);
		Object.assign(chosen, ramps);
		put('startA', 'Start', ramps.startA, 'A', `rises in ${ramps.upSlopeS} s: no blow-through at a thin edge (common practice, no source)`);
		put('upSlopeS', 'Rise', ramps.upSlopeS, 's', 'to the welding current');
		put('finishA', 'Finish', ramps.finishA, 'A', `falls in ${ramps.downSlopeS} s: the crater fills and does not crack (common practice, no source)`);
		put('downSlopeS', 'Fall', ramps.downSlopeS, 's', 'from the welding current');
	}
	if (pulsed) {
		put('backgroundA', 'Background', chosen.backgroundA!, 'A', 'about seven tenths of the peak (common practice, no source)');
		put('pulsesPerSecond', 'Pulses', 8, 'per s', 'common for sealing work (no source)');
		put('onFraction', 'On-time', 0.5, '', 'half on (common practice, no source)');
	}
	put(
		'speedMmPerS',
		'Travel speed',
		chosen.speedMmPerS,
		'mm/s',
		melts < Math.min(SPEEDS[1], solved)
			? `slow enough to melt the filler of a ${leg} mm leg (at most ${MELTING_SHARE} of the heat melts metal: Wells 1952, from memory)`
			: `the heat solver: a pool of ${wanted.toFixed(1)} mm at this current`
	);
	const filler = fillerFor(a.material, b.material);
	if (joint.filler) {
		if (filler.grade) {
			chosen.fillerGrade = filler.grade;
			put('fillerGrade', 'Filler', filler.grade, '', filler.why);
		} else cautions.push(`Filler: ${filler.why}.`);
		chosen.fillerMm = thin <= 1 ? 1 : thin <= 1.6 ? 1.2 : thin <= 3 ? 1.6 : 2.4;
		put('fillerMm', 'Filler size', chosen.fillerMm, 'mm', 'about the thickness of the thinner sheet, not above it by much');
	} else if (filler.grade === '309L' && a.material.group !== b.material.group)
		cautions.push(`Fused without filler across unlike metals: the weld may crack. Feed 309L (${filler.why}).`);
	if (a.material.group !== b.material.group && filler.grade === undefined) cautions.push(filler.why);

	const meanAmps = arcEnergy(chosen).meanAmps;
	const peak = chosen.ampsA;
	const tungsten = TUNGSTENS.find(([top]) => peak <= top) ?? TUNGSTENS[TUNGSTENS.length - 1];
	chosen.tungstenMm = tungsten[1];
	chosen.tungsten = 'lanthanated';
	put('tungstenMm', 'Tungsten', tungsten[1], 'mm', `carries up to ${tungsten[0]} A (typical range, from memory); lanthanated, ground to a point`);
	chosen.cupMm = thin < 1.5 ? 10 : thin < 3 ? 12 : 16;
	put('cupMm', 'Cup', chosen.cupMm, 'mm', 'a wider cup shields more of the hot seam; fillets need a narrow one to get in');
	chosen.stickOutMm = Math.round((JOINTS[joint.type].isEdgeToEdge ? 0.5 : 0.75) * chosen.cupMm);
	put(
		'stickOutMm',
		'Stick-out',
		chosen.stickOutMm,
		'mm',
		'at most the bore of the cup; about half of it on a flat seam (common practice, no source)'
	);
	chosen.gasLPerMin = chosen.cupMm >= 12 ? 12 : 8;
	put('gasLPerMin', 'Gas', chosen.gasLPerMin, 'L/min', '7 to 16 for small cups, 12 and up for large (common practice, no source)');
	chosen.preFlowS = 0.5;
	put('preFlowS', 'Pre-flow', 0.5, 's', 'clears the hose and the cup of air (common practice, no source)');
	chosen.postFlowS = joint.penetration === 'sealing' ? 2 : Math.max(6, Math.round(meanAmps / 10));
	put(
		'postFlowS',
		'Post-flow',
		chosen.postFlowS,
		's',
		'about a second for each 10 A and six at the least; up to 20 where colour matters (common practice, no source)'
	);
	const needsRoot = metalOf(m).welding.needsRootGas && joint.penetration === 'full' && !isOnBar;
	if (needsRoot) {
		chosen.purgeLPerMin = 2.4;
		put(
			'purgeLPerMin',
			'Back purge',
			2.4,
			'L/min',
			'a full-penetration root in air sugars; about 2.4 L/min or less once it is swept (common practice, no source)'
		);
	} else delete chosen.purgeLPerMin;

	if (thick / thin > 1.3)
		cautions.push(
			`Sheets of ${a.thicknessMm} and ${b.thicknessMm} mm: hold the arc on the thicker one and wash the pool over; these amps are for their mean.`
		);
	cautions.push(...new Set([a, b].flatMap((x) => metalOf(x.material).welding.cautions)));
	return { settings: chosen, fields, checks: heatChecks({ joint, settings: chosen, sheets, ambientC, bar }), cautions };
}

/** What the heat solver makes of settings on a joint. */
export function heatChecks(input: ResponseInput): HeatCheck[] {
	const { joint, sheets } = input;
	const r = weldResponse(input);
	const mean = sheets.reduce((s, x) => s + x.thicknessMm, 0) / sheets.length;
	const width = r.meltWidthMm;
	const ratio = width / mean;
	const out: HeatCheck[] = [];
	const pool = ratio > 0.05 ? `pool ${width.toFixed(1)} mm wide on ${mean.toFixed(2)} mm sheet` : 'the line does not melt';
	out.push({
		label: 'Drops through?',
		of: 'weld',
		isGood: ratio <= DROPS_THROUGH,
		words: ratio > DROPS_THROUGH ? `Likely: ${pool}. Less current, more speed or a bar.` : `No: ${pool}.`
	});
	if (joint.penetration === 'full')
		out.push({
			label: 'Reaches the root?',
			of: 'weld',
			isGood: ratio >= REACHES_ROOT,
			words: ratio >= REACHES_ROOT ? `Yes, by the thin-plate source: ${pool}.` : `Not surely: ${pool}. More current, less speed, or a gap.`
		});
	else
		out.push({
			label: joint.penetration === 'sealing' ? 'Fuses only?' : 'Stays within the sheet?',
			of: 'weld',
			isGood: ratio >= FUSES && ratio < POOL_WANTED.full,
			words:
				ratio < FUSES
					? 'It does not fuse: more current or less speed.'
					: ratio < POOL_WANTED.full
						? `Yes: ${pool}.`
						: `It goes through: ${pool}, though ${joint.penetration} penetration is asked for.`
		});
	const tint = r.tintWidthMm;
	out.push({
		label: 'Tint',
		of: 'surface',
		isGood: tint < 25 * mean,
		words: `A band about ${tint.toFixed(0)} mm wide passes ${TINT_C} °C${tint >= 25 * mean ? ': wide for this sheet. Less heat, more speed, a bar or a trailing shield.' : '.'}`
	});
	const cup = input.settings.cupMm;
	if (cup !== undefined && cup < width * 1.5)
		out.push({
			label: 'Cup',
			of: 'surface',
			isGood: false,
			words: `A cup of ${cup} mm covers little more than the pool (${width.toFixed(1)} mm): take a wider one.`
		});
	if (input.settings.stickOutMm !== undefined && cup !== undefined && input.settings.stickOutMm > cup)
		out.push({
			label: 'Stick-out',
			of: 'surface',
			isGood: false,
			words: `${input.settings.stickOutMm} mm of tungsten beyond a cup of ${cup} mm: air gets in. Shorten it, or use a gas lens.`
		});
	return out;
}

/** Where settings in use differ from the advice by more than the advice is sure of. */
export function differences(own: WeldSettings, advice: SettingsAdvice): { label: string; own: string; advised: string; why: string }[] {
	const shown = (v: unknown, unit: string) => (v === undefined || v === '' ? 'not given' : `${String(v)}${unit ? ` ${unit}` : ''}`);
	return advice.fields.flatMap((f) => {
		const now = own[f.key];
		const isClose =
			typeof f.value === 'number'
				? typeof now === 'number' && Math.abs(now - f.value) <= 0.15 * Math.abs(f.value)
				: String(now ?? '') === String(f.value);
		return isClose ? [] : [{ label: f.label, own: shown(now, f.unit), advised: shown(f.value, f.unit), why: f.why }];
	});
}
