<script lang="ts">
	/** Which piece of the job a page is about. */
	import { goto } from '$app/navigation';
	import { PIECE_WORDS } from '$core/document/words';

	interface Props {
		pieces: readonly { id: string; serial: string; state: keyof typeof PIECE_WORDS; readings: number }[];
		chosen: string;
		/** told beside each serial: its state, or how many readings there are */
		tells?: 'state' | 'readings';
	}
	let { pieces, chosen, tells = 'state' }: Props = $props();
</script>

<select class="tab max-w-full rounded-sm py-1 text-sm" aria-label="Piece" value={chosen} onchange={(e) => goto(`?piece=${e.currentTarget.value}`)}
	>{#each pieces as p (p.id)}<option value={p.id}>{p.serial} · {tells === 'state' ? PIECE_WORDS[p.state] : `${p.readings} readings`}</option
		>{/each}</select
>
