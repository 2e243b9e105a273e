import type { Schemas } from '$lib/api/client';

type Find = Pick<Schemas['FindOut'], 'key' | 'fine'>;

/** The finds of a part after one is tapped: a fine one and a damage shut each other out; what the hand feels goes with both. */
export function tapped(chosen: string[], find: Find, all: Find[]): string[] {
	if (chosen.includes(find.key)) return chosen.filter((key) => key !== find.key);
	const felt = (key: string) => key.startsWith('turns_');
	const kept = chosen.filter((key) => {
		if (felt(key) || felt(find.key)) return felt(key) !== felt(find.key);
		return (all.find((one) => one.key === key)?.fine ?? false) === find.fine;
	});
	return [...kept, find.key];
}

/** The part to go on to: the next that was not looked at, else the next in order. */
export function nextPart(parts: string[], at: string, looked: (part: string) => boolean): string {
	const from = parts.indexOf(at);
	const order = [...parts.slice(from + 1), ...parts.slice(0, from)];
	return order.find((part) => !looked(part)) ?? order[0] ?? at;
}
