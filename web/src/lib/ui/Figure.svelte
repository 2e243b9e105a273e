<script lang="ts">
	import { Label } from 'bits-ui';
	import { untrack } from 'svelte';
	import { read } from '$lib/figures';
	import { unitFor, unitsOf } from '$lib/shown.svelte';
	import { fixed, inField, type Unit } from '$lib/units';

	interface Props {
		label: string;
		/** The quantity in SI, or in its fixed unit where that has none; null while nothing, or no whole figure, stands there. */
		value: number | null;
		/** Of which quantity: the person's own unit is shown, and may change at any time. */
		of?: 'length' | 'torque' | 'temperature' | 'speed' | 'distance';
		/** A unit that nobody chooses, such as degrees. */
		unit?: Unit;
		/** In SI: what it must be at least, above or at most. */
		least?: number;
		above?: number;
		most?: number;
		/** Why the form cannot do without it. */
		needed?: string;
		/** What is wrong with it, from the server or the form. */
		wrong?: string;
		big?: boolean;
		placeholder?: string;
	}
	let {
		label,
		value = $bindable(),
		of,
		unit: own,
		least,
		above,
		most,
		needed,
		wrong,
		big = false,
		placeholder
	}: Props = $props();
	const id = $props.id();
	const unit = $derived(of ? unitFor(of) : (own ?? fixed('')));

	let input: HTMLInputElement;
	let text = $state('');
	/** What the text stands for, and in which unit it is written. */
	let stands = $state.raw<{ value: number | null; unit: string }>({ value: null, unit: '' });
	let marked = $state(false);
	let part = $state(false);
	let refused = $state('');
	let tried = $state(false);

	// A figure that came from elsewhere, or a unit switched in the middle of typing: the quantity stays, the text follows.
	$effect.pre(() => {
		const [now, key] = [value, unit.key];
		untrack(() => {
			if (now === stands.value && key === stands.unit) return;
			if (part && now === stands.value) return void (stands = { value: now, unit: key });
			text = inField(now, unit);
			stands = { value: now, unit: key };
			marked = part = tried = false;
			refused = '';
		});
	});

	const amount = (si: number) => `${inField(si, unit)} ${unit.label}`.trim();
	const amiss = $derived.by(() => {
		if (part)
			return `“${text.trim()}” is not a whole figure. Write it like ${inField(unit.offset + 12.5 * unit.factor, { ...unit, decimals: 1 })}.`;
		if (value === null) return needed ?? '';
		if (least !== undefined && value < least) return `Give ${amount(least)} or more.`;
		if (above !== undefined && value <= above) return `Give more than ${amount(above)}.`;
		if (most !== undefined && value > most) return `Give ${amount(most)} or less.`;
		return '';
	});
	// A form with a figure amiss is not sent; the words stand below the field, not in the browser's bubble.
	$effect(() => input.setCustomValidity(amiss));

	function taken() {
		const found = read(input.value, unit, of ? unitsOf(of) : [unit]);
		if (found.is === 'text') {
			refused = `Figures only: “${input.value.trim()}” was not taken.`;
			input.value = text;
			return;
		}
		refused = '';
		text = input.value;
		part = found.is === 'part';
		marked = found.is === 'figure' && found.marked;
		const si = found.is === 'figure' ? found.si : null;
		stands = { value: si, unit: unit.key };
		value = si; // last: what it is bound to may not give it back at once
	}

	function invalid(event: Event) {
		event.preventDefault();
		tried = true;
		const folded = input.closest('details');
		if (folded) folded.open = true;
		if (input.form?.querySelector(':invalid:not(fieldset)') === input) input.focus();
	}
	const shownWrong = $derived(refused || (tried || part ? amiss : '') || wrong || '');
</script>

<div>
	<Label.Root for={id} class="block pb-1 text-faded"
		>{label}{#if big && unit.label}<span class="sm:hidden">, {unit.label}</span>{/if}</Label.Root
	>
	<div class="flex items-center gap-2">
		<input
			bind:this={input}
			{id}
			type="text"
			autocomplete="off"
			inputmode="decimal"
			{placeholder}
			value={text}
			oninput={taken}
			oninvalid={invalid}
			onfocus={() => (refused = '')}
			aria-invalid={shownWrong && !refused ? 'true' : undefined}
			aria-describedby="{id}-unit {id}-said"
			class={big ? 'min-h-16 font-mono text-2xl max-sm:px-2 sm:text-3xl' : ''}
		/>
		{#if unit.label}<span id="{id}-unit" class="shrink-0 text-faded {big ? 'max-sm:hidden' : ''}"
				>{unit.label}</span
			>{/if}
	</div>
	<p
		id="{id}-said"
		aria-live="polite"
		class={shownWrong ? 'pt-1 text-oxide' : marked ? 'pt-1 text-faded' : ''}
	>
		{#if shownWrong}{shownWrong}{:else if marked && value !== null}Read as {amount(value)}.{/if}
	</p>
</div>
