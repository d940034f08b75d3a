<script lang="ts">
	/** One reading of a coupon: its cells, what they come to, and keep. */
	import type { CouponReading } from '$core/coupons/coupons';
	import type { Posture } from '$core/document/words';
	import type { ReadingContext } from '$core/measure/methods/method';
	import { evaluateReadings, type Evaluated } from '$core/measure/readings';
	import { unlikely } from '$core/measure/unlikely';
	import { isRefusal } from '$core/refusal/refusal';
	import { METHOD_KINDS } from '$core/measure/methods';
	import { call, type Refusal } from '$lib/call';
	import { cellsOf, readCell, usualCount } from '$lib/measure/cells';
	import ReadingCells from '$lib/measure/ReadingCells.svelte';
	import { refresh } from '$lib/refresh';
	import { quantity } from '$lib/units';
	import { uuid } from '$lib/uuid';
	import Notice from '$lib/ui/Notice.svelte';
	import { Button } from 'flowbite-svelte';

	interface Props {
		piece: string;
		reading: CouponReading & { context: ReadingContext };
		posture: Posture;
		unit: 'mm' | 'in';
		/** it has been read before */
		again: boolean;
		onkept(): void;
	}
	let { piece, reading, posture, unit, again, onkept }: Props = $props();
	// svelte-ignore state_referenced_locally
	let text = $state<string[]>(Array.from({ length: usualCount(reading.method, reading.context) }, () => ''));
	const cells = $derived(cellsOf(reading.method, reading.context, text.length, unit));
	const values = $derived(text.map((c, i) => (c.trim() === '' ? undefined : readCell(c, cells.units[i] ?? 'mm', unit))));
	const numbers = $derived(values.map((r) => (r && 'value' in r ? r.value : NaN)));
	const bad = $derived(values.findIndex((r) => r && 'wrong' in r));
	const worked = $derived.by((): { value?: Evaluated; refused?: string } => {
		if (numbers.some((n) => !Number.isFinite(n))) return {};
		try {
			return { value: evaluateReadings(reading.method, numbers, reading.context) };
		} catch (e) {
			if (!isRefusal(e)) throw e;
			return { refused: e.message };
		}
	});
	const doubts = $derived(worked.value ? unlikely(reading.method, numbers, reading.context) : []);
	const asked = $derived(doubts.map((d) => d.words).join(' '));
	let sure = $state('');
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();
	let clientId = '';
	let sent = '';

	async function keep() {
		if (!worked.value || busy) return;
		if (asked && sure !== asked) return void (sure = asked);
		const body = {
			feature: reading.feature,
			method: reading.method,
			moment: 'unclamped',
			posture,
			instrument: METHOD_KINDS[reading.method].name,
			readings: numbers
		};
		// sent twice, it is one reading
		const what = JSON.stringify(body);
		if (what !== sent) clientId = uuid();
		sent = what;
		busy = true;
		const r = await call('POST', `/api/pieces/${piece}/measurements`, { clientId, ...body });
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		if (!r.ok) return;
		text = text.map(() => '');
		sure = sent = '';
		await refresh();
		onkept();
	}
	function enter(i: number) {
		if (i + 1 >= text.length) void keep();
	}
</script>

<div class="mt-2">
	<ReadingCells {cells} {text} {bad} onset={(i, v) => (text[i] = v)} onall={(v) => (text = v)} onenter={enter} onat={() => {}} />
	{#if refusal}<div class="mt-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
	{#if worked.refused}<p class="mt-1 text-sm text-plum-700">{worked.refused}</p>{/if}
	{#if asked}<div class="mt-2"><Notice kind="caution">{asked}</Notice></div>{/if}
	<Button size="sm" color={again ? 'alternative' : 'primary'} class="mt-2 min-h-14" disabled={busy || !worked.value} onclick={keep}>
		{sure && sure === asked ? 'It is as read: keep it' : again ? 'Keep another' : 'Keep this reading'}{worked.value
			? ` (${quantity(worked.value.value, reading.unit, unit)})`
			: ''}
	</Button>
</div>
