// Sign-ins and tokens.

import { useSessionQuery } from '../../../state/api';
import type { Site } from '../../../state/api/types';
import { Sessions } from '../../access/Sessions';

export function Access({ site }: { site: Site }) {
  const { data: session } = useSessionQuery();
  return <Sessions zone={site.settings.timezone} isOwner={session?.visitor?.role === 'owner'} />;
}
