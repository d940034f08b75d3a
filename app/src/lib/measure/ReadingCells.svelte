<script lang="ts">
	/** Where readings are typed: a cell a place, as many as the method has or a person chooses; coordinates pasted as a file gives them. */
	import { onMount } from 'svelte';
	import { Label } from 'flowbite-svelte';
	import type { Cells } from './cells';
	import Keypad from './Keypad.svelte';

	interface Props {
		cells: Cells;
		/** as typed, by place */
		text: string[];
		onset(at: number, value: string): void;
		/** all at once, as many as are given */
		onall(values: string[]): void;
		onenter(at: number): void;
		/** the place in hand */
		onat(at: number): void;
		/** place of the first that is no number, or -1 */
		bad: number;
	}
	let { cells, text, onset, onall, onenter, onat, bad }: Props = $props();
	const chosen = $derived(cells.chosen);
	/** kept on this device: who reads with gloves does so tomorrow too */
	let isLarge = $state(false);
	let hand = $state(0);
	onMount(() => (isLarge = localStorage.getItem(LARGE) === 'yes'));
	function large(on: boolean) {
		isLarge = on;
		localStorage.setItem(LARGE, on ? 'yes' : 'no');
	}
	const inHand = $derived(Math.min(hand, text.length - 1));
	const step = $derived(cells.isPoints ? 3 : 1);
	const count = $derived(text.length);
	const resize = (to: number) => onall(Array.from({ length: to }, (_, i) => text[i] ?? ''));
	/** of a long row on a phone: its number alone, the rest for who listens */
	const shortOf = (label: string) => (cells.columns > 3 ? label.split(':')[0] : label);
	const LARGE = 'sarta-large-keys';
	let pasted = $state('');
	let told = $state('');
	/** One point a line, three numbers each; what else stands in a file's lines is told and not taken. */
	function take() {
		const lines = pasted.split(/\r?\n/).filter((l) => l.trim());
		const points: string[][] = [];
		for (const [i, line] of lines.entries()) {
			const numbers = line
				.trim()
				.split(/[;\t ]+|,\s*(?=[-+\d.])/)
				.filter(Boolean);
			if (numbers.length === 3 && numbers.every((n) => Number.isFinite(Number(n)))) points.push(numbers);
			else if (i > 0) return void (told = `Line ${i + 1}: “${line.slice(0, 40)}” is not three numbers. Nothing was taken.`);
		}
		const most = (chosen?.most ?? Infinity) / 3;
		if (points.length < (chosen?.least ?? 0) / 3) told = `${points.length} points: it takes ${(chosen?.least ?? 0) / 3} at least. Nothing was taken.`;
		else if (points.length > most) told = `${points.length} points: here it takes ${most} at most. Leave some out.`;
		else {
			onall(points.flat());
			pasted = '';
			told = `${points.length} points taken.`;
		}
	}
</script>

{#if cells.isPoints}
	<div class="mt-2">
		<Label for="points" class="mb-0.5 text-[12px] text-steel-600">One point a line: x, y, z, in {cells.lengths}</Label>
		<textarea id="points" rows="3" class="tab w-full rounded-sm border border-steel-400 px-2 py-1.5" bind:value={pasted}></textarea>
		<button
			type="button"
			class="min-h-8 rounded-sm border border-steel-400 px-3 text-sm disabled:text-steel-400"
			disabled={!pasted.trim()}
			onclick={take}>Take these points</button
		>
		{#if told}<span class="ml-2 text-sm" role="status">{told}</span>{/if}
	</div>
{/if}
<div class="mt-2 grid gap-2" style="grid-template-columns: repeat({cells.columns}, minmax(0, 1fr))">
	{#each cells.labels as label, i (i)}
		<div>
			<Label for="cell-{i}" class="mb-0.5 text-[12px] text-steel-600"
				>{shortOf(label)}{#if shortOf(label) !== label}<span class="max-sm:sr-only">{label.slice(shortOf(label).length)}</span>{/if}{cells.units[
					i
				] === cells.units[0]
					? ''
					: `, ${cells.units[i] === '°' ? '°' : cells.lengths}`}</Label
			><input
				id="cell-{i}"
				type="text"
				inputmode={isLarge ? 'none' : cells.lengths === 'in' ? 'text' : 'decimal'}
				autocomplete="off"
				class="tab min-h-11 w-full rounded-sm border border-steel-400 px-2 py-1.5 text-lg {bad === i ? 'border-plum-600' : ''}"
				value={text[i]}
				aria-invalid={bad === i ? 'true' : undefined}
				onfocus={() => {
					hand = i;
					onat(i);
				}}
				oninput={(e) => onset(i, e.currentTarget.value)}
				onkeydown={(e) => {
					if (e.key !== 'Enter') return;
					e.preventDefault();
					onenter(i);
				}}
			/>
		</div>
	{/each}
</div>
{#if isLarge && !cells.isPoints}
	<Keypad
		label={cells.labels[inHand]}
		text={text[inHand] ?? ''}
		isLast={inHand === text.length - 1}
		onset={(value) => onset(inHand, value)}
		onnext={() => onenter(inHand)}
	/>
{/if}
{#if !cells.isPoints}<button
		type="button"
		class="mt-2 min-h-9 rounded-sm border border-steel-400 px-3 text-sm"
		aria-pressed={isLarge}
		onclick={() => large(!isLarge)}>Large keys</button
	>{/if}
{#if chosen}
	<div class="mt-2 flex items-center gap-2 text-sm">
		<span class="tab">{count / step} {cells.isPoints ? 'points' : count === 1 ? 'place' : 'places'}</span>
		<button
			type="button"
			class="min-h-9 rounded-sm border border-steel-400 px-3 disabled:text-steel-400"
			disabled={count <= chosen.least}
			onclick={() => resize(count - step)}>One fewer</button
		>
		<button
			type="button"
			class="min-h-9 rounded-sm border border-steel-400 px-3 disabled:text-steel-400"
			disabled={count >= chosen.most}
			onclick={() => resize(count + step)}>One more</button
		>
	</div>
{/if}
