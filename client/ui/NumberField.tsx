// A number that is typed; empty for none.

import { useState } from 'react';
import { Field } from './Field';

type Props = {
  label: string;
  value: number | undefined;
  put: (value: number | undefined) => void;
  least: number;
  most: number;
  help?: string;
  testID?: string;
};

export function NumberField({ label, value, put, least, most, help, testID }: Props) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const given = Number(text.replace(',', '.'));
  const isEmpty = text.trim() === '';
  const isWrong = !isEmpty && !(given >= least && given <= most);
  const change = (next: string) => {
    setText(next);
    const number = Number(next.replace(',', '.'));
    if (next.trim() === '') put(undefined);
    else if (number >= least && number <= most) put(number);
  };
  return (
    <Field
      label={label}
      value={text}
      onChangeText={change}
      inputMode="decimal"
      help={help}
      wrong={isWrong ? `A number from ${least} to ${most}.` : undefined}
      testID={testID}
    />
  );
}
