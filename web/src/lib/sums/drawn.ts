/** Figures out of an answer's picture, which says nothing of what is not known. */
type Picture = Record<string, unknown>;

export const num = (picture: Picture, key: string): number | undefined =>
	typeof picture[key] === 'number' ? picture[key] : undefined;
export const nums = (picture: Picture, key: string): number[] =>
	Array.isArray(picture[key]) ? picture[key].filter((one): one is number => typeof one === 'number') : [];
export const rows = (picture: Picture, key: string): Picture[] =>
	Array.isArray(picture[key]) ? (picture[key] as Picture[]) : [];

/** A point on a circle, turned from the top against the clock: the way a nut is slackened. */
export function round(deg: number, radius: number, [x, y] = [0, 0]): [number, number] {
	const angle = (deg * Math.PI) / 180;
	return [x - radius * Math.sin(angle), y - radius * Math.cos(angle)];
}
const point = ([x, y]: [number, number]) => `${x.toFixed(1)} ${y.toFixed(1)}`;

/** An arc from the top, against the clock; no more than all but a whole turn is drawn. */
export function arc(deg: number, radius: number): string {
	const to = Math.min(Math.max(deg, 0), 359.9);
	return `M${point(round(0, radius))} A${radius} ${radius} 0 ${to > 180 ? 1 : 0} 0 ${point(round(to, radius))}`;
}

/** A regular polygon. */
export const polygon = (corners: number, radius: number, turned = 0): string =>
	Array.from({ length: corners }, (_, n) => point(round(turned + (n * 360) / corners, radius))).join(' ');
