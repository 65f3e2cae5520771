// The plan of the site while it is being changed: the ground, and where each camera stands on it.

import type { PlanFile } from '@nibber/core/site';
import { draftsOf } from './draft';

/** Where a camera stands: metres from the plan's lower left corner, degrees clockwise from its up. */
export type Standing = { readonly camera: string; readonly east: number; readonly north: number; readonly headingDegrees: number };
export type PlanContent = { readonly plan: PlanFile; readonly places: readonly Standing[] };

export const plan = draftsOf<PlanContent>(
  'plan',
  { plan: { widthMetres: 1, heightMetres: 1 }, places: [] },
  (content) => typeof content === 'object' && content !== null && 'plan' in content && 'places' in content,
);
