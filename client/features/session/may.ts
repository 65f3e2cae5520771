// What the user may do, so that screens offer only that. The server checks it again.

import { useSessionQuery } from '../../state/api';

/** Change cameras, rules and the site. */
export function useMaySetUp(): boolean {
  const role = useSessionQuery().data?.visitor?.role;
  return role !== 'member' && role !== 'guest';
}

/** Set modes, mark noise, switch lamps: everyone who lives here. */
export const useIsOfHouse = (): boolean => useSessionQuery().data?.visitor?.role !== 'guest';
