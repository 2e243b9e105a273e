<script lang="ts">
	import { Check, X } from '@lucide/svelte';
	import type { Schemas } from '$lib/api/client';
	import { small } from '$lib/language';
	import { counted, decimal, hundredths } from '$lib/numbers';
	import { inUnits } from '$lib/shown.svelte';
	import Notice from '$lib/ui/Notice.svelte';

	/** How an answer stands: what was hidden, what spoke for it, what misled, and the bench's own way. */
	interface Props {
		exercise: Schemas['ExerciseOut'];
		told: Schemas['ToldOut'];
		/** The recordings that are still there to be heard. */
		recordings: Schemas['RecordingOut'][];
	}
	let { exercise, told, recordings }: Props = $props();
	const heard = $derived(recordings.map((one) => one.id));
	const called = (hub: string) => exercise.hubs.find((one) => one.key === hub)?.words ?? hub;
	const option = (key: string) => exercise.options.find((one) => one.key === key)?.words ?? key;
	const answered = $derived(
		[exercise.answer_hub && called(exercise.answer_hub), option(exercise.answer)].filter(Boolean).join(': ')
	);
	const ordered = $derived(exercise.asks === 'order');
	const where = $derived(told.hub && !ordered && exercise.topic !== 'corner' ? `${called(told.hub)}: ` : '');
</script>

{#snippet witness(row: Schemas['SpokenOut'])}
	<li class="border-b border-groove py-1">
		<span class="font-mono">{row.hub}</span>
		{inUnits(row.words)}
		<span class="block text-faded">{row.speaks}</span>
		{#if row.recording && heard.includes(row.recording)}
			<audio
				controls
				preload="none"
				src="/api/recordings/{row.recording}/audio"
				class="h-12 w-full"
				aria-label={row.words}
			></audio>
		{/if}
	</li>
{/snippet}

<section
	class="plate grid gap-3 {told.right ? 'border-l-blued' : 'border-l-oxide'}"
	aria-label="What is told"
>
	<p class="flex items-center gap-3 text-3xl leading-tight font-bold {told.right ? '' : 'text-oxide'}">
		{#if told.right}<Check class="size-9" aria-hidden="true" />Right{:else}<X
				class="size-9"
				aria-hidden="true"
			/>Not this one{/if}
	</p>
	<p class="text-xl leading-tight font-semibold first-letter:uppercase">{where}{told.words}</p>
	<p>{told.hidden}. {told.because !== told.hidden ? inUnits(told.because) : ''}</p>
	<p>
		<span class="text-faded">You said:</span>
		{#if !ordered}{answered},{/if}
		{hundredths(exercise.sure ?? 0)}
		{#if exercise.ear}
			<span class="text-faded">· your ear before that:</span>
			{option(exercise.ear)}, {hundredths(exercise.ear_sure ?? 0)} ({told.ear_right ? 'right' : 'not right'})
		{/if}
	</p>
	{#if told.harm}<Notice level={told.stops ? 'stop' : 'warn'}>{told.harm}</Notice>{/if}
</section>
{#if ordered}
	<section class="grid gap-1" aria-label="Your order">
		<h2>Your order</h2>
		<ol class="list-decimal pl-8">
			{#each told.placed as row, n (n)}
				<li class={['border-b border-groove py-1', row.after && 'font-semibold text-oxide']}>
					{inUnits(row.words)}
					{#if row.after}<span class="block">Too early; it comes after: {inUnits(row.after)}</span>{/if}
				</li>
			{/each}
		</ol>
	</section>
	{#if !told.right}
		<section class="grid gap-1" aria-label="An order that hands can follow">
			<h2>An order that hands can follow</h2>
			<ol class="list-decimal pl-8">
				{#each told.followed as words, n (n)}<li class="border-b border-groove py-1">
						{inUnits(words)}
					</li>{/each}
			</ol>
		</section>
	{/if}
{:else}
	{@render found()}
{/if}

{#snippet found()}
	{#if told.spoke.length}
		<section class="grid gap-1" aria-label="What spoke for it">
			<h2>What spoke for it</h2>
			<ul>
				{#each told.spoke as row, n (n)}{@render witness(row)}{/each}
			</ul>
		</section>
	{/if}
	{#if told.misled.length}
		<section class="grid gap-1" aria-label="What misled">
			<h2>What misled</h2>
			<ul>
				{#each told.misled as row, n (n)}{@render witness(row)}{/each}
			</ul>
		</section>
	{/if}
	{#if !told.spoke.length && !told.misled.length}
		<p class="text-faded">
			No witness was asked that speaks of it: the answer rests on nothing that was found.
		</p>
	{/if}
	<section class="grid gap-1" aria-label="Time by hand">
		<h2>Time by hand</h2>
		<p>You: {counted(told.tests, ['one test', '# tests'])}, {decimal(told.minutes)} min.</p>
		{#if told.watched}
			<p>
				The bench by itself: {counted(told.watched.steps.length, ['one test', '# tests'])}, {decimal(
					told.watched.minutes
				)} min; it would say {small(told.watched.words)}{told.watched.hub && exercise.names_a_hub
					? ` (${called(told.watched.hub)})`
					: ''}, {hundredths(told.watched.probability)}{told.watched.right ? '.' : ', and be wrong.'}
			</p>
			<details>
				<summary class="min-h-12 cursor-pointer py-3">Its way</summary>
				<ol class="list-decimal pl-6">
					{#each told.watched.steps as step, n (n)}
						<li>
							{step.label} <span class="font-mono">{step.hub}</span>{step.words ? `: ${step.words}` : ''}
						</li>
					{/each}
				</ol>
			</details>
		{:else}
			<p class="text-faded">
				The bench is still working out its own way. Come back to this page in a moment.
			</p>
		{/if}
	</section>
{/snippet}
