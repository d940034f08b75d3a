import type { RegisterKind } from '$core/document/words';
import type { ItemOf, RegisterItem } from '$core/registers/registers';

/** What the shop has, as a page gets it from the server. */
export type Shop = readonly { id: string; kind: RegisterKind; item: RegisterItem }[];

export const itemsOf = <K extends RegisterKind>(shop: Shop, kind: K) =>
	shop.filter((r) => r.kind === kind).map((r) => ({ id: r.id, item: r.item as ItemOf[K] }));
