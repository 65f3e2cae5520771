// What somebody sees: everything, or areas with all their cameras and single cameras.

import type { Person, Role } from '@nibber/core/site';
import { useCamerasQuery } from '../../state/api';
import type { Site } from '../../state/api/types';
import { Check, SomeOf } from '../../ui/Choices';
import { DateField } from '../../ui/DateField';
import { Words } from '../../ui/Words';

type Sees = Person['sees'] | null;
type Props = { site: Site; sees: Sees; choose: (sees: Sees) => void; mayBeAll: boolean };

type LimitsProps = Omit<Props, 'mayBeAll'> & { role: Role; until: string; setUntil: (until: string) => void; testID: string };

/** What a member or a guest sees, and until when; nothing for those who see everything. */
export function Limits({ role, until, setUntil, testID, ...seen }: LimitsProps) {
  if (role !== 'member' && role !== 'guest') return null;
  return (
    <>
      <Words bold heading={3}>
        Access to
      </Words>
      <SeesChoice {...seen} mayBeAll={role === 'member'} />
      <Words bold heading={3}>
        {role === 'guest' ? 'Until' : 'Until (optional)'}
      </Words>
      <DateField label="Day" value={until} choose={setUntil} testID={testID} />
    </>
  );
}

function SeesChoice({ site, sees, choose, mayBeAll }: Props) {
  const { data: cameras = [] } = useCamerasQuery();
  const areas = sees?.areas ?? [];
  const single = sees?.cameras ?? [];
  const toggled = (all: readonly string[], id: string) => (all.includes(id) ? all.filter((a) => a !== id) : [...all, id]);
  return (
    <>
      {mayBeAll && <Check words="Everything" checked={sees === null} press={() => choose(sees === null ? {} : null)} testID="sees-all" />}
      {sees !== null && (
        <>
          <Words size="small" tone="second">
            Areas, with all their cameras
          </Words>
          <SomeOf
            label="Areas"
            choices={site.areas.map((a) => ({ value: a.id, words: a.name, testID: `sees-${a.id}` }))}
            values={areas}
            toggle={(id) => choose({ ...sees, areas: toggled(areas, id) })}
          />
          <Words size="small" tone="second">
            Single cameras
          </Words>
          <SomeOf
            label="Cameras"
            choices={cameras.filter((c) => !areas.includes(c.area)).map((c) => ({ value: c.id, words: c.name, testID: `sees-${c.id}` }))}
            values={single}
            toggle={(id) => choose({ ...sees, cameras: toggled(single, id) })}
          />
        </>
      )}
    </>
  );
}
