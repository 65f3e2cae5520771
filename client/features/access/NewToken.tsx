// A token for a script: named, with a role and an end; it is shown once.

import { useState } from 'react';
import type { Role } from '@nibber/core/site';
import { Field } from '../../ui/Field';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { troubleWords } from '../api/api';
import { useMakeTokenMutation } from './api';

const roles: readonly Role[] = ['member', 'installer', 'owner'];
const spans = [30, 90, 365] as const;

export function NewToken() {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('member');
  const [days, setDays] = useState<number>(90);
  const [make, made] = useMakeTokenMutation();
  if (!isOpen) return <Button glyph="add" words="New token" onPress={() => setOpen(true)} testID="new-token" />;
  const close = () => (setOpen(false), setName(''), made.reset());
  if (made.data)
    return (
      <>
        <Words>This is the token. It is shown this once; keep it where the script reads it.</Words>
        <Words size="small" selectable testID="token">
          {made.data.token}
        </Words>
        <Row>
          <Button glyph="copy" words="Copy" onPress={() => void navigator.clipboard.writeText(made.data!.token)} />
          <Button words="Done" main onPress={close} testID="token-done" />
        </Row>
      </>
    );
  return (
    <>
      <Field label="What it is for" value={name} onChangeText={setName} autoCapitalize="sentences" testID="token-name" />
      <Row>
        {roles.map((r) => (
          <Button key={r} words={r} pressed={r === role} onPress={() => setRole(r)} />
        ))}
      </Row>
      <Row>
        {spans.map((d) => (
          <Button key={d} words={d === 365 ? 'a year' : `${d} days`} pressed={d === days} onPress={() => setDays(d)} />
        ))}
      </Row>
      {made.isError && <Attention words={troubleWords(made.error) ?? ''} />}
      <Row>
        <Button
          words="Make it"
          main
          disabled={name.trim() === '' || made.isLoading}
          onPress={() => void make({ name: name.trim(), role, days })}
          testID="token-make"
        />
        <Button words="Cancel" onPress={close} />
      </Row>
    </>
  );
}
