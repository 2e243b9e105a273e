<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { page } from '$app/state';
	import { Check, X } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import { inUnits, length, lengthFigure, mm, unitLabel } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import { submits } from '$lib/ui/submits';

	let vehicle = $state.raw<Schemas['VehicleOut'] | null>(null);
	let found = $state.raw<Schemas['FoundOut'] | null>(null);
	type Known = number | null;
	let size = $state<Record<'bore' | 'outside' | 'width', Known>>({ bore: null, outside: null, width: null });
	let seal = $state<Record<'shaft' | 'housing' | 'width', Known>>({
		shaft: null,
		housing: null,
		width: null
	});
	let row = $state('');
	let both = $state(true);
	let wrong = $state('');
	let kept = $state('');
	const path = $derived({ vehicle_id: page.params.id ?? '' });
	const hub = $derived(
		vehicle?.axles.flatMap((axle) => axle.hubs).find((one) => one.id === page.url.searchParams.get('hub')) ??
			vehicle?.axles[0]?.hubs[0]
	);
	const unit = $derived(unitLabel('length'));
	/** The places where a bearing sits in this design; rows that the vehicle names otherwise keep their names. */
	const places = $derived(
		(hub?.parts ?? [])
			.flatMap((key) => session.reference?.parts[key] ?? [])
			.filter((part) => part.kind === 'rolling' || part.kind === 'sealed')
			.map((part) => ({ key: part.key, words: part.label }))
	);
	const named = $derived(
		(hub?.bearings ?? [])
			.map((one) => one.row ?? 'row')
			.filter((key) => !places.some((one) => one.key === key))
	);
	const rows = $derived(named.length ? named.map((key) => ({ key, words: `${key} row` })) : places);
	const place = $derived(rows.some((one) => one.key === row) ? row : (rows[0]?.key ?? ''));

	$effect(() => {
		ask(api.GET('/api/vehicles/{vehicle_id}', { params: { path } })).then(
			(got) => (vehicle = got),
			(error) => (wrong = inUnits(wordsOf(error)))
		);
	});

	const given = (si: Known) => mm(si) ?? undefined;

	async function find() {
		wrong = kept = '';
		try {
			const query = {
				bore_mm: given(size.bore),
				outside_mm: given(size.outside),
				width_mm: given(size.width)
			};
			found = await ask(api.GET('/api/bearings', { params: { query } }));
		} catch (error) {
			found = null;
			wrong = inUnits(wordsOf(error));
		}
	}
	async function keep(body: Partial<Schemas['FitIn']>, words: string) {
		if (!hub) return;
		wrong = kept = '';
		try {
			const whole = { hub: hub.id, row: place, designation: '', both_sides: both, ...body };
			vehicle = await ask(api.POST('/api/vehicles/{vehicle_id}/bearings', { params: { path }, body: whole }));
			kept = `${words} kept for ${hub.id}${both ? ' and its mate across the axle' : ''}.`;
		} catch (error) {
			wrong = inUnits(wordsOf(error));
		}
	}
	function keepSeal() {
		const figures = {
			shaft_mm: given(seal.shaft),
			housing_mm: given(seal.housing),
			width_mm: given(seal.width)
		};
		void keep({ seal: figures }, 'The seal’s size is');
	}
	const times = (one: Schemas['SizeOut']) =>
		`${lengthFigure(one.bore_mm)} × ${lengthFigure(one.outside_mm)} × ${lengthFigure(one.width_mm)} ${unit}`;
</script>

<svelte:head><title>Which bearing · Hematite</title></svelte:head>

