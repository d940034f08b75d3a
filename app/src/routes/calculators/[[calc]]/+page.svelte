<script lang="ts">
	/** Sums of the trade without a job: what was typed stands in the address, so that a link carries it. */
	import { replaceState } from '$app/navigation';
	import { page } from '$app/state';
	import { CALCULATOR_GROUPS, CALCULATORS } from '$core/calculators';
	import { calculate, startOf, type CalcLine, type Calculator } from '$core/calculators/calculator';
	import SendToJob from '../SendToJob.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { length } from '$lib/units';
	import { Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const calc = $derived(CALCULATORS.find((c) => c.id === data.calc));
	/** by calculator, so that going back and forth loses nothing */
	let kept = $state<Record<string, Record<string, string>>>({});
	const typed = $derived.by(() => {
		if (!calc) return {};
		const asked = [...page.url.searchParams].filter(([id]) => calc.fields.some((f) => f.id === id));
		return kept[calc.id] ?? { ...startOf(calc), ...Object.fromEntries(asked) };
	});
	const answer = $derived(calc ? calculate(calc, typed) : undefined);
	const faultOf = (field: string) => (answer && !answer.ok ? answer.faults.find((f) => f.field === field)?.message : undefined);
	let said = $state('');
	function set(field: string, value: string) {
		if (!calc) return;
		kept[calc.id] = { ...typed, [field]: value };
		said = '';
		replaceState(link, {});
	}
	const link = $derived(calc ? `/calculators/${calc.id}?${new URLSearchParams(typed)}` : '');
	async function copy() {
		const address = new URL(link, page.url).href;
		try {
			await navigator.clipboard.writeText(address);
			said = 'The link is copied.';
		} catch {
			said = address;
		}
	}
	const shown = (l: CalcLine) =>
		l.kind === 'length'
			? length(l.value, unit, l.digits ?? 2)
			: `${Number(l.value.toFixed(l.digits ?? 2))} ${l.unit ?? ''}`.replace(' °', '°').trim();
	/** what was given and what came of it, for a job's notes */
	const inALine = (c: Calculator, lines: readonly CalcLine[]) => {
		const given = c.fields.map((f) => {
			const v = typed[f.id];
			const text = f.kind === 'length' ? length(Number(v), unit) : f.kind === 'choice' ? (f.options?.find((o) => o.value === v)?.name ?? v) : v;
			return `${f.label.replace(/:.*/, '')} ${text}${f.unit ? ` ${f.unit}` : ''}`.trim();
		});
		const main = lines.find((l) => l.isMain) ?? lines[0];
		return `${c.title}: ${given.join(', ')}. ${main.label}: ${shown(main)}.`;
	};
	const LOOK = { part: 'stroke-steel-800', mark: 'stroke-straw-600', light: 'stroke-steel-400 [stroke-dasharray:4_3]' } as const;
</script>

<svelte:head><title>{calc ? `${calc.title} · ` : ''}Calculators · Sarta</title></svelte:head>

<main id="main" class="mx-auto grid max-w-6xl gap-6 px-4 py-5 md:grid-cols-[260px_1fr] md:px-6">
	<nav aria-label="Calculators" class={calc ? 'max-md:order-2' : ''}>
		<h1 class="text-2xl">Calculators</h1>
		{#each CALCULATOR_GROUPS as g (g.name)}
			<h2 class="mt-4 text-sm text-steel-600">{g.name}</h2>
			<ul>
				{#each g.list as c (c.id)}
					<li>
						<a
							class="block border-l-4 py-2 pl-3 leading-5 hover:bg-white {c.id === calc?.id
								? 'border-straw-500 bg-white font-semibold'
								: 'border-transparent text-primary-800'}"
							href="/calculators/{c.id}"
							aria-current={c.id === calc?.id ? 'page' : undefined}>{c.title}</a
						>
					</li>
				{/each}
			</ul>
		{/each}
	</nav>
	{#if calc}
		<section class="border-t-2 border-steel-700 bg-white p-5">
			<h2 class="text-2xl">{calc.title}</h2>
			<p class="mt-1 text-steel-700">{calc.use}</p>
			<div class="mt-4 grid gap-6 lg:grid-cols-2">
				<div>
					<svg viewBox="0 0 240 120" class="w-full max-w-sm" role="img" aria-label="What is typed, on a drawing">
						{#each calc.drawing.strokes as s, i (i)}<path d={s.d} fill="none" stroke-width="2" class={LOOK[s.as]} />{/each}
						{#each calc.drawing.words as w (w.text)}<text x={w.x} y={w.y} class="fill-steel-800 text-[11px]">{w.text}</text>{/each}
					</svg>
					<div class="mt-3 grid gap-3 sm:grid-cols-2">
						{#each calc.fields as f (`${calc.id}/${f.id}`)}
							{#if f.kind === 'length'}
								<LengthField
									label={f.label}
									mm={Number(typed[f.id])}
									{unit}
									min={f.min}
									max={f.max}
									gaugeTable="stainless"
									fault={faultOf(f.id)}
									onchange={(mm) => set(f.id, String(mm))}
								/>
							{:else if f.kind === 'number'}
								<NumberField
									label={f.label}
									value={Number(typed[f.id])}
									unit={f.unit}
									min={f.min}
									max={f.max}
									fault={faultOf(f.id)}
									onchange={(v) => set(f.id, String(v))}
								/>
							{:else if f.kind === 'choice'}
								<Choice label={f.label} value={typed[f.id]} items={[...(f.options ?? [])]} onchange={(v) => set(f.id, v)} />
							{:else}
								<div class="field sm:col-span-2">
									<Label for="list-{f.id}" class="mb-1 text-steel-700">{f.label}</Label>
									<Input
										id="list-{f.id}"
										class="tab"
										size="sm"
										value={typed[f.id]}
										oninput={(e) => set(f.id, (e.currentTarget as HTMLInputElement).value)}
									/>
									{#if faultOf(f.id)}<p class="mt-1 text-sm text-plum-700">{faultOf(f.id)}</p>{/if}
								</div>
							{/if}
						{/each}
					</div>
				</div>
				<div aria-live="polite">
					{#if answer?.ok}
						<dl>
							{#each answer.lines as l (l.label)}
								<div class="border-t border-steel-200 py-2 {l.isMain ? 'bg-straw-50 px-3' : ''}">
									<dt class="text-sm text-steel-700">{l.label}</dt>
									<dd class="tab {l.isMain ? 'text-3xl font-semibold' : 'text-lg'}">{shown(l)}</dd>
								</div>
							{/each}
						</dl>
					{:else if answer}
						<Notice kind="caution">{answer.faults.map((f) => f.message).join('. ')}.</Notice>
					{/if}
					<p class="tab mt-3 text-sm">{calc.formula}</p>
					<p class="text-sm text-steel-600">{calc.source}</p>
					{#if calc.note}<p class="mt-2 border-l-4 border-straw-600 bg-straw-50 px-3 py-2 text-sm">{calc.note}</p>{/if}
					<button type="button" class="mt-4 min-h-10 border border-steel-400 px-4" onclick={copy}>Copy the link to this</button>
					<p class="mt-1 text-sm break-all" role="status">{said}</p>
					{#if answer?.ok && data.person?.roles.includes('planner')}{#key calc.id}<SendToJob words={inALine(calc, answer.lines)} />{/key}{/if}
				</div>
			</div>
		</section>
	{:else}
		<section class="grid content-start gap-3 max-md:hidden lg:grid-cols-2">
			{#each CALCULATORS as c (c.id)}
				<a class="hover:border-straw-500 border-t-2 border-steel-400 bg-white p-4" href="/calculators/{c.id}">
					<span class="font-semibold text-primary-800">{c.title}</span><span class="mt-1 block text-sm text-steel-700">{c.use}</span>
				</a>
			{/each}
		</section>
	{/if}
</main>
