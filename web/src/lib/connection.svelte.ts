/** Whether what is shown comes from the server, or is what this device saw last. */
class Connection {
	/** When the server gave the oldest of what is shown, '' where it is there. */
	since = $state('');

	answered(since: string | null): void {
		if (!since) this.since = '';
		else if (!this.since || since < this.since) this.since = since;
	}
}

export const connection = new Connection();
