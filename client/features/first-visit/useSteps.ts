// The steps of setting up, for people who may; nothing for others, and nothing while that is unknown.

import { useCamerasQuery, usePhonesQuery, useRulesQuery, useSessionQuery, useSiteQuery } from '../../state/api';
import { useWalkTestsQuery } from '../../state/api/walk';
import { stepsOf, type Step } from './steps';

export function useSteps(): readonly Step[] | undefined {
  const { data: session } = useSessionQuery();
  const { data: site } = useSiteQuery();
  const { data: cameras } = useCamerasQuery();
  const { data: answer } = useRulesQuery();
  const { data: phones } = usePhonesQuery();
  const role = session?.visitor?.role;
  const maySetUp = role === 'owner' || role === 'installer';
  const { data: walks } = useWalkTestsQuery(undefined, { skip: !maySetUp });
  if (!site || !cameras || !answer || !phones || !walks || !maySetUp) return undefined;
  return stepsOf({ site, cameras, rules: answer.rules.length, phones, walks });
}
