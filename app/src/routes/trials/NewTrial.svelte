<script lang="ts">
	/** A trial asked for in two steps: what differs, then what it is read by and how many it takes. */
	import { goto } from '$app/navigation';
	import { COUPON_KINDS, COUPONS, type CouponKind } from '$core/coupons/coupons';
	import { DIFFERENCE, DIFFERENCES, type Difference } from '$core/coupons/differences';
	import { sizeOf } from '$core/coupons/trial';
	import { call, type Refusal } from '$lib/call';
	import { quantity } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	interface Props {
		grades: { id: string; name: string }[];
		jobs: { id: string; name: string }[];
		unit: 'mm' | 'in';
	}
	let { grades, jobs, unit }: Props = $props();
	const uid = $props.id();
	interface Sized {
		ways: string[];
		features: { feature: string; name: string; unit: 'mm' | '°'; doubt: number; foretold: number[]; scatter: number }[];
	}
	const MOST_WAYS = 4;
	const MOST_EACH = 20;
	let kind = $state<CouponKind>('butt');
	// svelte-ignore state_referenced_locally
	let material = $state(grades[0].id);
	let thicknessMm = $state(1.5);
	let job = $state('');
	let difference = $state<Difference>('bar');
	const asks = $derived(DIFFERENCE[difference].asks);
	/** what a way may be, where it is one of some */
	const words = $derived(
		asks === 'material'
			? grades.map((g) => ({ value: g.id, name: g.name }))
			: 'words' in asks
				? Object.entries(asks.words).map(([value, name]) => ({ value, name }))
				: undefined
	);
	let ways = $state<string[]>(['copper', 'none']);
	let sized = $state<Sized | undefined>();
	let feature = $state('');
	let matters = $state<number | undefined>();
	let each = $state(3);
	let name = $state('');
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();

	const wish = $derived({ kind, material, thicknessMm, ...(job ? { job } : {}), difference, ways });
	/** what was sized up is of another wish once anything is changed */
	let sizedFor = $state('');
	const current = $derived(sized && sizedFor === JSON.stringify(wish) ? sized : undefined);
	const chosen = $derived(current?.features.find((f) => f.feature === feature));
	const wanted = $derived(chosen && matters ? sizeOf(chosen.scatter, chosen.doubt, matters) : undefined);

	function differ(d: Difference) {
		difference = d;
		ways = words ? words.slice(0, 2).map((w) => w.value) : ['', ''];
	}
	async function size() {
		busy = true;
		const asked = JSON.stringify(wish);
		const r = await call<Sized>('POST', '/api/trials/size', wish);
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		if (!r.ok) return;
		sized = r.data;
		sizedFor = asked;
		// what differs most for its doubt
		const worth = (f: Sized['features'][number]) => (Math.max(...f.foretold) - Math.min(...f.foretold)) / Math.hypot(f.doubt, f.scatter);
		const best = [...sized.features].sort((p, q) => worth(q) - worth(p))[0];
		if (best) pick(best.feature);
	}
	function pick(id: string) {
		feature = id;
		const f = sized!.features.find((x) => x.feature === id)!;
		const apart = Math.max(...f.foretold) - Math.min(...f.foretold);
		matters = Number(Math.max(apart / 2, f.doubt).toPrecision(1));
		propose();
	}
	function propose() {
		if (wanted) each = Math.min(MOST_EACH, wanted.each);
	}
	async function make() {
		busy = true;
		const usual = `${COUPONS[kind].name}, ${thicknessMm} mm: ${DIFFERENCE[difference].name}`;
		const r = await call<{ trial: { id: string } }>('POST', '/api/trials', { ...wish, name: name.trim() || usual, feature, matters, each });
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await goto(`/trials/${r.data.trial.id}`);
	}
</script>

