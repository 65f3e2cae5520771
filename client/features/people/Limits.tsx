// What someone sees: everything, or areas with all their cameras and single cameras.

import type { Person, Role } from '@nibber/core/site';
import { useCamerasQuery } from '../../state/api';
import type { Site } from '../../state/api/types';
import { Check, SomeOf } from '../../ui/Choices';
import { DateField } from '../../ui/DateField';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Access = Person['access'] | null;
type Props = { site: Site; access: Access; choose: (access: Access) => void; mayBeAll: boolean };

type LimitsProps = Omit<Props, 'mayBeAll'> & { role: Role; until: string; setUntil: (until: string) => void; testID: string };

/** What a member or a guest sees, and until when; nothing for those who see everything. */
export function Limits({ role, until, setUntil, testID, ...seen }: LimitsProps) {
  if (role !== 'member' && role !== 'guest') return null;
  return (
    <>
      <Words bold heading={3}>
        {texts.accessTo}
      </Words>
      <AccessChoice {...seen} mayBeAll={role === 'member'} />
      <Words bold heading={3}>
        {role === 'guest' ? texts.until : texts.untilOptional}
      </Words>
      <DateField label={texts.day} value={until} choose={setUntil} testID={testID} />
    </>
  );
}

function AccessChoice({ site, access, choose, mayBeAll }: Props) {
  const { data: cameras = [] } = useCamerasQuery();
  const areas = access?.areas ?? [];
  const single = access?.cameras ?? [];
  const toggled = (all: readonly string[], id: string) => (all.includes(id) ? all.filter((a) => a !== id) : [...all, id]);
  return (
    <>
      {mayBeAll && (
        <Check words={texts.everything} checked={access === null} press={() => choose(access === null ? {} : null)} testID="access-all" />
      )}
      {access !== null && (
        <>
          <Words size="small" tone="second">
            {texts.areasWithAllTheirCameras}
          </Words>
          <SomeOf
            label={texts.areas}
            choices={site.areas.map((a) => ({ value: a.id, words: a.name, testID: `access-${a.id}` }))}
            values={areas}
            toggle={(id) => choose({ ...access, areas: toggled(areas, id) })}
          />
          <Words size="small" tone="second">
            {texts.singleCameras}
          </Words>
          <SomeOf
            label={texts.cameras}
            choices={cameras.filter((c) => !areas.includes(c.area)).map((c) => ({ value: c.id, words: c.name, testID: `access-${c.id}` }))}
            values={single}
            toggle={(id) => choose({ ...access, cameras: toggled(single, id) })}
          />
        </>
      )}
    </>
  );
}
