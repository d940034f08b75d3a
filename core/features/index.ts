/** Every kind of feature, as a person measures it. A new kind is a document in `document/schema.ts`, a file here and a line below. */
import type { AnyFeature } from '../document/schema';
import type { FeatureKind } from '../document/words';
import { angle } from './angle';
import type { FeatureRecord } from './feature';
import { flatness } from './flatness';
import { length } from './length';
import { squareness } from './squareness';
import { straightness } from './straightness';
import { twist } from './twist';

export const FEATURES: { readonly [K in FeatureKind]: FeatureRecord<K> } = { flatness, straightness, length, squareness, angle, twist };

/** The record of a feature's own kind. */
export const featureKind = (f: { kind: FeatureKind }): FeatureRecord<FeatureKind> => FEATURES[f.kind] as unknown as FeatureRecord<FeatureKind>;

export const unitOf = (f: AnyFeature): 'mm' | '°' => featureKind(f).unit;
