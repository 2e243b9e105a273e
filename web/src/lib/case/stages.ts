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

const OTHERS: Record<string, string> = {
	bench: 'Listening bench',
	guide: 'One test at a time',
	why: 'Why this corner',
	test: 'Test'
};

/** What the screen at an address of a case is called: spoken by whoever reads the title aloud. */
export function screenOf(address: string): string {
	const path = address.split('/')[3] ?? '';
	return stages.find((stage) => stage.path === path)?.label ?? OTHERS[path] ?? 'Walkround';
}
