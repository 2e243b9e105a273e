/** The stages follow the work; a mechanic may enter anywhere and skip. */
export const stages = [
	{ key: 'h', path: 'hear', label: 'Hear' },
	{ key: 'l', path: 'lift', label: 'Lift' },
	{ key: 'r', path: 'rock', label: 'Rock' },
	{ key: 's', path: 'spin', label: 'Spin' },
	{ key: 'o', path: 'open', label: 'Open' },
	{ key: 'd', path: 'decide', label: 'Decide' },
	{ key: 'g', path: 'do', label: 'Do' },
	{ key: 'p', path: 'prove', label: 'Prove' }
] as const;
