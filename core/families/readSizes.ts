/** Sizes of a family, each checked against its field. */
import { shown, type Fault } from '../document/faults';
import type { PlanDocument } from '../document/schema';
import { findMaterial } from '../materials/grades';
import { CATALOGUE, type MadeFamily } from '.';
import { isAsked, type FamilyParameters } from './family';

/** Values of a family's fields, each checked against its definition. */
// eslint-disable-next-line complexity -- a line for each sort of field
function readFields(kind: MadeFamily, given: FamilyParameters, faults: Fault[]): FamilyParameters {
	const out: FamilyParameters = {};
	const fault = (name: string, allowed: string) => faults.push({ field: `family.parameters.${name}`, value: shown(given[name]), allowed });
	const def = CATALOGUE[kind];
	const known = new Set(['thicknessMm', 'material', ...def.fields.map((f) => f.name)]);
	for (const name of Object.keys(given)) if (!known.has(name)) fault(name, 'this field is not known here');
	for (const f of def.fields) {
		// a piece made before a field was known takes its default
		const v = given[f.name] ?? (f.when || !(f.name in given) ? def.defaults[f.name] : undefined);
		out[f.name] = v;
		// what is not asked now keeps what it was: the default, or a value that was right when it was asked
		if (!isAsked(f, given) && v === def.defaults[f.name]) continue;
		const unit = f.kind === 'angle' ? '°' : f.kind === 'count' ? '' : ' mm';
		if (f.kind === 'flag') {
			if (typeof v !== 'boolean') fault(f.name, 'must be true or false');
		} else if (f.kind === 'word') {
			if (typeof v !== 'string' || !Object.keys(f.options).includes(v)) fault(f.name, `must be one of: ${Object.keys(f.options).join(', ')}`);
		} else if (f.kind === 'lengths') {
			const fine =
				Array.isArray(v) && v.length >= f.atLeast && v.length <= f.atMost && v.every((x) => typeof x === 'number' && x >= f.min && x <= f.max);
			if (!fine) fault(f.name, `must be ${f.atLeast === f.atMost ? f.atLeast : `${f.atLeast} to ${f.atMost}`} numbers from ${f.min} to ${f.max} mm`);
		} else if (!(typeof v === 'number' && v >= f.min && v <= f.max) || (f.kind === 'count' && !Number.isInteger(v)))
			fault(f.name, `must be a ${f.kind === 'count' ? 'whole number' : 'number'} from ${f.min} to ${f.max}${unit}`);
	}
	return out;
}

/** @returns the family's own values, and what is wrong with them by themselves */
export function readFamily(
	kind: MadeFamily,
	given: FamilyParameters,
	materials?: PlanDocument['materials']
): { read: FamilyParameters; faults: Fault[] } {
	const faults: Fault[] = [];
	const { thicknessMm } = given;
	if (!(typeof thicknessMm === 'number' && thicknessMm >= 0.3 && thicknessMm <= 12))
		faults.push({ field: 'family.parameters.thicknessMm', value: shown(thicknessMm), allowed: 'must be a number from 0.3 to 12 mm' });
	if (typeof given.material !== 'string')
		faults.push({ field: 'family.parameters.material', value: shown(given.material), allowed: 'must be the name of a grade' });
	else
		try {
			findMaterial(given.material, materials);
		} catch (e) {
			faults.push({ field: 'family.parameters.material', value: shown(given.material), allowed: (e as Error).message });
		}
	return { read: readFields(kind, given, faults), faults };
}

/** What is wrong with the sizes a plan says it was made from: a file is refused for them as for anything else. */
export function familyFaults({ family, materials }: Pick<PlanDocument, 'family' | 'materials'>): Fault[] {
	return family && family.kind !== 'free' ? readFamily(family.kind, family.parameters, materials).faults : [];
}
