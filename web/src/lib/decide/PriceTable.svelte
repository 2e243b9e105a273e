<script lang="ts">
	import { small } from '$lib/language';
	import type { Schemas } from '$lib/api/client';
	import { percent } from '$lib/shown.svelte';
	import { days, money } from './money';

	interface Props {
		prices: Schemas['PricesOut'];
		/** How likely the recommended choice is to be right. */
		certain: number;
	}
	let { prices, certain }: Props = $props();
	const most = $derived(Math.max(...prices.rows.map((row) => row.expected)));
	const best = $derived(prices.rows[0]);
	const examples = $derived(prices.rows.some((row) => row.example));
</script>

<section class="grid gap-3" aria-label="What each choice costs">
	<h2>What each choice costs</h2>
	{#if examples}<p class="text-faded">
			With example figures, until the workshop enters its own under <a
				class="underline underline-offset-4"
				href="/policy">the workshop’s ways</a
			>.
		</p>{/if}
	<ul class="grid gap-2">
		{#each prices.rows as row, n (row.choice)}
			<li class="plate grid gap-2 py-3 {n ? '' : 'border-l-blued'}">
				<div class="flex flex-wrap items-baseline justify-between gap-x-4">
					<b class="text-lg">{row.label}</b>
					<span class="text-faded"
						>{[!n && 'advised', row.choice === prices.cheapest && 'least in the end']
							.filter(Boolean)
							.join(', ')}</span
					>
				</div>
				<dl class="grid grid-cols-2 gap-x-4 gap-y-1 sm:grid-cols-4">
					<div>
						<dt class="text-faded">Now</dt>
						<dd class="font-mono text-lg">{money(row.now, prices.currency)}</dd>
					</div>
					<div>
						<dt class="text-faded">Without it</dt>
						<dd class="font-mono text-lg">{days(row.days)}</dd>
					</div>
					<div>
						<dt class="text-faded">Comes back</dt>
						<dd class="font-mono text-lg">{percent(row.comeback)}</dd>
					</div>
					<div>
						<dt class="text-faded">In the end</dt>
						<dd class="font-mono text-lg">
							{money(row.expected, prices.currency)}
							<span class="block text-base">{days(row.expected_days)}</span>
						</dd>
					</div>
				</dl>
				<div class="h-2 bg-groove" aria-hidden="true">
					<div class="h-full bg-blued" style:width="{(row.expected / most) * 100}%"></div>
				</div>
				<details>
					<summary class="cursor-pointer py-1 text-faded">Made up of</summary>
					<p>
						Parts {money(row.parts, prices.currency)}, {row.hours} h of work {money(
							row.labour,
							prices.currency
						)}, press or machine shop {money(row.fees, prices.currency)}, consumables {money(
							row.consumables,
							prices.currency
						)}; {row.wait_days ? `${row.wait_days} days’ wait for the part` : 'no wait'}. “In the end” adds
						days without the vehicle, and a comeback by its chance.
					</p>
				</details>
			</li>
		{/each}
	</ul>
	{#each prices.flips as flip (flip.choice)}
		{#if flip.below_probability !== null}<p>
				<b>{flip.label}</b> would cost less in the end if “{small(best?.label ?? '')}” were right in under {percent(
					flip.below_probability
				)} of such cases; it is {percent(certain)}.
			</p>{/if}
		{#if flip.parts_above !== null}<p>
				<b>{flip.label}</b> would cost less if the parts cost more than {money(
					flip.parts_above,
					prices.currency
				)}; they are {money(best?.parts ?? 0, prices.currency)}.
			</p>{/if}
	{/each}
	{#if prices.sides}
		<div class="plate grid gap-1">
			<h3 class="font-semibold">One side or both</h3>
			<p>
				Both sides now <span class="font-mono">{money(prices.sides.both_now, prices.currency)}</span>; one
				now, and the other if it follows ({percent(prices.sides.chance)}),
				<span class="font-mono">{money(prices.sides.one_now, prices.currency)}</span>: {prices.sides
					.both_now < prices.sides.one_now
					? 'both now costs less.'
					: 'one now costs less.'}
			</p>
		</div>
	{/if}
</section>
