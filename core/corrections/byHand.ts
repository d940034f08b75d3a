/** What hands and machines do to one feature that is out, by geometry and closed forms: one entry a kind of feature. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import type { FeatureKind } from '../document/words';
import { featureKind, unitOf } from '../features';
import type { Vec3 } from '../geometry/vec';
import { distance } from '../geometry/vec';
import { findMaterial } from '../materials/grades';
import { WAY_WORDS, type WayKind } from '../weldout/afterwards';
import { springOfLeg, springOfStrip } from './pressing';
import type { ReadNow, RightEnd, Way } from './way';

/** Minutes to set up and do it (own estimates). */
const MINUTES = { press: 10, grind: 20, shim: 5, cool: 15 };
/** A leg is gripped about this far from its fold, mm (common practice, no source). */
const REACH_MM = 50;
/** A face that loses more of its thickness than this is no longer the sheet that was asked for (own choice). */
const MOST_GROUND = 0.1;

const PRESS_RISK =
	'Too far and it must come back the other way; a fold or a flange beside it springs otherwise than the sheet alone. Fingers out of the press, and padding between jaw and sheet.';

interface Hand {
	value: number;
	/** as it is said */
	off: string;
	thicknessMm: number;
	proofMPa: number;
	eMPa: number;
	/** between the farthest places of the feature, mm */
	span: number;
	/** the feature as the drawing has it */
	brought: RightEnd[];
	way(kind: WayKind, how: string, minutes: number, risk: string, by: Way['by'], ends?: RightEnd[]): Way;
}

/** @param places of the feature, in the drawing */
export function byHand(plan: PlanDocument, feature: AnyFeature, { value, uncertainty90 }: ReadNow, places: readonly Vec3[]): Way[] {
	const part = plan.parts.find((p) => p.id === featureKind(feature).places(feature, plan)[0].part)!;
	const { proofStrength, eModulus } = findMaterial(part.material, plan.materials);
	return BY_HAND[feature.kind]({
		value,
		off: Math.abs(value).toFixed(unitOf(feature) === '°' ? 1 : 2),
		thicknessMm: part.thicknessMm,
		proofMPa: proofStrength,
		eMPa: eModulus,
		span: Math.max(...places.flatMap((p) => places.map((q) => distance(p, q)))),
		brought: [{ feature: feature.id, value: 0, low: -uncertainty90, high: uncertainty90 }],
		way: (kind, how, minutes, risk, by, ends = []) => ({
			id: `${kind}:${feature.id}`,
			kind,
			label: `${WAY_WORDS[kind]}: ${feature.name}`,
			how,
			ends,
			minutes,
			risk,
			by
		})
	});
}

const shim = ({ way, off }: Hand) =>
	way(
		'shimmed',
		`Where it is only to stand or be bolted true: up to ${off} mm of shim under what does not touch. The piece stays as it is, and its limit needs a concession.`,
		MINUTES.shim,
		'Bolted down without it, it is bent as it is fixed, and pulls on its own welds.',
		'common practice, no source'
	);
const cool = ({ way }: Hand) =>
	way(
		'cooled',
		'While it is still hot after a run only: a wet rag or a block on the side that must come in draws it in. Cold, it does nothing.',
		MINUTES.cool,
		'Water and arc: power off, metal dry before the next arc. Never on metal that hardens when quenched.',
		'common practice, no source'
	);

const BY_HAND: { readonly [K in FeatureKind]: (hand: Hand) => Way[] } = {
	straightness({ way, span, off, thicknessMm, proofMPa, eMPa, brought }) {
		const spring = springOfStrip(span, thicknessMm, proofMPa, eMPa);
		return [
			way(
				'pressed',
				`On two supports ${span.toFixed(0)} mm apart, press the high place ${off} mm down to straight and up to ${spring.toFixed(1)} mm beyond, little by little: that is what a bare strip of ${thicknessMm} mm springs back. Let go and read after each push.`,
				MINUTES.press,
				PRESS_RISK,
				'closed form',
				brought
			)
		];
	},
	angle({ way, value, span, off, thicknessMm, proofMPa, eMPa, brought }) {
		const reach = Math.min(span / 2, REACH_MM);
		const spring = springOfLeg(reach, thicknessMm, proofMPa, eMPa);
		return [
			way(
				'pressed',
				`Bend the leg ${off}° ${value > 0 ? 'closed' : 'open'}; gripped between two bars ${reach.toFixed(0)} mm from the fold it goes up to ${spring.toFixed(1)} mm beyond there, which springs back. Little by little, read with a square each time.`,
				MINUTES.press,
				PRESS_RISK,
				'closed form',
				brought
			)
		];
	},
	flatness(hand) {
		const { way, value, off, thicknessMm, brought } = hand;
		const loses = Math.abs(value) / thicknessMm;
		const tooMuch = loses > MOST_GROUND;
		return [
			way(
				'ground',
				`To be flat by grinding alone, up to ${off} mm come off its high places: ${(thicknessMm - Math.abs(value)).toFixed(2)} of ${thicknessMm} mm are left there.${
					tooMuch ? ` That is ${(100 * loses).toFixed(0)} % of the sheet: too much to be the sheet that was asked for. Not this way.` : ''
				}`,
				MINUTES.grind,
				'A thin place stays thin. Heat of the sander can wave it anew: light passes, let it cool between. Not on a face whose finish counts.',
				'geometry',
				tooMuch ? [] : brought
			),
			shim(hand)
		];
	},
	twist(hand) {
		return [
			hand.way(
				'pressed',
				`Hold three corners down and press the fourth beyond the plate by its ${hand.off} mm and what it springs back; read by rocking after each push.`,
				MINUTES.press,
				PRESS_RISK,
				'common practice, no source'
			),
			shim(hand)
		];
	},
	squareness(hand) {
		return [
			hand.way(
				'pressed',
				`Draw the longer diagonal in with a clamp or a strap from corner to corner: half of the ${hand.off} mm and what it springs back, little by little. Take it off and read both after each pull.`,
				MINUTES.press,
				PRESS_RISK,
				'common practice, no source'
			),
			cool(hand)
		];
	},
	length(hand) {
		return [
			hand.way(
				'pressed',
				`${hand.value < 0 ? 'Spread it with a jack' : 'Draw it in with a clamp'} between the two places: ${hand.off} mm and what it springs back, which the first pull that stays will show. Take it off and read after each.`,
				MINUTES.press,
				PRESS_RISK,
				'common practice, no source'
			),
			...(hand.value > 0 ? [cool(hand)] : [])
		];
	}
};
