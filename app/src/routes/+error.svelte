<script lang="ts">
	import { page } from '$app/state';

	/** The database, or the server itself, is away for a moment: this page comes back by itself. */
	const isAway = $derived(page.error?.isAway === true || page.status === 503 || page.status === 502);
	const AGAIN_MS = 3000;
	$effect(() => {
		if (!isAway) return;
		const timer = setInterval(() => {
			// only once something answers: a browser's own error page would not come back
			void fetch('/api/jobs').then(
				(r) => r.status < 500 && location.reload(),
				() => undefined
			);
		}, AGAIN_MS);
		return () => clearInterval(timer);
	});
</script>

<main id="main" class="mx-auto max-w-xl p-10">
	<h1 class="text-2xl">{isAway ? 'One moment' : page.status === 404 ? 'Not here' : 'That did not work'}</h1>
	<p class="mt-2" role={isAway ? 'status' : undefined}>{page.error?.message}</p>
	{#if !isAway}<p class="mt-4"><a class="text-primary-700 underline" href="/jobs">Back to the jobs</a></p>{/if}
</main>
