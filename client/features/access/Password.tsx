// Changing one's own password.

import { useState } from 'react';
import { problemWords } from '../../state/api';
import * as checks from '../../state/api/checks';
import { useChangePasswordMutation } from '../../state/api/access';
import { Footer } from '../../ui/Footer';
import { FormField, useCheckedForm } from '../../ui/Form';
import { useSay } from '../../ui/Messages';
import { Attention, Button } from '../../ui/Surface';
import { texts } from './words';

const min = 8;
type Filled = { present: string; next: string };

export function Password() {
  const [isOpen, setOpen] = useState(false);
  if (!isOpen) return <Button words={texts.changePassword} onPress={() => setOpen(true)} testID="change-password" />;
  return <PasswordForm close={() => setOpen(false)} />;
}

function PasswordForm({ close }: { close: () => void }) {
  const say = useSay();
  const [change, state] = useChangePasswordMutation();
  const { control, handleSubmit, formState } = useCheckedForm<Filled>(checks.password, { present: '', next: '' });
  const go = handleSubmit(async (filled) => {
    if ('error' in (await change(filled))) return;
    close();
    say(texts.thePasswordWasChanged);
  });
  return (
    <>
      <FormField
        control={control}
        name="present"
        label={texts.currentPassword}
        secureTextEntry
        autoComplete="current-password"
        testID="password-present"
      />
      <FormField
        control={control}
        name="next"
        label={texts.newPassword}
        help={texts.atLeastCharactersYouWill(min)}
        secureTextEntry
        autoComplete="new-password"
        onSubmitEditing={() => void go()}
        testID="password-next"
      />
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      <Footer save={() => void go()} canSave={formState.isValid && !state.isLoading} cancel={close} testID="password-save" />
    </>
  );
}
