import { openDB, type IDBPDatabase } from 'idb';

/** A database on the device, opened when it is first needed; one that could not be opened is tried again. */
export function database(name: string, upgrade: (db: IDBPDatabase) => void): () => Promise<IDBPDatabase> {
	let opened: Promise<IDBPDatabase> | undefined;
	return () => {
		if (!opened) {
			// The browser may end it by itself, as when its store fails: the next to ask opens it anew.
			opened = openDB(name, 1, { upgrade, terminated: () => (opened = undefined) });
			opened.catch(() => (opened = undefined));
		}
		return opened;
	};
}
