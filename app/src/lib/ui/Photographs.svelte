<script lang="ts">
	/** Photographs of a piece in small, each with what it shows; a press opens it whole. */
	interface Shown {
		clientId: string;
		/** of the whole picture */
		href: string;
		/** of the small one, where it is kept beside */
		small?: string;
		title: string;
		note?: string | null;
		person: string;
		takenAt: string | Date;
	}
	let { photographs }: { photographs: Shown[] } = $props();
	const time = (d: Date | string) => new Date(d).toLocaleString();
</script>

<ul class="grid grid-cols-2 gap-3 sm:grid-cols-3" aria-label="Photographs">
	{#each photographs as p (p.clientId)}
		<li class="min-w-0 text-sm">
			<a class="block" href={p.href} target="_blank" rel="noopener"
				><img
					class="h-36 w-full border border-steel-300 bg-steel-100 object-contain"
					src={p.small ?? p.href}
					loading="lazy"
					alt={p.note || p.title}
				/></a
			>
			<p class="mt-1 font-medium break-words">{p.title}</p>
			{#if p.note}<p class="break-words">{p.note}</p>{/if}
			<p class="text-steel-600">{p.person}, {time(p.takenAt)}</p>
		</li>
	{/each}
</ul>
