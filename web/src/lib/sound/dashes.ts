/** How the lines of several corners differ: by dash as well as by colour, so that neither is needed alone. */
export const dashes: { colour: string; dash?: number[] }[] = [
	{ colour: '--print' },
	{ colour: '--oxide', dash: [10, 4] },
	{ colour: '--ochre', dash: [3, 3] },
	{ colour: '--faded', dash: [14, 4, 3, 4] },
	{ colour: '--blued', dash: [2, 6] },
	{ colour: '--oxide', dash: [4, 8] }
];
