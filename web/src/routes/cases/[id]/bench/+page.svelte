<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { Download } from '@lucide/svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { session } from '$lib/session.svelte';
	import CornerStack from '$lib/sound/CornerStack.svelte';
	import Curves from '$lib/sound/Curves.svelte';
	import OrderPlot from '$lib/sound/OrderPlot.svelte';
	import QualityReport from '$lib/sound/QualityReport.svelte';
	import WavePlayer from '$lib/sound/WavePlayer.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { fixed } from '$lib/units';

	const held = useCase();
	type Recording = Schemas['RecordingOut'];
	const heard = $derived(held.recordings.filter((row) => !row.withdrawn && row.state === 'done'));
	const asked = $derived(page.url.searchParams.get('recording'));
	const chosen = $derived<Recording | undefined>(heard.find((row) => row.id === asked) ?? heard[0]);
	/** Only recordings made alike may be laid over each other. */
	const mates = $derived(
		heard.filter(
			(row) =>
				chosen &&
				row.id !== chosen.id &&
				row.after_repair === chosen.after_repair &&
				row.gain_group === chosen.gain_group &&
				row.sensor === chosen.sensor &&
				row.situation === chosen.situation
		)
	);
	const levels = $derived(
		[chosen, ...mates].flatMap((row) => (row?.level_db === null || !row ? [] : [row.level_db]))
	);
	const quietest = $derived(Math.min(...levels));
	let corners = $state<'one' | 'over' | 'places'>('one');
	const shownAs = (other: typeof corners) => (corners = corners === other ? 'one' : other);
	let solo = $state(false);
	let low = $state<number | null>(null);
	let high = $state<number | null>(null);

	// Set for another recording only: a refresh of the case must not undo a band of one's own.
	const whole = (hz: number | null | undefined) => (hz == null ? null : Math.round(hz));
	const shown = $derived(chosen?.id);
	$effect(() => {
		if (!shown) return;
		untrack(() => {
			low = whole(chosen?.band_low_hz);
			high = whole(chosen?.band_high_hz);
		});
	});
	const limits = $derived(session.reference?.band ?? { lowest_hz: 0, narrowest: 1 });
	const bandWrong = $derived(
		low !== null && high !== null && low >= limits.lowest_hz && high >= low * limits.narrowest
			? ''
			: 'Give two figures in Hz, the lower one first.'
	);
	const own = $derived(whole(chosen?.band_low_hz) !== low || whole(chosen?.band_high_hz) !== high);
	const band = $derived(
		bandWrong || low === null || high === null ? undefined : { low_hz: low, high_hz: high }
	);
	const centres = $derived(session.reference?.third_octaves_hz ?? []);
	const thirds = $derived(
		[chosen, ...mates]
			.filter((row): row is Recording => Boolean(row?.thirds_db.length))
			.map((row) => ({
				name: row.place,
				x: centres.filter((_, n) => (row.thirds_db[n] ?? 0) < 200),
				y: row.thirds_db.filter((db) => db < 200)
			}))
	);
	const forms = ['wav', 'flac', 'uff', 'csv', 'json'];

	function choose(row: Recording | undefined) {
		if (row)
			void goto(`${page.url.pathname}?recording=${row.id}`, {
				replaceState: true,
				keepFocus: true,
				noScroll: true
			});
	}
	const beside = (step: number) =>
		choose(heard[(heard.findIndex((row) => row.id === chosen?.id) + step + heard.length) % heard.length]);

	$effect(() =>
		bindKeys([
			{ key: 'n', label: 'Next recording, at the same moment', run: () => beside(1) },
			{ key: 'm', label: 'Recording before', run: () => beside(-1) },
			{ key: 'b', label: 'Hear only the band', run: () => (solo = !solo) },
			{ key: 'a', label: 'All corners on one plot', run: () => shownAs('over') },
			{ key: 'c', label: 'The corners in their places', run: () => shownAs('places') }
		])
	);
</script>

