// The password once more, before something that changes who comes in, or a secret.

import { useState } from 'react';
import { problemWords, useConfirmMutation } from '../../state/api';
import { answerConfirming } from '../../state/confirm';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { texts } from './words';

export function Confirm() {
  const isAsked = useAppSelector((s) => s.confirming.isAsked);
  return isAsked ? <Asking /> : null;
}

function Asking() {
  const dispatch = useAppDispatch();
  const [password, setPassword] = useState('');
  const [confirm, { isLoading, error }] = useConfirmMutation();
  const close = () => answerConfirming(dispatch, false);
  const go = async () => {
    const answer = await confirm(password);
    if (!answer.error) answerConfirming(dispatch, true);
  };
  const footer = (
    <Footer words={texts.confirm} save={() => void go()} canSave={password !== '' && !isLoading} cancel={close} testID="confirm-go" />
  );
  return (
    <Sheet title={texts.confirmYourPassword} open close={close} footer={footer}>
      <Words>{texts.youSignedInSomeTime}</Words>
      <Field
        label={texts.password}
        value={password}
        onChangeText={setPassword}
        secureTextEntry
        autoComplete="current-password"
        wrong={error ? problemWords(error) : undefined}
        onSubmitEditing={() => void go()}
        testID="confirm-password"
      />
    </Sheet>
  );
}
