<script lang="ts">
	import { page } from '$app/state';
</script>

<main id="main" class="mx-auto max-w-xl p-10">
	<h1 class="text-2xl">{page.status === 404 ? 'Not here' : 'That did not work'}</h1>
	<p class="mt-2">{page.error?.message}</p>
	<p class="mt-4"><a class="text-primary-700 underline" href="/jobs">Back to the jobs</a></p>
</main>
