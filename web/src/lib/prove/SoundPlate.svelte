<script lang="ts">
	import { decimal } from '$lib/numbers';
	import type { Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';

	interface Props {
		sound: Schemas['SoundProofOut'];
		/** From this strength on a line stands. */
		standsFrom: number;
	}
	let { sound, standsFrom }: Props = $props();
	const strength = (value: number | null) => (value === null ? 'none' : decimal(value, 1));
	const said = (line: Schemas['LineChangeOut']) =>
		line.went ? ': gone' : line.came ? ': new' : line.stands ? ': still there' : '';
</script>

<p class="text-2xl font-bold">{sound.label}</p>
{#if sound.level_change_db !== null}
	<p><span class="figure">{decimal(sound.level_change_db, 1)} dB</span> against before</p>
{/if}
<p>{sound.words}</p>
{#if sound.lines.length}
	<table class="w-full">
		<thead
			><tr class="text-left"
				><th>Lines</th><th class="text-right">Before</th><th class="text-right">After</th></tr
			></thead
		>
		<tbody>
			{#each sound.lines as line (line.kind)}
				<tr class="border-t border-groove {line.convicting ? 'font-bold' : ''}">
					<td class="py-1"
						>{session.words('line_kinds', line.kind)}{said(line)}{line.convicting
							? ' (what convicted it)'
							: ''}</td
					>
					<td class="text-right font-mono">{strength(line.before)}</td>
					<td class="text-right font-mono">{strength(line.after)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="text-faded">
		Strength: how much likelier the sound is with the line than without, as a natural logarithm. From {standsFrom}
		on, ten to one, a line stands.
	</p>
{/if}
