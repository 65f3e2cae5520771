// A camera's name, area, turn, sign-in; and removing it, which can be undone.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { Orientation } from '@nibber/core/site';
import { Check } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import * as checks from '../../state/api/checks';
import { FormField, useCheckedForm } from '../../ui/Form';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords, useSiteQuery } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import { useRemoveCameraMutation, useSetSettingsMutation, useSetLoginMutation } from '../../state/api/connect';
import { AreaChoice } from '../connect/AreaChoice';
import { LoginFields, type LoginFilled } from '../connect/LoginFields';
import { nextTurn, shownWords } from '../connect/words';
import { useAppDispatch } from '../../state/store';
import { cameraRemoved } from '../../state/removed';
import { texts } from './words';

export function Settings({ camera }: { camera: CameraAnswer }) {
  const { data: site } = useSiteQuery();
  const [set, state] = useSetSettingsMutation();
  const change = (settings: Parameters<typeof set>[0]['settings']) => void set({ of: camera, settings });
  const turn = (orientation: Orientation) => change({ orientation });
  const hasInfrared = camera.capabilities.includes('infrared');
  return (
    <Card>
      <Words bold heading={2}>
        {texts.settings}
      </Words>
      <Named key={camera.name} camera={camera} save={(name) => change({ name })} />
      <AreaChoice areas={site?.areas ?? []} area={camera.area} choose={(area) => change({ area })} />
      <Row>
        <Button glyph="turn" words={texts.rotate} onPress={() => turn(nextTurn(camera.orientation))} testID="turn" />
        <Button
          glyph="mirror"
          words={texts.mirror}
          onPress={() => turn({ ...camera.orientation, mirrored: !camera.orientation.mirrored })}
          testID="mirror"
        />
        <Words size="small" tone="second">
          {shownWords(camera.orientation)}
        </Words>
      </Row>
      {(camera.zones.length > 0 || (camera.lines?.length ?? 0) > 0) && (
        <Words size="small" tone="second">
          {texts.zonesAndLinesDoNot}
        </Words>
      )}
      <Check
        words={texts.hasAnInfraredLight}
        checked={hasInfrared}
        press={() =>
          change({ capabilities: hasInfrared ? camera.capabilities.filter((c) => c !== 'infrared') : [...camera.capabilities, 'infrared'] })
        }
      />
      <Check
        words={texts.allowAiServices}
        checked={camera.allowAiService}
        press={() => change({ allowAiService: !camera.allowAiService })}
        testID="allowAiService"
      />
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      {camera.kind === 'streamed' && <Login camera={camera} />}
      <RemoveCamera camera={camera} />
    </Card>
  );
}

function Named({ camera: { name, area }, save }: { camera: CameraAnswer; save: (name: string) => void }) {
  const { control, handleSubmit, formState } = useCheckedForm<{ name: string }>(checks.paired, { name }, (filled) => ({
    name: filled.name.trim(),
    area,
  }));
  const go = handleSubmit((filled) => save(filled.name.trim()));
  return (
    <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
      <View style={{ flex: 1 }}>
        <FormField
          control={control}
          name="name"
          label={texts.name}
          autoCapitalize="sentences"
          onSubmitEditing={() => void go()}
          testID="camera-name"
        />
      </View>
      <View style={{ paddingTop: 10 }}>
        <Button
          words={texts.save}
          label={texts.saveTheName}
          disabled={!formState.isValid || !formState.isDirty}
          onPress={() => void go()}
          testID="keep-name"
        />
      </View>
    </Row>
  );
}

function Login({ camera }: { camera: CameraAnswer }) {
  const [isOpen, setOpen] = useState(false);
  if (isOpen) return <SignInForm camera={camera.id} close={() => setOpen(false)} />;
  return (
    <Row style={{ justifyContent: 'space-between' }}>
      <Words tone="second">{camera.hasLogin ? texts.loginSavedEncrypted : texts.noLoginNeeded}</Words>
      <Button words={camera.hasLogin ? texts.changeLogin : texts.addLogin} onPress={() => setOpen(true)} testID="sign-in-again" />
    </Row>
  );
}

function SignInForm({ camera, close }: { camera: string; close: () => void }) {
  const [set, state] = useSetLoginMutation();
  const { control, handleSubmit, formState } = useCheckedForm<LoginFilled>(checks.cameraLogin, { name: '', password: '' });
  const go = handleSubmit(async ({ name, password }) => {
    if (!('error' in (await set({ camera, name: name.trim(), password })))) close();
  });
  return (
    <>
      <LoginFields control={control} enter={() => void go()} testID="camera-login" />
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      <Footer save={() => void go()} canSave={formState.isValid && !state.isLoading} cancel={close} testID="save-login" />
    </>
  );
}

function RemoveCamera({ camera }: { camera: CameraAnswer }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [isAsked, setAsked] = useState(false);
  const [remove, state] = useRemoveCameraMutation();
  const go = async () => {
    const answer = await remove(camera.id);
    if (!answer.data) return;
    dispatch(cameraRemoved({ name: camera.name, version: answer.data.version }));
    router.navigate('/cameras');
  };
  return (
    <>
      {!isAsked && <Button words={texts.removeCamera} onPress={() => setAsked(true)} testID="remove-camera" />}
      {isAsked && (
        <Attention words={texts.willBeDisconnectedAndSend(camera.name)}>
          <Row>
            <Button words={texts.remove} main grave onPress={() => void go()} disabled={state.isLoading} testID="remove-camera-go" />
            <Button words={texts.cancel} onPress={() => setAsked(false)} />
          </Row>
        </Attention>
      )}
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
    </>
  );
}
