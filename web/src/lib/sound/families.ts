import type { Schemas } from '$lib/api/client';

type Family = Schemas['FamilyOut'];

const MARKS = ['outer_race', 'inner_race', 'rolling_element'];

/** A clear mark leads: on the ring that turns it beats once a turn by itself. */
const leads = (family: Family) => family.standing === 'clear' && MARKS.includes(family.kind);

/** The families that stand out of chance, surest first, one of a kind: two like rows of a bearing sound alike. */
export function standingFamilies(recording: Schemas['RecordingOut']): Family[] {
	const standing = recording.families.filter((family) => family.standing !== 'nothing');
	standing.sort((a, b) => Number(leads(b)) - Number(leads(a)) || b.odds - a.odds);
	return standing.filter((family, n) => standing.findIndex((other) => other.kind === family.kind) === n);
}
