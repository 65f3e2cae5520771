// What this device does: light or dark, and who is signed in on it.

import { useRouter } from 'expo-router';
import { useSessionQuery, useSignOutMutation } from '../../../state/api';
import { setLight } from '../../../state/settings';
import { useAppDispatch, useAppSelector } from '../../../state/store';
import { CardColumns } from '../../../ui/Columns';
import { OneOf } from '../../../ui/Choices';
import { Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { Password } from '../../access/Password';
import { texts } from '../words';

export function Device() {
  const dispatch = useAppDispatch();
  const light = useAppSelector((s) => s.settings.light);
  const { data: session } = useSessionQuery();
  const router = useRouter();
  const [signOut] = useSignOutMutation();
  return (
    <CardColumns>
      <Card>
        <Words bold heading={2}>
          {texts.light}
        </Words>
        <OneOf
          label={texts.light}
          choices={[
            { value: 'system', words: texts.asTheDevice, testID: 'light-system' },
            { value: 'light', words: texts.light, testID: 'light-light' },
            { value: 'dark', words: texts.dark, testID: 'light-dark' },
          ]}
          value={light}
          choose={(l) => dispatch(setLight(l))}
        />
      </Card>
      <Card>
        <Row style={{ justifyContent: 'space-between' }}>
          <Words bold heading={2} style={{ flexShrink: 1 }}>
            {texts.signedInAs(session?.visitor?.name)}
          </Words>
          <Button words={texts.signOut} onPress={() => (router.navigate('/'), void signOut())} testID="sign-out" />
        </Row>
        {session?.visitor?.person && <Password />}
      </Card>
    </CardColumns>
  );
}
