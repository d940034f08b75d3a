<script lang="ts">
	import Panel from '$lib/ui/Panel.svelte';

	let { data } = $props();
</script>

<svelte:head><title>Tablets · Sarta</title></svelte:head>

<main id="main" class="mx-auto max-w-[1000px] p-3 sm:p-6">
	<h1 class="mb-4 text-3xl">Tablets at the bench</h1>
	{#if data.address && data.qr}
		<div class="grid gap-5 md:grid-cols-[auto_minmax(0,1fr)]">
			<Panel title="This shop’s address">
				<img src={data.qr} class="h-64 w-64" alt="The address as a code for a camera: {data.address}" />
				<p class="tab mt-2 text-lg font-semibold break-all">{data.address}</p>
				<p class="text-sm text-steel-600">Point the tablet’s camera at the code, or type the address.</p>
			</Panel>
			<Panel title="The first time on a tablet">
				<ol class="list-decimal space-y-3 pl-5">
					<li>The browser warns that it does not know this machine. That is as it should be: nobody but this shop vouches for it. Go on once.</li>
					<li>
						<a class="text-primary-700 underline" href="/api/certificate">Fetch the shop’s certificate</a> on the tablet and open it:
						<ul class="mt-1 list-disc space-y-1 pl-5 text-[15px] text-steel-700">
							<li>Android: Settings, Security, Install a certificate, CA certificate, then the file <span class="tab">sarta-shop.crt</span>.</li>
							<li>iPad: allow the profile, install it under Settings, General, then switch it on under About, Certificate Trust Settings.</li>
							<li>Windows: open the file, Install, Trusted Root Certification Authorities.</li>
						</ul>
					</li>
					<li>Open the address again: no warning. From now on the bench works with the network gone, and the screen stays awake.</li>
				</ol>
				<p class="mt-4 text-sm text-steel-600">
					The certificate is made by this machine and never leaves its data folder; the key that signs with it is readable by the user that runs Sarta
					and nobody else. Without step 2 everything works but the offline page. The demo people’s published PINs open nothing from a tablet: an admin
					adds people of the shop first.
				</p>
			</Panel>
		</div>
	{:else}
		<Panel title="Not served at the moment">
			<p>
				Sarta answers on this machine only. Started with <span class="tab">bin/start --lan</span> it serves the shop’s tablets by https, with a certificate
				that it makes and keeps, and shows here how to reach it.
			</p>
		</Panel>
	{/if}
</main>
