// A token for a script: named, with a role and an end; it is shown once.

import { useState } from 'react';
import type { Role } from '@nibber/core/site';
import * as checks from '../../state/api/checks';
import { FormChoice, FormField, useCheckedForm } from '../../ui/Form';
import { Attention, Button, Row } from '../../ui/Surface';
import { Footer } from '../../ui/Footer';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import { useMakeTokenMutation } from '../../state/api/access';
import { texts } from './words';

const roles: readonly Role[] = ['member', 'installer', 'owner'];
const spans = [30, 90, 365] as const;

type Filled = { name: string; role: Role; days: string };

export function NewToken() {
  const [isOpen, setOpen] = useState(false);
  if (!isOpen) return <Button glyph="add" words={texts.newToken} onPress={() => setOpen(true)} testID="new-token" />;
  return <TokenForm close={() => setOpen(false)} />;
}

const bodyOf = ({ name, role, days }: Filled) => ({ name: name.trim(), role, days: Number(days) });

function TokenForm({ close }: { close: () => void }) {
  const [make, made] = useMakeTokenMutation();
  const { control, handleSubmit, formState } = useCheckedForm<Filled>(checks.token, { name: '', role: 'member', days: '90' }, bodyOf);
  const go = handleSubmit((filled) => void make(bodyOf(filled)));
  if (made.data)
    return (
      <>
        <Words>{texts.thisIsTheTokenIt}</Words>
        <Words size="small" selectable testID="token">
          {made.data.token}
        </Words>
        <Row>
          <Button glyph="copy" words={texts.copy} onPress={() => void navigator.clipboard.writeText(made.data!.token)} />
          <Button words={texts.done} main onPress={close} testID="token-done" />
        </Row>
      </>
    );
  return (
    <>
      <FormField control={control} name="name" label={texts.whatItIsFor} autoCapitalize="sentences" testID="token-name" />
      <FormChoice control={control} name="role" label={texts.role} choices={roles.map((r) => ({ value: r, words: r }))} />
      <FormChoice
        control={control}
        name="days"
        label={texts.validFor}
        choices={spans.map((d) => ({ value: String(d), words: d === 365 ? texts.aYear : texts.days(d) }))}
      />
      {made.isError && <Attention words={problemWords(made.error) ?? ''} />}
      <Footer
        words={texts.makeToken}
        save={() => void go()}
        canSave={formState.isValid && !made.isLoading}
        cancel={close}
        testID="token-make"
      />
    </>
  );
}
