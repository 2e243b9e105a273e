<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { torque } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import TorqueForm from './TorqueForm.svelte';

	interface Props {
		torque: Schemas['TorqueOut'];
		/** Keeps a torque that was looked up. */
		onentered?: (row: Schemas['FasteningIn']) => Promise<void>;
		/** What the book has of it already. */
		known?: Schemas['FasteningIn'];
	}
	let { torque: of, onentered, known }: Props = $props();
	let open = $state(false);
	const range = (least: number, most: number) => `${torque(least)} to ${torque(most)}`;
</script>

<section
	class="grid gap-1 border-l-4 pl-3 {of.aim_nm === null ? 'border-ochre' : 'border-blued'}"
	aria-label="Torque: {of.label}"
>
	<p class="text-faded">{of.label}{of.socket_mm ? `, socket ${of.socket_mm} mm` : ''}</p>
	{#if of.aim_nm !== null}
		<p class="figure">{torque(of.aim_nm)}</p>
		<p class="text-faded">
			{#if of.least_nm !== null && of.most_nm !== null && of.least_nm !== of.most_nm}
				the middle of {range(of.least_nm, of.most_nm)};
			{/if}
			{of.source}
		</p>
	{:else}
		<p class="font-semibold">Not known for this vehicle: look it up.</p>
		{#if of.stop_gap}
			<p>
				<span class="font-semibold">Stop-gap</span>
				<span class="font-mono text-2xl">{range(of.stop_gap.least_nm, of.stop_gap.most_nm)}</span>
			</p>
			<p class="text-faded">{of.stop_gap.assumes} {of.stop_gap.source}.</p>
		{/if}
	{/if}
	{#if of.seen.length}
		<details>
			<summary class="min-h-12 content-center">Seen on other vehicles: to check by, not to set by</summary>
			<ul class="grid gap-1">
				{#each of.seen as seen (seen.of)}<li>
						<span class="font-mono">{seen.nm.map(torque).join(' to ')}</span>, {seen.of}
					</li>{/each}
			</ul>
		</details>
	{/if}
	{#if onentered}
		{#if open}
			<TorqueForm
				{known}
				wide={false}
				onsave={async (row) => {
					await onentered(row);
					open = false;
				}}
			/>
		{:else}
			<div>
				<Button onclick={() => (open = true)}>{of.aim_nm === null ? 'Enter it' : 'Correct it'}</Button>
			</div>
		{/if}
	{/if}
</section>
