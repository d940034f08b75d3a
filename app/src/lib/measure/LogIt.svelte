<script lang="ts">
	/** Something is entered in a piece's log from a page beside the bench: what was put right, seen or tested. */
	import { HAPPENING, type DataField, type EventData, type HappeningKind } from '$core/weldout/happenings';
	import HappeningForm from '$lib/bench/HappeningForm.svelte';
	import type { BenchPlanView } from '$lib/bench/view';
	import { call, type Refusal } from '$lib/call';
	import Notice from '$lib/ui/Notice.svelte';
	import { uuid } from '$lib/uuid';

	interface Props {
		piece: string;
		kinds: readonly HappeningKind[];
		view: Pick<BenchPlanView, 'plan' | 'shop'>;
		unit: 'mm' | 'in';
		/** filled in already */
		said?: Partial<Record<DataField, string>>;
		/** opened at once, without its button */
		at?: HappeningKind;
		/** kept with what is typed */
		also?(data: EventData): Partial<EventData>;
		onlogged(): void;
		onleave?(): void;
	}
	let { piece, kinds, view, unit, said, at, also, onlogged, onleave }: Props = $props();
	let picked = $state<HappeningKind | undefined>();
	const open = $derived(picked ?? at);
	let refusal = $state<Refusal | undefined>();
	/** one id an entry: pressing twice enters it once */
	let id = uuid();
	async function log(data: EventData, note: string) {
		const entry = {
			clientId: id,
			kind: 'happened',
			happenedAt: new Date().toISOString(),
			data: { ...data, ...also?.(data) },
			...(note ? { note } : {})
		};
		const r = await call<{ refused: { message: string }[] }>('POST', `/api/pieces/${piece}/events`, { events: [entry] });
		const told = r.ok ? r.data.refused[0]?.message : undefined;
		refusal = r.ok ? (told ? { status: 422, message: told, faults: [] } : undefined) : r.refusal;
		if (refusal) return;
		id = uuid();
		picked = undefined;
		onlogged();
	}
</script>

{#if refusal}<div class="mb-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
{#if open}
	{#key open}<HappeningForm
			what={open}
			{view}
			{unit}
			{said}
			onlog={log}
			onleave={() => {
				picked = undefined;
				onleave?.();
			}}
		/>{/key}
{:else}
	<div class="flex flex-wrap gap-2">
		{#each kinds as kind (kind)}<button
				type="button"
				class="min-h-11 rounded-sm border border-steel-400 bg-white px-3 text-sm font-medium"
				onclick={() => (picked = kind)}>{HAPPENING[kind].words}</button
			>{/each}
	</div>
{/if}
