// The user's alert settings.

import type { Person } from '@nibber/core/site';
import { problemWords } from '../../state/api';
import { useEndSnoozeMutation, useMeQuery, useSetMeMutation, type MySettings } from '../../state/api/people';
import type { Me, Site } from '../../state/api/types';
import { CardColumns } from '../../ui/Columns';
import { capital } from '../../ui/capital';
import { OneOf } from '../../ui/Choices';
import { useSay } from '../../ui/Messages';
import { Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { ThisPhone } from '../phone/ThisPhone';
import { Loading } from '../shell/Loading';
import { exportOf } from '../../state/api/storedData';
import { ExportOrDelete } from '../storage/ExportOrDelete';
import { QuietHours } from './QuietHours';
import { Reached } from './Reached';
import { RulesOfMine } from './RulesOfMine';
import { texts } from './words';

export function MyAlerts({ site }: { site: Site }) {
  const asked = useMeQuery(undefined, { refetchOnMountOrArgChange: true });
  const say = useSay();
  const [set] = useSetMeMutation();
  if (!asked.data) return <Loading of={[asked]} isPart />;
  const me = asked.data;
  const save = async (settings: MySettings) => {
    const answer = await set(settings);
    say(answer.error ? (problemWords(answer.error) ?? '') : texts.saved);
    return !answer.error;
  };
  return (
    <CardColumns>
      {me.snoozes.length > 0 && <Snoozes me={me} />}
      <ThisPhone />
      <Reached me={me} save={save} />
      <QuietHours me={me} site={site} save={save} />
      <RulesOfMine me={me} save={save} />
      <Card>
        <Words bold heading={2}>
          {texts.onTheLockScreen}
        </Words>
        <OneOf
          label={texts.onTheLockScreen}
          choices={[
            { value: 'picture', words: texts.pictureAndText, testID: 'lock-picture' },
            { value: 'words', words: texts.textOnly, testID: 'lock-words' },
            { value: 'something', words: texts.onlyThatSomethingHappened, testID: 'lock-something' },
          ]}
          value={(me.person as Person).lockScreen ?? 'picture'}
          choose={(lockScreen) => void save({ lockScreen })}
          rows
        />
      </Card>
      <Card>
        <Words bold heading={2}>
          {texts.myData}
        </Words>
        <Words size="small" tone="second">
          {texts.myDataSays}
        </Words>
        <ExportOrDelete from={exportOf.person(me.person.id)} what="" testID="my-data" />
      </Card>
    </CardColumns>
  );
}

/** What is not heard of for a while stands first: it is easily forgotten. */
function Snoozes({ me }: { me: Me }) {
  const [end] = useEndSnoozeMutation();
  return (
    <Card>
      <Words bold heading={2}>
        {texts.snoozed}
      </Words>
      {me.snoozes.map((s) => (
        <Row key={s.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <Words style={{ flexShrink: 1 }}>{capital(s.words)}</Words>
          <Button words={texts.endSnooze} label={texts.endSnooze2(s.words)} onPress={() => void end(s.id)} testID={`snooze-end-${s.id}`} />
        </Row>
      ))}
    </Card>
  );
}
