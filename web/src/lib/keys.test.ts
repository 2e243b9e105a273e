import { beforeEach, describe, expect, it, vi } from 'vitest';
import { bindKeys, boundKeys, press, singleKeys } from './keys.svelte';

const pressed: string[] = [];
const shortcut = (key: string, label: string) => ({ key, label, run: () => void pressed.push(label) });
/** A key pressed on something; `inside`: the selectors that it lies in. */
function key(name: string, more: object = {}, inside: string[] = []) {
	const closest = (selectors: string) => inside.some((one) => selectors.split(', ').includes(one)) || null;
	const event = { key: name, target: { closest }, preventDefault: vi.fn(), ...more };
	press(event as unknown as KeyboardEvent);
}

describe('single keys', () => {
	beforeEach(() => {
		pressed.length = 0;
		singleKeys.set(true);
	});

	it('are the last one’s who bound them, who gives them back', () => {
		const layout = bindKeys([shortcut('d', 'Decide'), shortcut('w', 'Walkround')]);
		const screen = bindKeys([shortcut('d', 'Drags')]);
		key('d');
		screen();
		key('d');
		expect(pressed).toEqual(['Drags', 'Decide']);
		expect(boundKeys().map((one) => one.label)).toEqual(['Decide', 'Walkround']);
		layout();
		key('d');
		expect([pressed.length, boundKeys()]).toEqual([2, []]);
	});

	it('are given back in whatever order the screens go', () => {
		const [first, second] = [bindKeys([shortcut('l', 'Lift')]), bindKeys([shortcut('l', 'Loop')])];
		first();
		key('l');
		second();
		key('l');
		expect(pressed).toEqual(['Loop']);
	});

	it('do nothing in a field, in an open list, with a control key, or held down', () => {
		const free = bindKeys([shortcut('r', 'Rock'), shortcut(' ', 'Record')]);
		key('r', {}, ['textarea']);
		key('r', {}, ['[role=listbox]']);
		key('r', {}, ['[aria-expanded=true]']);
		key('r', { ctrlKey: true });
		key('r', { repeat: true });
		key(' ', {}, ['button']);
		expect(pressed).toEqual([]);
		key('r');
		free();
		expect(pressed).toEqual(['Rock']);
	});

	it('can be switched off', () => {
		const free = bindKeys([shortcut('r', 'Rock')]);
		singleKeys.set(false);
		key('r');
		singleKeys.set(true);
		key('r');
		free();
		expect(pressed).toEqual(['Rock']);
	});
});
