import { ALWAYS } from '../always';
import { outwards, walk, type TackOrderKind } from './order';

export const fromTrueCorner: TackOrderKind = {
	name: 'From the true corner to the free end',
	whyNot: ALWAYS,
	order: (o) => outwards(o).flatMap((s) => walk(o, s))
};
