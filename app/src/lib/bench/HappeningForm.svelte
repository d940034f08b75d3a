<script lang="ts">
	/** What is asked with something that went otherwise: big fields, filled with what the step in hand already says. */
	import { CHOICES, FIELD_WORDS, HAPPENING, type DataField, type EventData, type HappeningKind } from '$core/weldout/happenings';
	import type { StepNow } from '$core/weldout/logbook';
	import { untrack } from 'svelte';
	import { filledFrom, isLength, isWords, readTyped } from './typed';
	import type { BenchPlanView } from './view';

	interface Props {
		what: HappeningKind;
		now?: StepNow;
		view: Pick<BenchPlanView, 'plan' | 'shop'>;
		unit: 'mm' | 'in';
		/** known already, beside what the step says */
		said?: Partial<Record<DataField, string>>;
		onlog(data: EventData, note: string): void;
		onleave(): void;
	}
	let { what, now, view, unit, said, onlog, onleave }: Props = $props();
	const kind = $derived(HAPPENING[what]);
	// taken once: the form is made anew for another step
	let text = $state<Partial<Record<DataField, string>>>(untrack(() => ({ ...filledFrom(what, now?.step), ...said })));
	let note = $state('');
	const lists = $derived<Partial<Record<DataField, readonly { id: string; name: string }[]>>>({
		joint: view.plan.joints.filter((j) => !j.stock),
		holdDown: view.plan.holdDowns,
		part: view.plan.parts,
		feature: view.plan.features,
		...Object.fromEntries(Object.entries(CHOICES).map(([field, words]) => [field, Object.entries(words).map(([id, name]) => ({ id, name }))]))
	});
	/** a plan kept on this device by an older version has none */
	const products = $derived(view.shop.products ?? []);
	/** names of the shop's that fit a field: typed otherwise where the register does not have it */
	const offered = $derived<Partial<Record<DataField, readonly string[]>>>({
		instrument: view.shop.instruments[what === 'metal' ? 'metalC' : 'mm'] ?? [],
		product: products.map((p) => p.name),
		source: view.shop.sources
	});
	const product = $derived(products.find((p) => p.name === text.product?.trim()));
	const typed = $derived(readTyped('happened', what, text, now?.step.id, view.plan, unit));
	const box = 'mt-1 min-h-14 w-full rounded-sm border border-steel-500 bg-white px-3 text-xl';
</script>

<form
	class="max-w-3xl"
	onsubmit={(e) => {
		e.preventDefault();
		if (typed.data) onlog(typed.data, note.trim());
	}}
>
	<h2 class="text-2xl">{kind.words}</h2>
	<p class="mt-1 text-lg text-steel-700">{kind.hint}</p>
	<div class="mt-3 grid gap-3 sm:grid-cols-2">
		{#if what === 'filler' && view.shop.fillers.length}
			<label class="block text-lg font-medium sm:col-span-2" for="h-batch"
				>From the shop’s batches
				<select
					id="h-batch"
					class={box}
					onchange={(e) => {
						const batch = view.shop.fillers[Number(e.currentTarget.value)];
						if (batch) text = { ...text, filler: batch.grade, heat: batch.batch };
					}}
				>
					<option value="">–</option>
					{#each view.shop.fillers as b, i (b.name)}<option value={i}>{b.name}: {b.grade}, {b.batch}</option>{/each}
				</select>
			</label>
		{/if}
		{#each kind.asks as f (f)}
			<label class="block text-lg font-medium" for="h-{f}"
				>{FIELD_WORDS[f]}{isLength(f) ? `, ${unit}` : ''}{kind.must.includes(f) ? '' : ' (if known)'}
				{#if lists[f]}
					<select id="h-{f}" class={box} bind:value={text[f]}>
						<option value="">–</option>
						{#each lists[f] as x (x.id)}<option value={x.id}>{x.name}</option>{/each}
					</select>
				{:else}
					<input
						id="h-{f}"
						class="{box} tab"
						inputmode={isWords(f) ? 'text' : 'decimal'}
						maxlength={60}
						autocomplete="off"
						list="h-{f}-of"
						bind:value={text[f]}
					/>
					{#if offered[f]?.length}<datalist id="h-{f}-of"
							>{#each offered[f] as x (x)}<option value={x}></option>{/each}</datalist
						>{/if}
				{/if}
			</label>
		{/each}
		{#if product}<p class="text-lg text-straw-700 sm:col-span-2" role="status">
				{product.words}. Gloves and face shield; rinse until the water is neutral.
			</p>{/if}
		<label class="block text-lg font-medium sm:col-span-2" for="h-note"
			>Words, if they help
			<input id="h-note" class={box} maxlength={2000} autocomplete="off" bind:value={note} />
		</label>
	</div>
	<div class="mt-4 flex flex-wrap gap-3">
		<button type="submit" class="min-h-16 rounded-sm bg-steel-800 px-6 text-xl font-semibold text-white disabled:bg-steel-300" disabled={!typed.data}
			>Log it</button
		><button type="button" class="min-h-16 rounded-sm border-2 border-steel-400 px-6 text-xl font-semibold" onclick={onleave}>Leave it</button>
		{#if typed.faults.length}<p class="self-center text-lg text-steel-600">{typed.faults.join('. ')}.</p>{/if}
	</div>
</form>