<h1 class="pb-3">Listening bench</h1>
{#if chosen}
	<div class="grid gap-6 wide:grid-cols-[16rem_1fr]">
		<nav aria-label="Recordings" class="grid content-start gap-2">
			<div class="flex gap-2">
				<Button hotkey="m" onclick={() => beside(-1)}>Before</Button>
				<Button hotkey="n" onclick={() => beside(1)}>Next</Button>
			</div>
			<ul class="grid grid-cols-2 gap-2 wide:grid-cols-1">
				{#each heard as row (row.id)}
					<li>
						<button
							type="button"
							aria-pressed={row.id === chosen.id}
							onclick={(event) => {
								choose(row);
								// Clicked, not pressed: the space bar then plays, and does not press this pad again.
								if (event.detail) event.currentTarget.blur();
							}}
							class="min-h-12 w-full rounded-sm border border-faded bg-plate p-2 text-left aria-pressed:bg-blued aria-pressed:text-on-blued"
						>
							<span class="font-mono text-xl">{row.place}</span>
							{row.after_repair ? 'after' : ''}
							<span class="block"
								>{decimal(row.duration_s)} s{row.relative_db === null
									? ''
									: `, +${decimal(row.relative_db)} dB`}</span
							>
						</button>
					</li>
				{/each}
			</ul>
			<p class="text-faded">
				Switching keeps the moment and matches the loudness, so the ear compares the sound. The band found is
				where it is most like a train of knocks.
			</p>
		</nav>
		<div class="grid min-w-0 content-start gap-5">
			<WavePlayer recording={chosen} {quietest} band={solo ? band : undefined} />
			<section class="grid gap-3" aria-label="Band">
				<div class="flex flex-wrap items-end gap-3">
					<div class="w-36"><Figure label="Band from" bind:value={low} unit={fixed('Hz')} /></div>
					<div class="w-36"><Figure label="to" bind:value={high} unit={fixed('Hz')} /></div>
					<Button hotkey="b" look={solo ? 'main' : 'plain'} onclick={() => (solo = !solo)}
						>{solo ? 'Hearing only the band' : 'Hear only the band'}</Button
					>
					{#if mates.length}
						<Button hotkey="a" look={corners === 'over' ? 'main' : 'plain'} onclick={() => shownAs('over')}
							>All corners on one plot</Button
						>
						<Button
							hotkey="c"
							look={corners === 'places' ? 'main' : 'plain'}
							onclick={() => shownAs('places')}>In their places</Button
						>
					{/if}
				</div>
				{#if bandWrong}<Notice level="warn">{bandWrong}</Notice>{/if}
			</section>
			{#if corners === 'places'}
				<CornerStack recordings={[chosen, ...mates]} band={own ? band : undefined} />
			{:else}
				<OrderPlot
					recording={chosen}
					others={corners === 'over' ? mates : []}
					band={own ? band : undefined}
				/>
			{/if}
			{#if thirds.length > 1}
				<figure class="grid gap-2">
					<figcaption>Loudness by pitch, over the quietest corner (third octaves)</figcaption>
					<Curves
						label="Third octaves of the corners"
						file="third-octaves"
						curves={thirds}
						xLabel="Frequency, Hz"
						yLabel="Over the quietest, dB"
						columns={['hz', 'db_over_quietest']}
						readout={(x, y) => `${decimal(x)} Hz: ${decimal(y, 1)} dB`}
						logarithmic
					/>
				</figure>
			{/if}
			<section class="plate grid gap-2" aria-label="What was heard">
				<h2>{chosen.place}</h2>
				<QualityReport recording={chosen} />
				<p class="flex flex-wrap items-center gap-x-4">
					Take it along:
					{#each forms as form (form)}
						<a
							class="flex min-h-12 items-center gap-1 underline underline-offset-4"
							href="/api/recordings/{chosen.id}/export/{form}"
							download><Download aria-hidden="true" />{form.toUpperCase()}</a
						>
					{/each}
				</p>
			</section>
		</div>
	</div>
{:else}
	<div class="plate grid max-w-xl gap-3">
		<p>Here recordings are seen and heard together, corner against corner. There is none yet.</p>
		<div><Button look="main" href="/cases/{held.id}/hear">Record the first</Button></div>
	</div>
{/if}