{#snippet name(one: Schemas['SizeOut'])}
	<span class="font-mono text-xl">{one.cone ? `cone ${one.cone}, cup ${one.cup}` : one.designation}</span>
	<span class="block">{times(one)} <span class="text-faded">{one.kind_label}. {one.source}.</span></span>
{/snippet}

{#if vehicle && hub}
	<!-- On a phone what fits follows the figures at once; beside them where there is room. -->
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-4">
			<div>
				<h1>Which bearing is it? <span class="font-mono">{hub.id}</span></h1>
				<p>
					<a class="underline underline-offset-4" href="/vehicles/{vehicle.id}">{vehicle.label}</a>. One bore
					comes in many sizes: measure all three with a caliper.
				</p>
			</div>
			<form class="plate grid gap-3" onsubmit={submits(find)}>
				<div class="grid grid-cols-3 gap-3">
					<Figure label="Bore" bind:value={size.bore} of="length" above={0} big />
					<Figure label="Outside" bind:value={size.outside} of="length" above={0} big />
					<Figure label="Width" bind:value={size.width} of="length" above={0} big />
				</div>
				<p class="text-faded">Of a taper the width is the whole of cone and cup together.</p>
				<Button type="submit" look="main">Find it</Button>
			</form>
			{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
			{#if kept}<Notice>{kept}</Notice>{/if}
		</section>
		<section class="grid content-start gap-4 wide:row-span-2" aria-label="What fits" aria-live="polite">
			{#if found}
				{#if found.missing.length}<Notice level="warn"
						>The {found.missing.join(' and the ')} is still missing: what fits is not certain.</Notice
					>{/if}
				<h2>{found.fits.length ? 'It fits' : 'Nothing in the catalogue fits'}</h2>
				<ul class="grid gap-2">
					{#each found.fits as one (one.designation)}
						<li class="plate grid gap-2 border-l-blued">
							<p class="flex gap-3">
								<Check class="mt-1 shrink-0" aria-hidden="true" /><span>{@render name(one)}</span>
							</p>
							{#if one.cone}<p class="text-faded">
									One cup serves several cones: the bore decides. Cone and cup are replaced together.
								</p>{/if}
							<div>
								<Button onclick={() => keep({ designation: one.designation }, `${one.designation} is`)}
									>This is it</Button
								>
							</div>
						</li>
					{:else}<li>Measure again on a clean edge, or ask by its number.</li>{/each}
				</ul>
				{#if found.near.length}
					<h2>Near, but not it</h2>
					<ul class="grid gap-1">
						{#each found.near as miss (miss.size.designation)}
							<li class="flex gap-3 border-b border-groove pb-2">
								<X class="mt-1 shrink-0 text-faded" aria-hidden="true" />
								<span
									>{@render name(miss.size)}<span class="block font-semibold">{inUnits(miss.why)}</span></span
								>
							</li>
						{/each}
					</ul>
				{/if}
			{:else}
				<p class="plate">What fits will stand here, with its near misses and why they are not it.</p>
			{/if}
		</section>
		<section class="grid content-start gap-4">
			{#if rows.length > 1}
				<div>
					<p class="pb-1 text-faded">Where it sits</p>
					<Choice label="Where it sits" options={rows} bind:value={() => place, (key) => (row = key)} row />
				</div>
			{/if}
			<Tick label="Both sides of the axle have the same" bind:checked={both} />
			<section class="plate grid gap-2" aria-label="Kept on {hub.id}">
				<h2>Kept on {hub.id}</h2>
				<ul class="grid gap-1">
					{#each hub.bearings ?? [] as one (one.row)}
						<li>
							<b>{rows.find((known) => known.key === one.row)?.words ?? one.row}</b>:
							{one.designation || 'no number yet'}{one.elements
								? `, ${one.elements} counted balls or rollers`
								: ''}
						</li>
					{:else}<li class="text-faded">No bearing is known yet.</li>{/each}
					{#each hub.estimates as one (one.row)}
						<li>
							Estimated, until its balls or rollers are counted: outer race {decimal(one.bpfo_least, 1)} to {decimal(
								one.bpfo_most,
								1
							)}, inner race {decimal(one.bpfi_least, 1)} to {decimal(one.bpfi_most, 1)} strikes a wheel turn (about
							{one.elements}
							of them).
						</li>
					{/each}
					{#if hub.seal?.shaft_mm || hub.seal?.housing_mm || hub.seal?.width_mm}
						<li>
							Seal: shaft {hub.seal.shaft_mm ? length(hub.seal.shaft_mm) : '?'}, housing {hub.seal.housing_mm
								? length(hub.seal.housing_mm)
								: '?'}, width {hub.seal.width_mm ? length(hub.seal.width_mm) : '?'}
						</li>
					{/if}
				</ul>
			</section>
			<form class="plate grid gap-3" onsubmit={submits(keepSeal)}>
				<h2>Seal</h2>
				<div class="grid grid-cols-3 gap-3">
					<Figure label="Shaft" bind:value={seal.shaft} of="length" above={0} />
					<Figure label="Housing" bind:value={seal.housing} of="length" above={0} />
					<Figure label="Width" bind:value={seal.width} of="length" above={0} />
				</div>
				<Button type="submit">Keep the seal’s size</Button>
			</form>
		</section>
	</div>
{/if}
