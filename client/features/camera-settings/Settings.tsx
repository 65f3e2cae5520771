// A camera's name, area, turn, sign-in; and taking it away, which can be undone.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { Shown } from '@nibber/core/site';
import { Option } from '../../ui/Choice';
import { Field } from '../../ui/Field';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { troubleWords, useSiteQuery } from '../api/api';
import type { CameraAnswer } from '../api/types';
import { useRemoveCameraMutation, useSetSettingsMutation, useSetSignInMutation } from '../connect/api';
import { AreaChoice } from '../connect/AreaChoice';
import { nextTurn, shownWords } from '../connect/words';
import { useAppDispatch } from '../api/store';
import { takenAway } from './undo.slice';

export function Settings({ camera }: { camera: CameraAnswer }) {
  const { data: site } = useSiteQuery();
  const [name, setName] = useState(camera.name);
  const [set, state] = useSetSettingsMutation();
  const change = (settings: Parameters<typeof set>[0]['settings']) => void set({ of: camera, settings });
  const turn = (shown: Shown) => change({ shown });
  const hasInfrared = camera.can.includes('infrared');
  return (
    <Sheet>
      <Words bold heading={2}>
        Settings
      </Words>
      <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-end' }}>
        <View style={{ flex: 1 }}>
          <Field label="What it is called" value={name} onChangeText={setName} autoCapitalize="sentences" testID="camera-name" />
        </View>
        <Button
          words="Keep"
          label="Keep the name"
          disabled={name.trim() === '' || name === camera.name}
          onPress={() => change({ name: name.trim() })}
          testID="keep-name"
        />
      </Row>
      <AreaChoice areas={site?.areas ?? []} area={camera.area} choose={(area) => change({ area })} />
      <Row>
        <Button glyph="turn" words="Turn" onPress={() => turn(nextTurn(camera.shown))} testID="turn" />
        <Button
          glyph="mirror"
          words="Mirror"
          pressed={camera.shown.mirrored === true}
          onPress={() => turn({ ...camera.shown, mirrored: !camera.shown.mirrored })}
          testID="mirror"
        />
        <Words size="small" tone="second">
          {shownWords(camera.shown)}
        </Words>
      </Row>
      {(camera.zones.length > 0 || (camera.lines?.length ?? 0) > 0) && (
        <Words size="small" tone="second">
          What is drawn on the picture stays where it is when the picture is turned; look at it afterwards.
        </Words>
      )}
      <Option
        many
        words="It has an infrared light"
        chosen={hasInfrared}
        onPress={() => change({ can: hasInfrared ? camera.can.filter((c) => c !== 'infrared') : [...camera.can, 'infrared'] })}
      />
      {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
      {camera.kind === 'streamed' && <SignIn camera={camera} />}
      <TakeAway camera={camera} />
    </Sheet>
  );
}

function SignIn({ camera }: { camera: CameraAnswer }) {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [set, state] = useSetSignInMutation();
  const go = async () => {
    if (!('error' in (await set({ camera: camera.id, name: name.trim(), password })))) setOpen(false);
  };
  if (!isOpen)
    return (
      <Row style={{ justifyContent: 'space-between' }}>
        <Words tone="second">{camera.hasSignIn ? 'A sign-in is kept, sealed.' : 'It asks for no sign-in.'}</Words>
        <Button words={camera.hasSignIn ? 'Another sign-in' : 'Give a sign-in'} onPress={() => setOpen(true)} testID="sign-in-again" />
      </Row>
    );
  return (
    <>
      <Field label="Name" value={name} onChangeText={setName} autoCapitalize="none" autoComplete="off" testID="camera-user" />
      <Field label="Password" value={password} onChangeText={setPassword} secureTextEntry autoComplete="off" testID="camera-password" />
      {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
      <Row>
        <Button
          words="Keep"
          label="Keep the sign-in"
          main
          disabled={name.trim() === '' || state.isLoading}
          onPress={() => void go()}
          testID="keep-sign-in"
        />
        <Button words="Leave as it was" onPress={() => setOpen(false)} />
      </Row>
    </>
  );
}

function TakeAway({ camera }: { camera: CameraAnswer }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [isAsked, setAsked] = useState(false);
  const [remove, state] = useRemoveCameraMutation();
  const go = async () => {
    const answer = await remove(camera.id);
    if (!answer.data) return;
    dispatch(takenAway({ name: camera.name, version: answer.data.version }));
    router.navigate('/cameras');
  };
  return (
    <>
      {!isAsked && <Button words="Take this camera away" onPress={() => setAsked(true)} testID="take-away" />}
      {isAsked && (
        <Attention words={`${camera.name} will no longer be watched, and nothing it sees will be told. What it saw so far is kept.`}>
          <Row>
            <Button words="Take it away" onPress={() => void go()} disabled={state.isLoading} testID="take-away-go" />
            <Button words="Keep it" main onPress={() => setAsked(false)} />
          </Row>
        </Attention>
      )}
      {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
    </>
  );
}
