<script lang="ts">
	import { goto } from '$app/navigation';
	import { COUPON_KINDS, COUPONS, isWorth, type CouponKind, type CouponReading } from '$core/coupons/coupons';
	import { METHOD_KINDS } from '$core/measure/methods';
	import { call, type Refusal } from '$lib/call';
	import { length, quantity } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayPlan = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	let refusal = $state<Refusal | undefined>();
	let busy = $state(false);
	let kind = $state<CouponKind>('butt');
	// svelte-ignore state_referenced_locally
	let material = $state(data.grades[0].id);
	let thicknessMm = $state(1.5);
	let job = $state('');
	const percent = (v: number) => `${Math.round(100 * v)} %`;
	/** proposals that do nothing to speak of are not worth a line */
	const LEAST = 0.01;
	const SHOWN = 6;
	/** readings that are named of each: the coupon’s own page has all */
	const NAMED = 3;
	const clearest = (list: readonly CouponReading[]) =>
		[...list]
			.filter((r) => r.effect > r.doubt)
			.sort((p, q) => q.effect / q.doubt - p.effect / p.doubt)
			.slice(0, NAMED);

	async function make(wish: { kind: CouponKind; material: string; thicknessMm: number; job?: string }) {
		busy = true;
		const r = await call<{ job: { id: string } }>('POST', '/api/coupons', wish);
		busy = false;
		if (r.ok) await goto(`/coupons/${r.data.job.id}`);
		else refusal = r.refusal;
	}
</script>

<main id="main" class="mx-auto max-w-[1180px] px-6 py-6 max-sm:px-3">
	<div class="mb-1 flex flex-wrap items-baseline justify-between gap-3">
		<h1 class="text-2xl">Coupons</h1>
		<p>
			<a class="text-primary-700 underline" href="/trials">Trials</a>,
			<a class="text-primary-700 underline" href="/learned">what the shop has learned</a>
		</p>
	</div>
	<p class="mb-4 max-w-3xl text-steel-700">
		A small piece welded to be read: half an hour, and the forecast of every job in the same sheet is the surer for it. Cut it from the same sheet,
		weld it with the same settings, read it cold.
	</p>
	{#if refusal}<div class="mb-4"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
	<div class="grid grid-cols-1 gap-5 lg:grid-cols-[1.6fr_1fr]">
		<Panel title="Which coupon next">
			{#if !data.next}
				<p class="text-sm text-steel-700">
					The open jobs are looked through for wide bands, and each coupon is weighed by how much it would narrow them for its minutes.
				</p>
				<Button size="sm" class="mt-2 min-h-11" href="/coupons?next">Look through the open jobs</Button>
			{/if}
			{#await data.next}
				<p class="text-sm text-steel-600" role="status">Open jobs are looked through for wide bands; the first time this can take a minute or two.</p>
			{:then next}
				{#if next}
					{@const list = next.filter((n) => n.gain > LEAST).slice(0, SHOWN)}
					{#if !list.length}<p class="text-sm text-steel-700">
							Nothing on the open jobs is in doubt that a coupon would narrow. One is still worth its half hour for a metal or thickness that is new
							to the shop.
						</p>{/if}
					<ol>
						{#each list as n (`${n.kind}/${n.material}/${n.thicknessMm}/${n.job}`)}
							<li class="border-t border-steel-200 py-3 first:border-t-0 first:pt-0">
								<div class="flex flex-wrap items-start justify-between gap-3">
									<div class="min-w-60 flex-1">
										<p class="font-medium">{COUPONS[n.kind].name}, {n.material}, {length(n.thicknessMm, unit)}</p>
										<p class="text-sm text-steel-700">Tells {COUPONS[n.kind].tells}.</p>
										<p class="mt-1 text-sm">
											Narrows the bands of the open jobs by {percent(n.gain)} in the mean, for about {COUPONS[n.kind].minutes} minutes of work{#if n.best};
												most of all
												<strong class="font-medium">{n.best.name}</strong> of {n.best.job}: from ±{quantity(n.best.now, n.best.unit, unit)} to ±{quantity(
													n.best.then,
													n.best.unit,
													unit
												)}{/if}.
										</p>
										<p class="mt-1 text-[13px] text-steel-600">
											{#each clearest(n.readings) as r, i (r.feature)}{i ? '; ' : 'Read '}{r.name.toLowerCase()} ({METHOD_KINDS[
													r.method
												].name.toLowerCase()}: about {quantity(r.effect, r.unit, unit)}, {(r.effect / r.doubt).toFixed(0)} times its doubt{isWorth(r)
													? ''
													: ': read it three times'}){/each}. The whole coupon warms by {Math.round(n.warmsBy)} K.
										</p>
										{#each n.cautions as c (c)}<p class="text-straw-800 mt-1 text-[13px]">{c}</p>{/each}
									</div>
									{#if mayPlan}<Button
											size="sm"
											class="min-h-11"
											disabled={busy}
											onclick={() => make({ kind: n.kind, material: n.material, thicknessMm: n.thicknessMm, job: n.job })}>Make this coupon</Button
										>{/if}
								</div>
							</li>
						{/each}
					</ol>
				{/if}
			{:catch}
				<Notice kind="fault">The open jobs could not be looked through. Make a coupon of your choice, or try again.</Notice>
			{/await}
		</Panel>
		<div class="space-y-5">
			{#if mayPlan}
				<Panel title="One of your choice">
					<form
						class="space-y-3"
						onsubmit={(e) => {
							e.preventDefault();
							void make({ kind, material, thicknessMm, ...(job ? { job } : {}) });
						}}
					>
						<Choice
							label="Coupon"
							value={kind}
							items={COUPON_KINDS.map((k) => ({ value: k as string, name: COUPONS[k].name }))}
							onchange={(v) => (kind = v as CouponKind)}
						/>
						<Choice label="Sheet" value={material} items={data.grades.map((g) => ({ value: g.id, name: g.name }))} onchange={(v) => (material = v)} />
						<LengthField label="Thickness" mm={thicknessMm} {unit} min={0.5} max={6} onchange={(v) => (thicknessMm = v)} />
						<Choice
							label="Settings"
							value={job}
							items={[{ value: '', name: 'by the rule of thumb' }, ...data.jobs.map((j) => ({ value: j.id, name: `as in ${j.name}` }))]}
							onchange={(v) => (job = v)}
						/>
						<Button type="submit" size="sm" class="min-h-11" disabled={busy}>{busy ? 'Being made…' : 'Make it'}</Button>
					</form>
				</Panel>
			{/if}
			<Panel title="Coupons so far">
				{#if !data.coupons.length}<p class="text-sm text-steel-600">None yet.</p>{/if}
				<ul class="text-sm">
					{#each data.coupons as c (c.id)}
						<li class="border-t border-steel-200 py-2 first:border-t-0">
							<a class="text-primary-700 underline" href="/coupons/{c.id}">{c.number} {c.name}</a>
						</li>
					{/each}
				</ul>
			</Panel>
		</div>
	</div>
</main>
