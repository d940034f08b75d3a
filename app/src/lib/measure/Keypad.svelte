<script lang="ts">
	/** Large keys for one hand, for the place in hand: where gloves or a thumb do not meet the keys of the tablet. */
	interface Props {
		/** what the place in hand is called, and what stands in it */
		label: string;
		text: string;
		isLast: boolean;
		onset(text: string): void;
		onnext(): void;
	}
	let { label, text, isLast, onset, onnext }: Props = $props();
	const KEYS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.', '/'] as const;
	const NAMES: Partial<Record<string, string>> = { '.': 'point', '/': 'over' };
	const turn = () => onset(text.startsWith('-') ? text.slice(1) : `-${text}`);
	const shape = 'tab min-h-14 rounded-sm border border-steel-400 text-xl';
	const key = `${shape} bg-steel-100 active:bg-steel-300`;
</script>

<div class="mt-2 max-w-[420px]" role="group" aria-label="Large keys">
	<p class="flex items-baseline justify-between text-sm" aria-live="polite">
		<span>{label}</span><span class="tab text-xl font-semibold">{text || '–'}</span>
	</p>
	<div class="mt-1 grid grid-cols-4 gap-1.5">
		{#each KEYS as k, i (k)}
			<button type="button" class={key} aria-label={NAMES[k] ?? k} onclick={() => onset(text + k)}>{k}</button>
			{#if i === 2}<button type="button" class={key} aria-label="Take the last one back" onclick={() => onset(text.slice(0, -1))}>⌫</button
				>{:else if i === 5}<button type="button" class={key} aria-label="The other sign" onclick={turn}>±</button>{:else if i === 8}<button
					type="button"
					class={key}
					aria-label="space, between a whole and a fraction"
					onclick={() => onset(`${text} `)}>␣</button
				>{:else if i === 11}<button type="button" class="{shape} bg-primary-600 text-white active:bg-primary-800" onclick={onnext}
					>{isLast ? 'Keep' : 'Next'}</button
				>{/if}
		{/each}
	</div>
</div>
