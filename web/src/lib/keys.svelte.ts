import { untrack } from 'svelte';
import { SvelteMap } from 'svelte/reactivity';

export interface Shortcut {
	key: string;
	label: string;
	run: () => void;
}

const OFF = 'single-keys-off';
/** By key, who binds it: the one that came last has it, and gives it back when it goes. */
const bound = new SvelteMap<string, Shortcut[]>();

/** Whether single keys work: whoever speaks to a computer, or rests a hand on the board, switches them off. */
class SingleKeys {
	on = $state(globalThis.localStorage?.getItem(OFF) !== 'yes');

	set(on: boolean): void {
		this.on = on;
		globalThis.localStorage?.setItem(OFF, on ? '' : 'yes');
	}
}
export const singleKeys = new SingleKeys();

/** Bind single keys while a screen is up. Call within an effect and return what it returns. */
export function bindKeys(shortcuts: Shortcut[]): () => void {
	// Untracked: what others bind must not run the effect again.
	untrack(() => {
		for (const one of shortcuts) bound.set(one.key, [...(bound.get(one.key) ?? []), one]);
	});
	return () => untrack(() => shortcuts.forEach(release));
}

function release(one: Shortcut): void {
	const left = (bound.get(one.key) ?? []).filter((other) => other !== one);
	if (left.length) bound.set(one.key, left);
	else bound.delete(one.key);
}

export const boundKeys = (): Shortcut[] => [...bound.values()].flatMap((all) => all.at(-1) ?? []);

/** A key typed into a field is text, never a command; a button keeps its own Space and Enter, an open list its letters. */
export function isCommand(event: KeyboardEvent): boolean {
	if (event.ctrlKey || event.metaKey || event.altKey) return false;
	const target = event.target as HTMLElement;
	if (
		target.closest(
			'input:not([type=checkbox]), textarea, select, [contenteditable], [role=dialog], [role=listbox], [aria-expanded=true]'
		)
	)
		return false;
	return !(event.key === ' ' && target.closest('button, a, [role=radio], [role=checkbox]'));
}

export function press(event: KeyboardEvent): void {
	const shortcut = bound.get(event.key)?.at(-1);
	// A key held down is pressed once.
	if (!shortcut || !singleKeys.on || event.repeat || !isCommand(event)) return;
	event.preventDefault();
	shortcut.run();
}
