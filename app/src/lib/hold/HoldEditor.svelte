<script lang="ts">
	/** One hold-down's own fields: where it sits, what it is, when it goes on and comes off. */
	import { pathLength } from '$core/geometry/polyline';
	import type { AnyHoldDown, PlanDocument } from '$core/document/schema';
	import type { SeamForecast } from '$core/forecast/forecast';
	import type { LengthUnit } from '$core/units/length';
	import { blocksOf } from '$core/holds';
	import { lifeWords, livesOf } from '$core/sequence/lifeWords';
	import type { Shop } from '$lib/registers/shop';
	import FromShop from './FromShop.svelte';
	import { holdPage } from './kinds';
	import { Checkbox } from 'flowbite-svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

	interface Props {
		hold: AnyHoldDown;
		plan: PlanDocument;
		unit: LengthUnit;
		seams: readonly SeamForecast[];
		disabled: boolean;
		onedit: (change: (h: AnyHoldDown) => void) => void;
		/** what the shop has of bars and the like */
		shop?: Shop;
	}
	let { hold: h, plan, unit, seams, disabled, onedit, shop = [] }: Props = $props();
	const page = $derived(holdPage(h.kind));
	type Box = Record<string, unknown>;
	/** the object that holds a field, and its name there: `metal.rhoC` lies in `metal` */
	const within = (x: AnyHoldDown, name: string): [Box, string] => {
		const path = name.split('.');
		return [path.slice(0, -1).reduce((box, key) => box[key] as Box, x as unknown as Box), path[path.length - 1]];
	};
	const set = (name: string, value: unknown) =>
		onedit((x) => {
			const [box, key] = within(x, name);
			box[key] = value;
		});
	const get = (name: string) => {
		const [box, key] = within(h, name);
		return box[key];
	};
	const jointId = $derived('joint' in h ? h.joint : '');
	const lengthOf = (id: string) => pathLength(plan.joints.find((j) => j.id === id)!.a.path);
	const parts = $derived(plan.parts.map((p) => ({ value: p.id, name: p.name })));
	const lives = $derived(livesOf(plan));
	const named = (words: readonly string[]) => words.map((value) => ({ value, name: lifeWords(value, plan) }));
	const blocks = $derived(blocksOf({ joints: plan.joints, holdDowns: [h] }));
	const effect = $derived(
		blocks.flatMap(
			(b) =>
				seams
					.find((s) => s.joint === b.joint && s.bar === b.id)
					?.parts.filter((p) => p.label.startsWith('Bar') || p.label.startsWith('Heat the bar'))
					.map((p) => ({ ...p, on: plan.joints.find((j) => j.id === b.joint)?.name ?? '' })) ?? []
		)
	);
</script>

<div class="mt-1 grid grid-cols-2 gap-2 pb-2">
	<FromShop hold={h} {plan} {shop} {unit} {disabled} {onedit} />
	{#each page.fields.filter((f) => !f.when || f.when(h as never)) as f (f.name)}
		{@const v = get(f.name)}
		{#if f.is === 'length'}
			<LengthField
				label={f.label}
				hint={f.hint}
				mm={(v as number | undefined) ?? 0}
				{unit}
				min={f.min}
				max={f.max}
				onchange={(x) => set(f.name, x)}
				{disabled}
			/>
		{:else if f.is === 'station'}
			<LengthField label={f.label} hint={f.hint} mm={v as number} {unit} max={lengthOf(jointId)} onchange={(x) => set(f.name, x)} {disabled} />
		{:else if f.is === 'number'}
			<NumberField
				label={f.label}
				hint={f.hint}
				unit={f.unit}
				value={(v as number) * (f.times ?? 1)}
				min={f.min}
				max={f.max}
				onchange={(x) => x !== undefined && set(f.name, x / (f.times ?? 1))}
				{disabled}
			/>
		{:else if f.is === 'choice'}
			<Choice
				label={f.label}
				value={f.read ? f.read(h as never) : (v as string)}
				items={[...f.items]}
				onchange={(x) => (f.change ? onedit((y) => f.change!(y as never, x)) : set(f.name, x))}
				{disabled}
			/>
		{:else if f.is === 'part'}
			<Choice label={f.label} value={v as string} items={parts} onchange={(x) => set(f.name, x)} {disabled} />
		{:else if f.is === 'parts'}
			<fieldset class="col-span-2 flex flex-wrap gap-x-4 gap-y-1">
				<legend class="mb-1 text-sm text-steel-700">{f.label}</legend>
				{#each parts as p (p.value)}
					<Checkbox
						class="text-sm"
						checked={(v as string[]).includes(p.value)}
						{disabled}
						onchange={(e) =>
							set(
								f.name,
								parts.map((q) => q.value).filter((q) => (q === p.value ? (e.currentTarget as HTMLInputElement).checked : (v as string[]).includes(q)))
							)}>{p.name}</Checkbox
					>
				{/each}
			</fieldset>
		{:else}
			{@const at = v as [number, number]}
			<LengthField label="{f.label}, x" mm={at[0]} {unit} min={-20000} max={20000} onchange={(x) => set(f.name, [x, at[1]])} {disabled} />
			<LengthField label="{f.label}, y" mm={at[1]} {unit} min={-20000} max={20000} onchange={(x) => set(f.name, [at[0], x])} {disabled} />
		{/if}
	{/each}
	<Choice label="Goes on" value={h.life.on} items={named(lives.on)} onchange={(v) => onedit((x) => (x.life.on = v))} {disabled} />
	<Choice label="Comes off" value={h.life.off} items={named(lives.off)} onchange={(v) => onedit((x) => (x.life.off = v))} {disabled} />
	{#if effect.length}
		<p class="col-span-2 text-[13px] text-steel-600">
			{#each effect as p (p.on + p.label)}{blocks.length > 1 ? `${p.on}, ` : ''}{p.label}: <strong>{p.value}</strong>.
			{/each}
		</p>
	{/if}
</div>
