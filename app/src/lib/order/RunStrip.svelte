<script lang="ts">
	/** The weld order as one strip: a cell a run, in sequence, lettered by seam and coloured by when. Pick several, drag, or use the keys. */
	import type { Run } from '$core/document/schema';
	import { byWhen } from '$lib/bench-view/colours';
	import { seamLetters } from '$core/layout/seamNames';
	import type { Joint } from '$core/document/schema';

	interface Props {
		runs: readonly Run[];
		joints: readonly Joint[];
		picked?: ReadonlySet<string>;
		/** labels of the position the piece lies in, by run: a mark is drawn where it changes */
		lies?: readonly string[];
		label?: string;
		onpick?: (ids: Set<string>) => void;
		onmove?: (ids: Set<string>, to: number) => void;
		onkey?: (e: KeyboardEvent) => boolean;
	}
	let { runs, joints, picked = new Set(), lies = [], label = 'Run strip', onpick, onmove, onkey }: Props = $props();
	const letters = $derived(seamLetters(joints));
	let anchor = $state(0);
	let over = $state(-1);
	let box = $state<HTMLElement>();

	function choose(i: number, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) {
		const id = runs[i].id;
		if (e.shiftKey) {
			const [a, b] = [Math.min(anchor, i), Math.max(anchor, i)];
			onpick?.(new Set(runs.slice(a, b + 1).map((r) => r.id)));
			return;
		}
		anchor = i;
		if (e.ctrlKey || e.metaKey) {
			const next = new Set(picked);
			if (next.has(id)) next.delete(id);
			else next.add(id);
			onpick?.(next);
		} else onpick?.(new Set([id]));
	}
	const focusOn = (i: number) => (box?.querySelectorAll<HTMLElement>('[data-cell]')[i] as HTMLElement | undefined)?.focus();
	function keys(e: KeyboardEvent, i: number) {
		// a key meant for the run in focus takes it, picked or not
		if (!picked.has(runs[i].id) && !e.ctrlKey && !e.metaKey && (e.altKey || /^([rbl]|delete|backspace)$/i.test(e.key)))
			onpick?.(new Set([runs[i].id]));
		if (onkey?.(e)) return;
		if (e.altKey) return;
		if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
			e.preventDefault();
			const to = Math.max(0, Math.min(runs.length - 1, i + (e.key === 'ArrowLeft' ? -1 : 1)));
			if (e.shiftKey) choose(to, { shiftKey: true, ctrlKey: false, metaKey: false });
			focusOn(to);
		} else if (e.key === ' ' || e.key === 'Enter') {
			e.preventDefault();
			choose(i, e);
		} else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'a') {
			e.preventDefault();
			onpick?.(new Set(runs.map((r) => r.id)));
		}
	}
</script>

<div class="flex flex-wrap items-stretch gap-y-1 bg-white px-3 py-2" role="listbox" aria-label={label} aria-multiselectable="true" bind:this={box}>
	{#each runs as r, i (r.id)}
		{@const on = picked.has(r.id)}
		{#if i > 0 && lies[i] && lies[i] !== lies[i - 1]}<span
				class="mx-0.5 flex items-center bg-steel-700 px-1 text-[11px] font-semibold text-white"
				title="Turn the piece: {lies[i]}">⟳</span
			>{/if}
		<div
			role="option"
			tabindex="0"
			data-cell={r.id}
			aria-selected={on}
			aria-label="Run {i + 1}, {joints.find((j) => j.id === r.joint)?.name}, {r.fromMm} to {r.toMm} mm{r.locked ? ', locked' : ''}"
			draggable={Boolean(onmove)}
			class="relative flex min-w-9 cursor-pointer flex-col items-center border-y border-r border-steel-300 px-1 pt-0.5 pb-1 text-center first:border-l {on
				? 'bg-straw-200 outline-2 outline-steel-900'
				: 'hover:bg-steel-50'} {over === i ? '!border-l-straw-500 border-l-4' : ''}"
			style="box-shadow: inset 0 -4px 0 {byWhen(runs.length > 1 ? i / (runs.length - 1) : 0)}"
			onclick={(e) => choose(i, e)}
			onkeydown={(e) => keys(e, i)}
			ondragstart={() => !on && onpick?.(new Set([r.id]))}
			ondragover={(e) => {
				if (!onmove) return;
				e.preventDefault();
				over = i;
			}}
			ondragleave={() => (over = -1)}
			ondrop={(e) => {
				e.preventDefault();
				over = -1;
				onmove?.(new Set(picked), i);
			}}
		>
			<span class="tab text-[11px] leading-4 text-steel-600">{i + 1}{r.locked ? '▪' : ''}</span>
			<span class="text-[13px] leading-4 font-semibold text-steel-900"
				>{letters.get(r.joint)}<span class="font-normal text-steel-600">{r.toMm > r.fromMm ? '›' : '‹'}</span></span
			>
			{#if r.waitBeforeS || r.cooling}<span
					class="absolute -top-1 left-0 text-[10px] text-straw-700"
					title={r.cooling ? 'cooled before' : 'pause before'}>{r.cooling ? '❄' : '⏸'}</span
				>{/if}
		</div>
	{/each}
	{#if !runs.length}<p class="py-1 text-sm text-steel-600">No runs yet.</p>{/if}
</div>
