/** Hold-downs as they are first put on: usual sizes, on from the start, off when cold. All of it stays editable. */
import { deepestPoint, pathLength } from '$core/geometry/polyline';
import { distance } from '$core/geometry/vec';
import { layoutBox } from '$core/mesh/assemblyMesh';
import { spaceOf } from '$core/layout/space';
import type { AnyHoldDown, Bar, Joint, Part, PlanDocument } from '$core/document/schema';
import { HOLDS } from '$core/holds';
import { HOLD_DOWN_KINDS, type HoldDownKind } from '$core/document/words';

/** What a planner can put on; a chill block is a bar beside the seam. */
export const HOLD_CHOICES: readonly { value: HoldChoice; name: string; on: 'seam' | 'part' }[] = [
	...HOLD_DOWN_KINDS.flatMap((value) => [
		{ value, name: HOLDS[value].name, on: HOLDS[value].on },
		...(value === 'bar' ? [{ value: 'block' as const, name: 'Chill block', on: 'seam' as const }] : [])
	])
];
export type HoldChoice = HoldDownKind | 'block';

const life = () => ({ on: 'start', off: 'when-cold' });
const tenth = (mm: number) => Math.floor(mm * 10) / 10;
const E_STEEL = 200_000;

/** A rectangular bar's second moments and torsion, mm4 (thin-rectangle formula for torsion). */
export const barSection = (widthMm: number, heightMm: number) => ({
	areaMm2: widthMm * heightMm,
	iOutMm4: (widthMm * heightMm ** 3) / 12,
	iInMm4: (heightMm * widthMm ** 3) / 12,
	torsionMm4: (Math.max(widthMm, heightMm) * Math.min(widthMm, heightMm) ** 3) / 3
});

function newBar(joint: Joint, id: string, offsetMm?: number): Bar {
	const beside = offsetMm !== undefined;
	return {
		id,
		name: beside ? `Chill block beside ${joint.name}` : `Bar on ${joint.name}`,
		kind: 'bar',
		joint: joint.id,
		fromMm: 0,
		toMm: tenth(pathLength(joint.a.path)),
		material: 'copper',
		widthMm: beside ? 30 : 40,
		thicknessMm: beside ? 20 : 10,
		contact: 'tight',
		...(beside ? { offsetMm } : {}),
		life: life()
	};
}

/** Well inside the panel that lies on the bench: clear of edges, holes and folds. */
const placeOf = (part: Part) =>
	deepestPoint(
		part.outline,
		part.holes,
		part.bends.map((b) => [b.from, b.to] as const)
	);

/** @param unique makes an id from a short word. @returns what to add */
export function newHolds(
	choice: HoldChoice,
	plan: PlanDocument,
	joint: Joint | undefined,
	part: Part,
	unique: (word: string) => string
): AnyHoldDown[] {
	const box = layoutBox(part.outline);
	const { at: base, depth } = placeOf(part);
	const reach = 0.8 * depth;
	if (choice === 'bar' && joint) return [newBar(joint, unique('bar'))];
	if (choice === 'block' && joint) return [newBar(joint, unique('block'), 25)];
	if (choice === 'clamp' && joint) {
		const l = pathLength(joint.a.path);
		const n = Math.max(2, Math.round(l / 150) + 1);
		const edge = Math.min(15, l / 4);
		return Array.from({ length: n }, (_, i) => ({
			id: `${unique('clamp')}-${i}`,
			name: `Clamp ${i + 1} on ${joint.name}`,
			kind: 'clamp',
			joint: joint.id,
			stationMm: Math.round(edge + ((l - 2 * edge) * i) / (n - 1)),
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: life()
		}));
	}
	if (choice === 'jig' && joint)
		return [
			{
				id: unique('jig'),
				name: `Jig on ${joint.name}`,
				kind: 'jig',
				joint: joint.id,
				fromMm: 0,
				toMm: tenth(pathLength(joint.a.path)),
				holds: 'normal',
				stiffnessNPerMm: 5000,
				life: life()
			}
		];
	const three: [number, number][] = [
		[base[0] - reach, base[1] - reach],
		[base[0] + reach, base[1] - reach],
		[base[0], base[1] + reach]
	];
	if (choice === 'support' || choice === 'table-tack')
		return three.map((at, i) => {
			const common = { id: `${unique(choice)}-${i}`, part: part.id, at, life: life() };
			return choice === 'support'
				? { ...common, name: `Support ${i + 1} under ${part.name}`, kind: 'support', holds: 'normal', stiffnessNPerMm: 5000 }
				: { ...common, name: `Table tack ${i + 1} on ${part.name}`, kind: 'table-tack', stiffnessNPerMm: 50_000 };
		});
	if (choice === 'weight')
		return [{ id: unique('weight'), name: `Weight on ${part.name}`, kind: 'weight', part: part.id, at: base, massKg: 10, life: life() }];
	if (choice === 'brace') {
		const s = barSection(20, 5);
		// to the part that lies farthest off, or across this one
		const here = spaceOf(part)(base);
		const away = (p: Part) => distance(spaceOf(p)(placeOf(p).at), here);
		const other = plan.parts.filter((p) => p.id !== part.id).reduce<Part | undefined>((b, p) => (!b || away(p) > away(b) ? p : b), undefined);
		return [
			{
				id: unique('brace'),
				name: `Brace on ${part.name}`,
				kind: 'brace',
				part: part.id,
				at: other ? base : three[0],
				partB: (other ?? part).id,
				atB: other ? placeOf(other).at : three[1],
				areaMm2: s.areaMm2,
				iMm4: s.iInMm4,
				eModulusMPa: E_STEEL,
				life: life()
			}
		];
	}
	if (choice === 'strongback') {
		const wide = box.x1 - box.x0 > box.y1 - box.y0;
		const path: [number, number][] = wide
			? [
					[base[0] - reach, base[1]],
					[base[0] + reach, base[1]]
				]
			: [
					[base[0], base[1] - reach],
					[base[0], base[1] + reach]
				];
		return [
			{
				id: unique('strongback'),
				name: `Strongback on ${part.name}`,
				kind: 'strongback',
				part: part.id,
				path,
				...barSection(6, 40),
				eModulusMPa: E_STEEL,
				offsetMm: 20,
				pitchMm: 50,
				life: life()
			}
		];
	}
	return [];
}
