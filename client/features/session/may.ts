// What whoever is signed in may do, for what a screen offers; the server decides by itself.

import { useSessionQuery } from '../../state/api';

/** Change cameras, rules and the site. */
export function useMaySetUp(): boolean {
  const role = useSessionQuery().data?.visitor?.role;
  return role !== 'member' && role !== 'guest';
}

/** Set modes, say what is noise, switch lamps: whoever lives here. */
export const useIsOfHouse = (): boolean => useSessionQuery().data?.visitor?.role !== 'guest';
