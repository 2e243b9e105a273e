/** Run something one at a time: called again while it runs, it runs once more after that, with what was asked last. */
export function coalesced<A>(run: (asked: A) => Promise<void>): (asked: A) => Promise<void> {
	let owed: { asked: A } | null = null;
	let busy = false;
	return async (asked) => {
		owed = { asked };
		if (busy) return;
		busy = true;
		try {
			while (owed) {
				const { asked: now }: { asked: A } = owed;
				owed = null;
				await run(now);
			}
		} finally {
			busy = false;
		}
	};
}
