<script lang="ts">
	import { pathLength } from '$core/geometry/polyline';
	import type { AnyHoldDown, Bar, Clamp } from '$core/plan/schema';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const seamChoices = $derived(desk.doc.joints.map((j) => ({ value: j.id, name: j.name })));
	let joint = $state('');
	const onSeam = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : joint || desk.doc.joints[0]?.id);
	const lengthOf = (id: string) => pathLength(desk.doc.joints.find((j) => j.id === id)!.a.path);
	const newId = (kind: string) => `${kind}-${Date.now().toString(36)}`;
	const life = () => ({ on: 'start', off: 'when-cold' });

	function addBar(id: string) {
		const j = desk.doc.joints.find((x) => x.id === id)!;
		const bar: Bar = {
			id: newId('bar'),
			name: `Bar on ${j.name}`,
			kind: 'bar',
			joint: id,
			fromMm: 0,
			toMm: Math.floor(lengthOf(id) * 10) / 10,
			material: 'copper',
			widthMm: 40,
			thicknessMm: 10,
			contact: 'tight',
			life: life()
		};
		if (desk.change('a backing bar', (d) => void d.holdDowns.push(bar))) desk.selection = { kind: 'hold-down', id: bar.id };
	}
	function addClamps(id: string) {
		const j = desk.doc.joints.find((x) => x.id === id)!;
		const l = lengthOf(id);
		const n = Math.max(2, Math.round(l / 150) + 1);
		desk.change('clamps', (d) => {
			for (let i = 0; i < n; i++) {
				const stationMm = Math.round(15 + ((l - 30) * i) / (n - 1));
				const c: Clamp = {
					id: `${newId('clamp')}-${i}`,
					name: `Clamp ${i + 1} on ${j.name}`,
					kind: 'clamp',
					joint: id,
					stationMm,
					holds: 'normal',
					stiffnessNPerMm: 5000,
					life: life()
				};
				d.holdDowns.push(c);
			}
		});
	}
	function addSupports() {
		const part = desk.doc.parts[0];
		const xs = part.outline.map((p) => p[0]);
		const ys = part.outline.map((p) => p[1]);
		const base = part.base ?? [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
		const reach = Math.min(Math.max(...xs) - base[0], Math.max(...ys) - base[1], 120) * 0.7;
		desk.change('bench supports', (d) => {
			(
				[
					[base[0] - reach, base[1] - reach],
					[base[0] + reach, base[1] - reach],
					[base[0], base[1] + reach]
				] as [number, number][]
			).forEach((at, i) =>
				d.holdDowns.push({
					id: `${newId('support')}-${i}`,
					name: `Support ${i + 1} under ${part.name}`,
					kind: 'support',
					part: part.id,
					at,
					holds: 'normal',
					stiffnessNPerMm: 5000,
					life: life()
				})
			);
		});
	}
	const edit = (h: AnyHoldDown, f: (x: AnyHoldDown) => void) => desk.change(`changing ${h.name}`, (d) => f(d.holdDowns.find((x) => x.id === h.id)!));
	const lives = $derived([
		{ value: 'start', name: 'from the start' },
		{ value: 'after-tacks', name: 'after tacking' },
		...desk.doc.runs.map((r, i) => ({ value: `before-run:${r.id}`, name: `before run ${i + 1}` }))
	]);
	const ends = $derived([
		{ value: 'when-cold', name: 'when cold' },
		{ value: 'after-tacks', name: 'after tacking' },
		...desk.doc.runs.map((r, i) => ({ value: `after-run:${r.id}`, name: `after run ${i + 1}` })),
		{ value: 'stays', name: 'stays on' }
	]);
	const effect = (joint: string) => {
		const with_ = desk.result?.seams.find((s) => s.joint === joint && s.bar);
		return with_?.parts.filter((p) => p.label.startsWith('Bar') || p.label.startsWith('Heat the bar')) ?? [];
	};
</script>

<Bench show={{ tacks: false, runs: false, holds: true }}>
	<Panel title="Put on">
		<Choice
			label="Seam"
			value={onSeam ?? ''}
			items={seamChoices}
			onchange={(v) => {
				joint = v;
				desk.selection = { kind: 'joint', id: v };
			}}
		/>
		{#if desk.mayEdit && onSeam}
			<div class="mt-3 flex flex-wrap gap-2">
				<Button size="sm" onclick={() => addBar(onSeam!)}>Backing bar</Button>
				<Button size="sm" color="alternative" onclick={() => addClamps(onSeam!)}>Row of clamps</Button>
				<Button size="sm" color="alternative" onclick={addSupports}>Three bench supports</Button>
			</div>
		{/if}
	</Panel>
	<Panel title="On this piece">
		{#if !desk.doc.holdDowns.length}<p class="text-sm text-steel-600">
				Nothing holds it yet: it is welded free. A bar clamped tight behind a seam is the strongest lever there is on thin sheet.
			</p>{/if}
		<ul class="space-y-2">
			{#each desk.doc.holdDowns as h (h.id)}
				{@const open = desk.selection?.id === h.id}
				<li class="border-t border-steel-200 pt-1.5 text-sm {open ? 'bg-straw-50' : ''}">
					<div class="flex items-baseline gap-2">
						<button
							type="button"
							class="flex-1 text-left font-medium"
							aria-expanded={open}
							onclick={() => (desk.selection = open ? undefined : { kind: 'hold-down', id: h.id })}>{h.name}</button
						>
						<span class="tab text-steel-600"
							>{h.kind === 'bar'
								? `${length(h.fromMm, unit, 0)} to ${length(h.toMm, unit, 0)}`
								: h.kind === 'clamp'
									? `at ${length(h.stationMm, unit, 0)}`
									: ''}</span
						>
						{#if desk.mayEdit}<button
								type="button"
								class="text-primary-700 underline"
								aria-label="Take off {h.name}"
								onclick={() => desk.change(`taking off ${h.name}`, (d) => void (d.holdDowns = d.holdDowns.filter((x) => x.id !== h.id)))}
								>Take off</button
							>{/if}
					</div>
					{#if open}
						<div class="mt-1 grid grid-cols-2 gap-2 pb-2">
							{#if h.kind === 'bar'}
								<Choice
									label="Metal"
									value={h.material}
									items={['copper', 'aluminium', 'brass'].map((v) => ({ value: v, name: v }))}
									onchange={(v) => edit(h, (x) => ((x as Bar).material = v as Bar['material']))}
									disabled={!desk.mayEdit}
								/>
								<Choice
									label="Contact"
									value={h.contact}
									items={[
										{ value: 'tight', name: 'clamped tight' },
										{ value: 'fair', name: 'fair' },
										{ value: 'loose', name: 'loose' }
									]}
									onchange={(v) => edit(h, (x) => ((x as Bar).contact = v as Bar['contact']))}
									disabled={!desk.mayEdit}
								/>
								<LengthField
									label="Width"
									mm={h.widthMm}
									{unit}
									min={2}
									max={500}
									onchange={(v) => edit(h, (x) => ((x as Bar).widthMm = v))}
									disabled={!desk.mayEdit}
								/>
								<LengthField
									label="Thickness"
									mm={h.thicknessMm}
									{unit}
									min={1}
									max={200}
									onchange={(v) => edit(h, (x) => ((x as Bar).thicknessMm = v))}
									disabled={!desk.mayEdit}
								/>
								<LengthField
									label="From station"
									mm={h.fromMm}
									{unit}
									max={lengthOf(h.joint)}
									onchange={(v) => edit(h, (x) => ((x as Bar).fromMm = v))}
									disabled={!desk.mayEdit}
								/>
								<LengthField
									label="To station"
									mm={h.toMm}
									{unit}
									max={lengthOf(h.joint)}
									onchange={(v) => edit(h, (x) => ((x as Bar).toMm = v))}
									disabled={!desk.mayEdit}
								/>
							{:else if h.kind === 'clamp'}
								<LengthField
									label="Station"
									mm={h.stationMm}
									{unit}
									max={lengthOf(h.joint)}
									onchange={(v) => edit(h, (x) => ((x as Clamp).stationMm = v))}
									disabled={!desk.mayEdit}
								/>
								<Choice
									label="Holds"
									value={h.holds}
									items={[
										{ value: 'normal', name: 'flat only' },
										{ value: 'all', name: 'every way' }
									]}
									onchange={(v) => edit(h, (x) => ((x as Clamp).holds = v as Clamp['holds']))}
									disabled={!desk.mayEdit}
								/>
							{/if}
							<Choice label="Goes on" value={h.life.on} items={lives} onchange={(v) => edit(h, (x) => (x.life.on = v))} disabled={!desk.mayEdit} />
							<Choice label="Comes off" value={h.life.off} items={ends} onchange={(v) => edit(h, (x) => (x.life.off = v))} disabled={!desk.mayEdit} />
							{#if h.kind === 'bar'}
								<p class="col-span-2 text-[13px] text-steel-600">
									{#each effect(h.joint) as p (p.label)}{p.label}: <strong>{p.value}</strong>.
									{/each}
								</p>
							{/if}
						</div>
					{/if}
				</li>
			{/each}
		</ul>
	</Panel>
	<Panel title="What each does here"
		><p class="text-[13px] text-steel-600">
			A bar takes heat and lowers the pull; by itself it does not hold the sheet: add clamps. A clamp holds its station while it is on, and the
			forecast gives the springback when it comes off. The linear method holds both ways: it cannot tell lift-off.
		</p></Panel
	>
</Bench>