<Panel title="A new trial">
	{#if refusal}<div class="mb-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
	<form
		class="space-y-3"
		onsubmit={(e) => {
			e.preventDefault();
			void size();
		}}
	>
		<div class="grid grid-cols-1 gap-3 sm:grid-cols-2">
			<Choice
				label="Coupon"
				value={kind}
				items={COUPON_KINDS.map((k) => ({ value: k as string, name: COUPONS[k].name }))}
				onchange={(v) => (kind = v as CouponKind)}
			/>
			{#if difference !== 'material'}<Choice
					label="Sheet"
					value={material}
					items={grades.map((g) => ({ value: g.id, name: g.name }))}
					onchange={(v) => (material = v)}
				/>{/if}
			<LengthField label="Thickness" mm={thicknessMm} {unit} min={0.5} max={6} onchange={(v) => (thicknessMm = v)} />
			<Choice
				label="Settings"
				value={job}
				items={[{ value: '', name: 'by the rule of thumb' }, ...jobs.map((j) => ({ value: j.id, name: `as in ${j.name}` }))]}
				onchange={(v) => (job = v)}
			/>
			<Choice
				label="The ways differ in"
				value={difference}
				items={DIFFERENCES.map((d) => ({ value: d as string, name: DIFFERENCE[d].name }))}
				onchange={(v) => differ(v as Difference)}
			/>
		</div>
		{#if difference === 'material'}<p class="text-[13px] text-steel-600">
				Each metal is welded with settings usual for it: what is compared is the metal together with what it takes to weld it.
			</p>{/if}
		<fieldset class="grid grid-cols-1 gap-3 sm:grid-cols-2">
			<legend class="sr-only">Ways</legend>
			{#each ways as value, i (i)}
				{#if words}<Choice label="Way {i + 1}" {value} items={words} onchange={(v) => (ways[i] = v)} />
				{:else if asks !== 'material' && 'unit' in asks}
					<NumberField
						label="Way {i + 1}: {asks.label.toLowerCase()}"
						value={value === '' ? undefined : Number(value)}
						unit={asks.unit}
						min={asks.zero ? 0 : asks.least}
						max={asks.most}
						hint={asks.zero ? `0: ${asks.zero}` : undefined}
						onchange={(v) => (ways[i] = v === undefined ? '' : String(v))}
					/>
				{/if}
			{/each}
		</fieldset>
		<div class="flex flex-wrap gap-2">
			{#if ways.length < MOST_WAYS && (!words || words.length > ways.length)}<Button
					type="button"
					size="sm"
					color="alternative"
					class="min-h-11"
					onclick={() => (ways = [...ways, words?.find((w) => !ways.includes(w.value))?.value ?? ''])}>Another way</Button
				>{/if}
			{#if ways.length > 2}<Button type="button" size="sm" color="alternative" class="min-h-11" onclick={() => (ways = ways.slice(0, -1))}
					>One way less</Button
				>{/if}
			<Button type="submit" size="sm" class="min-h-11" color={current ? 'alternative' : 'primary'} disabled={busy}
				>{busy && !current ? 'Being worked out…' : 'How many does it take?'}</Button
			>
		</div>
	</form>
	{#if current}
		<div class="mt-4 border-t border-steel-200 pt-3">
			<div class="overflow-x-auto">
				<table class="w-full text-sm">
					<caption class="mb-1 text-left text-[13px] text-steel-600">What each way is foretold to come to; choose what the trial is about.</caption>
					<thead
						><tr class="text-left text-steel-600"
							><th class="py-1 pr-3 font-medium">Read</th>{#each current.ways as w (w)}<th class="pr-3 font-medium">{w}</th>{/each}<th
								class="font-medium">piece to piece</th
							></tr
						></thead
					>
					<tbody>
						{#each current.features as f (f.feature)}
							<tr class="border-t border-steel-200">
								<td class="py-1 pr-3"
									><label class="flex min-h-11 items-center gap-2"
										><input type="radio" name="feature-{uid}" checked={feature === f.feature} onchange={() => pick(f.feature)} />{f.name}</label
									></td
								>
								{#each f.foretold as v, i (i)}<td class="tab pr-3">{quantity(v, f.unit, unit)}</td>{/each}
								<td class="tab text-steel-600">± {quantity(f.scatter, f.unit, unit)}</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
			{#if chosen}
				<div class="mt-3 grid grid-cols-1 gap-3 sm:grid-cols-3">
					<NumberField
						label="A difference that matters"
						value={matters}
						unit={chosen.unit}
						min={0.001}
						max={1000}
						onchange={(v) => {
							matters = v;
							propose();
						}}
					/>
					<NumberField label="Coupons of each way" value={each} min={2} max={MOST_EACH} onchange={(v) => (each = Math.round(v ?? 2))} />
					<div>
						<Label for="name-{uid}" class="mb-1 text-steel-700">Name</Label>
						<Input id="name-{uid}" size="sm" maxlength={100} bind:value={name} placeholder="from what is chosen" />
					</div>
				</div>
				{#if wanted}<p class="mt-2 text-sm">
						{wanted.each} of each show a difference of {quantity(matters, chosen.unit, unit)} in 8 trials of 10, if one piece lies
						{quantity(wanted.scatter, chosen.unit, unit)} from the next, its reading in it (normal formula).{#if wanted.each > each}
							<strong class="font-medium">With {each} it will more often stay open than not.</strong>{/if}
						That is {each * ways.length} coupons, about {Math.round((each * ways.length * COUPONS[kind].minutes) / 6) / 10} hours.
					</p>{/if}
				<Button class="mt-3 min-h-14" disabled={busy || !matters} onclick={make}>{busy ? 'Being made…' : 'Make the trial'}</Button>
			{/if}
		</div>
	{/if}
</Panel>
