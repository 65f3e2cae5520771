// Changing one's own password.

import { useState } from 'react';
import { Snackbar } from 'react-native-paper';
import { Field } from '../../ui/Field';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { troubleWords } from '../api/api';
import { useChangePasswordMutation } from './api';

const least = 8;

export function Password() {
  const [isOpen, setOpen] = useState(false);
  const [present, setPresent] = useState('');
  const [next, setNext] = useState('');
  const [isDone, setDone] = useState(false);
  const [change, state] = useChangePasswordMutation();
  const close = () => (setOpen(false), setPresent(''), setNext(''), state.reset());
  const go = async () => {
    if ('error' in (await change({ present, next }))) return;
    close();
    setDone(true);
  };
  const isReady = present !== '' && next.length >= least && !state.isLoading;
  return (
    <>
      {!isOpen && <Button words="Change password" onPress={() => setOpen(true)} testID="change-password" />}
      {isOpen && (
        <>
          <Field
            label="Present password"
            value={present}
            onChangeText={setPresent}
            secureTextEntry
            autoComplete="current-password"
            testID="password-present"
          />
          <Field
            label="New password"
            value={next}
            onChangeText={setNext}
            secureTextEntry
            autoComplete="new-password"
            onSubmitEditing={() => isReady && void go()}
            testID="password-next"
          />
          <Words size="small" tone="second">
            At least {least} characters. Everywhere else you are signed out.
          </Words>
          {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
          <Row>
            <Button words="Save" main disabled={!isReady} onPress={() => void go()} testID="password-save" />
            <Button words="Cancel" onPress={close} />
          </Row>
        </>
      )}
      <Snackbar visible={isDone} onDismiss={() => setDone(false)}>
        The password was changed.
      </Snackbar>
    </>
  );
}
