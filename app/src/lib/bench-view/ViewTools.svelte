<script lang="ts" module>
	import type { CutAxis } from './scene';
	export interface Look {
		hidden: ReadonlySet<number>;
		seeThrough: boolean;
		cut?: { axis: CutAxis; share: number };
		/** how far its parts are drawn from one another, 0 to 1 */
		apart?: number;
		/** the next two clicks are measured between */
		measures?: boolean;
	}
</script>

<script lang="ts">
	/** How the piece is looked at: sides, parts on and off, seen through, cut, and a picture of it. */
	import type { Side } from './scene';

	interface Props {
		look: Look;
		parts: { name: string }[];
		/** index of the part that is selected, or -1 */
		selected: number;
		onlook: (look: Look) => void;
		onside: (side: Side) => void;
		onzoom: (factor: number) => void;
		onpicture: (as: 'png' | 'svg') => void;
	}
	let { look, parts, selected, onlook, onside, onzoom, onpicture }: Props = $props();
	const uid = $props.id();
	let open = $state(false);
	const SIDES: [Side, string, string][] = [
		['corner', 'Corner', '0'],
		['front', 'Front', '1'],
		['right', 'Right', '2'],
		['top', 'Top', '3'],
		['under', 'Under', '4']
	];
	const AXES: [CutAxis, string][] = [
		['x', 'along the length'],
		['y', 'across'],
		['z', 'from below']
	];
	const hide = (k: number, on: boolean) => {
		const hidden = new Set(look.hidden);
		if (on) hidden.delete(k);
		else hidden.add(k);
		onlook({ ...look, hidden });
	};
	const only = (k: number) => onlook({ ...look, hidden: new Set(parts.map((_, i) => i).filter((i) => i !== k)) });
	const button = 'h-8 min-w-8 bg-white/90 px-2 text-sm hover:bg-white';
</script>

<div class="pointer-events-none absolute inset-y-2 right-2 flex min-h-0 flex-col items-end gap-1">
	<div class="pointer-events-auto flex gap-1">
		{#each SIDES as [side, name, key] (side)}<button type="button" class="{button} max-lg:hidden" title="{name} ({key})" onclick={() => onside(side)}
				>{name}</button
			>{/each}
		<button type="button" class={button} onclick={() => onzoom(0.85)} aria-label="Zoom in">+</button>
		<button type="button" class={button} onclick={() => onzoom(1.18)} aria-label="Zoom out">−</button>
		<button type="button" class={button} aria-expanded={open} aria-controls="look-{uid}" onclick={() => (open = !open)}
			>Look{look.hidden.size || look.seeThrough || look.cut || look.apart ? ' •' : ''}</button
		>
	</div>
	{#if open}
		<div
			id="look-{uid}"
			class="pointer-events-auto min-h-0 w-56 space-y-2 overflow-y-auto bg-white/95 p-3 text-sm shadow"
			role="group"
			aria-label="How the piece is looked at"
		>
			<div class="flex flex-wrap gap-1 lg:hidden">
				{#each SIDES as [side, name] (side)}<button type="button" class="min-h-11 border border-steel-300 px-2" onclick={() => onside(side)}
						>{name}</button
					>{/each}
			</div>
			<label class="flex min-h-8 items-center gap-2"
				><input
					type="checkbox"
					class="h-5 w-5 accent-primary-600"
					checked={look.seeThrough}
					onchange={(e) => onlook({ ...look, seeThrough: e.currentTarget.checked })}
				/>See through (X)</label
			>
			<label class="flex min-h-8 items-center gap-2"
				><input
					type="checkbox"
					class="h-5 w-5 accent-primary-600"
					checked={!!look.cut}
					onchange={(e) => onlook({ ...look, cut: e.currentTarget.checked ? { axis: 'x', share: 0.5 } : undefined })}
				/>Cut by a plane (C)</label
			>
			{#if look.cut}
				{@const cut = look.cut}
				<div class="pl-7">
					<label class="sr-only" for="axis-{uid}">Which way the plane cuts</label>
					<select
						id="axis-{uid}"
						class="w-full rounded-sm border-steel-400 py-1 text-sm"
						value={cut.axis}
						onchange={(e) => onlook({ ...look, cut: { ...cut, axis: e.currentTarget.value as CutAxis } })}
					>
						{#each AXES as [axis, name] (axis)}<option value={axis}>{name}</option>{/each}
					</select>
					<input
						type="range"
						class="mt-1 h-8 w-full accent-primary-600"
						min="0"
						max="1"
						step="0.01"
						aria-label="How far in"
						value={cut.share}
						oninput={(e) => onlook({ ...look, cut: { ...cut, share: Number(e.currentTarget.value) } })}
					/>
				</div>
			{/if}
			{#if parts.length > 1}
				<label class="flex min-h-8 items-center gap-2"
					><input
						type="checkbox"
						class="h-5 w-5 accent-primary-600"
						checked={!!look.apart}
						onchange={(e) => onlook({ ...look, apart: e.currentTarget.checked ? 0.5 : undefined })}
					/>Taken apart (E)</label
				>
				{#if look.apart}<input
						type="range"
						class="ml-7 h-8 w-[calc(100%-1.75rem)] accent-primary-600"
						min="0.05"
						max="1"
						step="0.05"
						aria-label="How far apart"
						value={look.apart}
						oninput={(e) => onlook({ ...look, apart: Number(e.currentTarget.value) })}
					/>{/if}
				<fieldset>
					<legend class="text-[13px] text-steel-600">Parts shown</legend>
					{#each parts as p, k (k)}<label class="flex min-h-8 items-center gap-2 {k === selected ? 'bg-straw-50' : ''}"
							><input
								type="checkbox"
								class="h-5 w-5 accent-primary-600"
								checked={!look.hidden.has(k)}
								onchange={(e) => hide(k, e.currentTarget.checked)}
							/><span class="min-w-0 flex-1 truncate">{p.name}</span>
							<button type="button" class="text-primary-700 underline" aria-label="Only {p.name}" onclick={() => only(k)}>only</button></label
						>{/each}
					{#if look.hidden.size}<button
							type="button"
							class="min-h-8 text-primary-700 underline"
							onclick={() => onlook({ ...look, hidden: new Set() })}>Show all (A)</button
						>{/if}
				</fieldset>
			{/if}
			<button
				type="button"
				class="min-h-9 w-full border {look.measures ? 'border-primary-700 bg-primary-50' : 'border-steel-400'}"
				aria-pressed={look.measures ?? false}
				onclick={() => onlook({ ...look, measures: !look.measures })}>Measure between two places (M)</button
			>
			<div class="grid grid-cols-2 gap-1">
				<button type="button" class="min-h-9 border border-steel-400" onclick={() => onpicture('png')}>Picture (PNG)</button>
				<button type="button" class="min-h-9 border border-steel-400" onclick={() => onpicture('svg')}>In lines (SVG)</button>
			</div>
			<p class="text-[12px] text-steel-600">
				Keys on the drawing: 0 to 4 sides, F fits, X, C, E, H hides the part chosen, I only it, A all, M measures, P picture.
			</p>
		</div>
	{/if}
</div>
