import type { RegisterKind } from '$core/document/words';
import { instrumentWords, type Quantity } from '$core/registers/instruments';
import { productWords, type ItemOf, type RegisterItem } from '$core/registers/registers';
import type { ShopAtBench } from '$lib/bench/view';

/** From the registers, what the bench picks from: names only, so that it works without the server. */
export function shopAtBench(rows: readonly { kind: RegisterKind; item: RegisterItem }[]): ShopAtBench {
	const of = <K extends RegisterKind>(kind: K) => rows.filter((r) => r.kind === kind).map((r) => r.item as ItemOf[K]);
	const reading = (reads: Quantity) =>
		of('instrument')
			.filter((i) => i.reads === reads)
			.map((i) => instrumentWords(i.name, i.dueOn, new Date()));
	return {
		fillers: of('filler').map(({ name, grade, batch }) => ({ name, grade, batch })),
		instruments: { metalC: reading('temperature'), oxygenPct: reading('oxygen'), mm: reading('length') },
		sources: of('source').map((s) => s.name),
		products: of('product').map((p) => ({ name: p.name, words: productWords(p) }))
	};
}
