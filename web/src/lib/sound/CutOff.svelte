<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { whereWords } from './made.svelte';
	import { cutOff, forget, soundOf, type CutOff } from './parts';

	/** Recordings that a reload, a crash or an empty battery ended: what was made of them can be kept. */
	let found = $state.raw<CutOff[]>([]);
	$effect(() => {
		const owner = session.person?.id;
		if (owner) void cutOff(owner).then((all) => (found = all.filter((one) => !outbox.of(one.id))));
	});

	async function keep(one: CutOff) {
		const { id, caseId, made } = one;
		const sound = await soundOf(one);
		await outbox.keep({
			id,
			caseId,
			label: `Recording ${whereWords(made.place)}`,
			kind: 'recording',
			made,
			sound
		});
		if (!outbox.of(id)?.unkept) await drop(one);
	}
	async function drop(one: CutOff) {
		found = found.filter((other) => other.id !== one.id);
		await forget(one.id);
	}
</script>

{#each found as one (one.id)}
	<div class="pb-3">
		<Notice level="warn">
			<p>
				A recording {whereWords(one.made.place)} was cut off after {decimal(one.seconds)} s. It is on this device.
			</p>
			<span class="flex flex-wrap gap-2 pt-2">
				<Button onclick={() => keep(one)}>Keep it</Button>
				<Button look="quiet" onclick={() => drop(one)}>Let it go</Button>
			</span>
		</Notice>
	</div>
{/each}
