<script lang="ts">
	/** The tools of an exercise: whatever is left alone stays as the piece is given. */
	import type { Choices, Tool } from '$core/practice/tools';
	import Choice from '$lib/ui/Choice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { Checkbox } from 'flowbite-svelte';

	interface Named {
		value: string;
		name: string;
	}
	interface Props {
		tools: readonly Tool[];
		tacks: Named[];
		tackOrders: Named[];
		orders: Named[];
		choices: Choices;
	}
	let { tools, tacks, tackOrders, orders, choices = $bindable() }: Props = $props();
	const AS_GIVEN: Named = { value: '', name: 'as given' };
	const put = (change: Partial<Choices>) => (choices = { ...choices, ...change });
	const HOLDS = [
		['bar', 'A copper bar behind every seam'],
		['clamps', 'Clamps along every seam until cold'],
		['strongback', 'An angle clamped along what is to stay straight']
	] as const;
</script>

<div class="grid grid-cols-1 gap-3 sm:grid-cols-2">
	{#if tools.includes('tacks')}
		<Choice
			label="Tacks"
			value={choices.tacks ?? ''}
			items={[AS_GIVEN, ...tacks]}
			onchange={(v) => put({ tacks: (v || undefined) as Choices['tacks'], ...(v ? {} : { tackOrder: undefined }) })}
		/>
		<Choice
			label="Order of the tacks"
			value={choices.tackOrder ?? ''}
			items={[AS_GIVEN, ...tackOrders]}
			disabled={!choices.tacks}
			onchange={(v) => put({ tackOrder: (v || undefined) as Choices['tackOrder'] })}
		/>
	{/if}
	{#if tools.includes('order')}
		<Choice
			label="Order of the runs"
			value={choices.order ?? ''}
			items={[AS_GIVEN, ...orders]}
			onchange={(v) => put({ order: (v || undefined) as Choices['order'], ...(v ? {} : { runLengthMm: undefined }) })}
		/>
		<NumberField
			label="Run length, about"
			value={choices.runLengthMm ?? (choices.order ? 50 : undefined)}
			unit="mm"
			min={10}
			max={500}
			optional
			disabled={!choices.order}
			onchange={(v) => put({ runLengthMm: v })}
		/>
	{/if}
	{#if tools.includes('preset')}
		<NumberField
			label="Set over before tacking"
			value={choices.presetDeg}
			unit="°"
			min={-8}
			max={8}
			optional
			hint="above 0 opens it on the weld side"
			onchange={(v) => put({ presetDeg: v })}
		/>
	{/if}
	{#if tools.includes('planish')}
		<NumberField
			label="Of its pull, hammered out"
			value={choices.planished === undefined ? undefined : 100 * choices.planished}
			unit="%"
			min={0}
			max={100}
			optional
			onchange={(v) => put({ planished: v === undefined ? undefined : v / 100 })}
		/>
	{/if}
</div>
<div class="mt-3 space-y-1">
	{#each HOLDS as [tool, words] (tool)}
		{#if tools.includes(tool)}<div class="flex min-h-11 items-center">
				<Checkbox bind:checked={() => choices[tool] ?? false, (on) => put({ [tool]: on || undefined })}>{words}</Checkbox>
			</div>{/if}
	{/each}
</div>
