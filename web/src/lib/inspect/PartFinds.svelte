<script lang="ts">
	import { small } from '$lib/language';
	import type { Schemas } from '$lib/api/client';
	import { lettersFor } from '$lib/case/answers';
	import { useCase } from '$lib/case/case.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import { tapped } from './draft';
	import FindGlyph from './FindGlyph.svelte';
	import PartPhotos from './PartPhotos.svelte';
	import OnTheBench from '$lib/practice/OnTheBench.svelte';

	interface Props {
		hub: string;
		part: Schemas['PartOut'];
		/** Called with this part once it is logged, or when there is nothing to log and the mechanic goes on. */
		ondone: (part: string) => void;
		/** Stay at a part while the practice hub shows it. */
		onlook: (part: string) => void;
	}
	let { hub, part, ondone, onlook }: Props = $props();
	const held = useCase();
	const possible = $derived(
		(session.reference?.finds ?? []).filter(
			(find) => find.kinds.includes(part.kind) && (find.parts.length === 0 || find.parts.includes(part.key))
		)
	);
	const logged = $derived(held.standing(hub, 'part', part.key));
	const draftKey = $derived(`draft-part-${held.id}-${hub}-${part.key}`);

	interface Draft {
		finds: string[];
		note: string;
	}
	function drafted(): Draft {
		const kept = localStorage.getItem(`draft-part-${held.id}-${hub}-${part.key}`);
		if (kept) return JSON.parse(kept) as Draft;
		const value = held.standing(hub, 'part', part.key)?.value as Partial<Draft> | undefined;
		return { finds: value?.finds ?? [], note: value?.note ?? '' };
	}
	const start = drafted();
	let chosen = $state.raw(start.finds); // raw: what goes into the outbox must be plain
	let note = $state(start.note);
	const same = $derived(
		JSON.stringify([chosen, note.trim()]) ===
			JSON.stringify([logged?.value.finds ?? [], (logged?.value.note as string | undefined) ?? ''])
	);

	// What is tapped survives a reload until it is logged.
	$effect(() => {
		if (same) localStorage.removeItem(draftKey);
		else localStorage.setItem(draftKey, JSON.stringify({ finds: chosen, note }));
	});

	const keys = $derived(lettersFor(possible.map((find) => find.label)));
	const tap = (find: Schemas['FindOut']) => (chosen = tapped(chosen, find));
	async function log() {
		const own = part.key; // what is judged anew meanwhile may already show the next part
		if (chosen.length && !same && !held.closed) {
			const words = possible.filter((find) => chosen.includes(find.key)).map((find) => small(find.label));
			const value = { part: part.key, finds: chosen, ...(note.trim() ? { note: note.trim() } : {}) };
			await held.observe(hub, 'part', value, `${hub}: ${small(part.label)}, ${words.join(', ')}`);
		}
		ondone(own);
	}
	$effect(() =>
		bindKeys([
			...possible.map((find, n) => ({
				key: keys[n] ?? '',
				label: `${part.label}: ${find.label}`,
				run: () => void tap(find)
			})),
			{ key: 'n', label: 'Log it, next part', run: () => void log() }
		])
	);
</script>

<section class="grid content-start gap-4" aria-label="Finds at {part.label}">
	{#if held.detail?.practice}
		<OnTheBench
			label="Look at it on the practice hub"
			run={async () => {
				onlook(part.key);
				await held.look(hub, part.key);
				chosen = (held.standing(hub, 'part', part.key)?.value.finds as string[] | undefined) ?? chosen;
			}}
		/>
	{/if}
	<ul class="grid gap-2 sm:grid-cols-2">
		{#each possible as find, n (find.key)}
			{@const on = chosen.includes(find.key)}
			<li>
				<button
					type="button"
					aria-pressed={on}
					disabled={held.closed}
					onclick={() => tap(find)}
					class="flex h-full min-h-20 w-full items-center gap-3 rounded-sm border-2 px-3 py-2 text-left disabled:opacity-60 wide:min-h-16 wide:py-1 {on
						? 'border-blued bg-blued text-on-blued'
						: 'border-groove bg-plate'}"
				>
					<FindGlyph find={find.key} kind={part.kind} />
					<span class="grow leading-tight"
						><b>{find.label}</b>{#if on}<span class="block pt-1">{find.means}</span
							>{/if}{#if on && find.damage}<span class="block pt-1 opacity-80">{find.damage}</span>{/if}</span
					>
					{#if keys[n]}<kbd class="rounded-xs border border-current/50 px-1.5 font-mono" aria-hidden="true"
							>{keys[n]}</kbd
						>{/if}
				</button>
			</li>
		{/each}
	</ul>
	<Field label="Where, how much (a few words)" bind:value={note} placeholder="loaded side, at six o’clock" />
	<PartPhotos {hub} part={part.key} label={part.label} />
	<div class="sticky bottom-0 flex flex-wrap items-center gap-3 bg-steel py-2 max-wide:bottom-12">
		<Button look="main" hotkey="n" onclick={log}
			>{chosen.length && !same ? 'Log it, next part' : 'Next part'}</Button
		>
		{#if logged}<span class="text-faded">Logged by {logged.person}; another look supersedes it.</span>{/if}
	</div>
</section>
