import { SvelteMap } from 'svelte/reactivity';

export interface Shortcut {
	key: string;
	label: string;
	run: () => void;
}

const bound = new SvelteMap<string, Shortcut>();

/** Bind single keys while a screen is up. Call within an effect and return what it returns. */
export function bindKeys(shortcuts: Shortcut[]): () => void {
	for (const shortcut of shortcuts) bound.set(shortcut.key, shortcut);
	return () => {
		for (const shortcut of shortcuts) if (bound.get(shortcut.key) === shortcut) bound.delete(shortcut.key);
	};
}

export const boundKeys = (): Shortcut[] => [...bound.values()];

/** A key typed into a field is text, never a command; a button keeps its own Space and Enter. */
export function isCommand(event: KeyboardEvent): boolean {
	if (event.ctrlKey || event.metaKey || event.altKey) return false;
	const target = event.target as HTMLElement;
	if (target.closest('input:not([type=checkbox]), textarea, select, [contenteditable], [role=dialog]'))
		return false;
	return !(event.key === ' ' && target.closest('button, a, [role=radio], [role=checkbox]'));
}

export function press(event: KeyboardEvent): void {
	const shortcut = bound.get(event.key);
	if (!shortcut || event.repeat || !isCommand(event)) return; // a key held down is pressed once
	event.preventDefault();
	shortcut.run();
}
