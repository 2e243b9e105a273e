import type { Schemas } from '$lib/api/client';

type Find = Pick<Schemas['FindOut'], 'key' | 'shuts_out'>;

/** The finds of a part after one is tapped: those that it shuts out go. */
export function tapped(chosen: string[], find: Find): string[] {
	if (chosen.includes(find.key)) return chosen.filter((key) => key !== find.key);
	return [...chosen.filter((key) => !find.shuts_out.includes(key)), find.key];
}

/** The part to go on to: the next that was not looked at, else the next in order. */
export function nextPart(parts: string[], at: string, looked: (part: string) => boolean): string {
	const from = parts.indexOf(at);
	const order = [...parts.slice(from + 1), ...parts.slice(0, from)];
	return order.find((part) => !looked(part)) ?? order[0] ?? at;
}
