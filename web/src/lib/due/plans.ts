import type { Schemas } from '$lib/api/client';

/** What a case's jobs usually ask for, as it is planned unless somebody takes it out: numbered here, so that it is planned once. */
export const asPlanned = (usual: Schemas['UsualRecheckOut'][]): Schemas['PlanIn'][] =>
	usual.map(({ key, hub, label, asks, why, due_on, after_km, after_hours }) => ({
		id: crypto.randomUUID(),
		key,
		hub,
		label,
		asks,
		why,
		due_on,
		after_km,
		after_hours
	}));
