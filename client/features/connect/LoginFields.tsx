// The name and password that a camera itself was given.

import type { Control } from 'react-hook-form';
import { FormField } from '../../ui/Form';
import { texts } from './words';

export type LoginFilled = { name: string; password: string };

type Props = { control: Control<LoginFilled>; enter: () => void; testID: string };

export const LoginFields = ({ control, enter, testID }: Props) => (
  <>
    <FormField control={control} name="name" label={texts.name} autoCapitalize="none" autoComplete="off" testID={`${testID}-name`} />
    <FormField
      control={control}
      name="password"
      label={texts.password}
      secureTextEntry
      autoComplete="off"
      onSubmitEditing={enter}
      testID={`${testID}-password`}
    />
  </>
);
