import type { Schemas } from '$lib/api/client';

type Family = Schemas['FamilyOut'];

/** The families that stand out of chance, surest first as they come, one of a kind: two like rows of a bearing sound alike. */
export function standingFamilies(recording: Schemas['RecordingOut']): Family[] {
	const standing = recording.families.filter((family) => family.standing !== 'nothing');
	return standing.filter((family, n) => standing.findIndex((other) => other.kind === family.kind) === n);
}
