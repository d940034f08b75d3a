<script lang="ts">
	/** A starting point for a joint's settings, why, and how the settings in use differ from it. */
	import { blocksOf } from '$core/holds';
	import { adviseSettings, differences, heatChecks } from '$core/response/settingsAdvice';
	import { responseInput } from '$core/response/forPlan';
	import { Timeline } from '$core/sequence/timeline';
	import type { WeldSettings } from '$core/document/schema';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { settings }: { settings: WeldSettings } = $props();
	const desk = getDesk();
	const joints = $derived(desk.seams.filter((j) => j.settings === settings.id));
	let picked = $state('');
	const joint = $derived(joints.find((j) => j.id === (desk.selection?.kind === 'joint' ? desk.selection.id : picked)) ?? joints[0]);
	const timeline = $derived(new Timeline(desk.doc));
	const bar = $derived(
		joint &&
			blocksOf(desk.doc).find(
				(h) =>
					h.joint === joint.id && (desk.doc.runs.length === 0 || desk.doc.runs.some((r, i) => r.joint === joint.id && timeline.isOnDuringRun(h, i)))
			)
	);
	const input = $derived(joint && responseInput(desk.doc, joint, settings, bar));
	const advice = $derived(joint && input ? adviseSettings(joint, input.sheets, settings, desk.doc.ambientC, bar) : undefined);
	const checks = $derived(input ? heatChecks(input) : []);
	const gaps = $derived(advice ? differences(settings, advice) : []);
	function take() {
		if (!advice) return;
		const next = { ...advice.settings, id: settings.id, name: settings.name };
		desk.change('advised settings', (d) => {
			d.settings = d.settings.map((s) => (s.id === settings.id ? next : s));
		});
	}
</script>

<Panel title="Starting point">
	{#if !joint || !advice}
		<p class="text-sm text-steel-600">No seam uses these settings.</p>
	{:else}
		<Choice
			label="For seam"
			value={joint.id}
			items={joints.map((j) => ({ value: j.id, name: j.name }))}
			onchange={(v) => {
				picked = v;
				desk.selection = { kind: 'joint', id: v };
			}}
		/>
		<h3 class="mt-3 text-sm font-semibold">What the heat solver makes of the settings in use</h3>
		<ul class="mt-1 space-y-1 text-sm">
			{#each checks as c (c.label)}
				<li><span class={c.isGood ? 'text-sound-700' : 'font-semibold text-plum-700'}>{c.isGood ? '✓' : '✕'} {c.label}</span> {c.words}</li>
			{/each}
		</ul>
		{#each advice.cautions as c (c)}<div class="mt-2"><Notice kind="caution">{c}</Notice></div>{/each}
		<h3 class="mt-3 text-sm font-semibold">{gaps.length ? 'Where they differ from the advice' : 'They agree with the advice.'}</h3>
		{#if gaps.length}
			<table class="mt-1 w-full text-sm">
				<thead class="text-left text-[12px] text-steel-600"
					><tr
						><th scope="col" class="font-medium">Setting</th><th scope="col" class="font-medium">In use</th><th scope="col" class="font-medium"
							>Advised</th
						></tr
					></thead
				>
				<tbody>
					{#each gaps as g (g.label)}
						<tr class="border-t border-steel-200 align-top">
							<th scope="row" class="py-1 pr-2 text-left font-medium">{g.label}</th>
							<td class="tab py-1 pr-2">{g.own}</td>
							<td class="py-1"><span class="tab font-semibold">{g.advised}</span><span class="block text-[12px] text-steel-600">{g.why}</span></td>
						</tr>
					{/each}
				</tbody>
			</table>
			{#if desk.mayEdit}<Button class="mt-2" size="xs" color="alternative" onclick={take}>Take the advised settings</Button>{/if}
		{/if}
		<p class="mt-2 text-[13px] text-steel-600">
			A starting point, not a qualified procedure: where a code or a customer asks for one, that one holds. Try it on scrap first.
		</p>
	{/if}
</Panel>
