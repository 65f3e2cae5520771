// A number that is typed; empty for none.

import { useState } from 'react';
import { Field } from './Field';
import { texts } from './texts';

type Props = {
  label: string;
  value: number | undefined;
  put: (value: number | undefined) => void;
  min: number;
  max: number;
  help?: string;
  testID?: string;
};

export function NumberField({ label, value, put, min, max, help, testID }: Props) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const given = Number(text.replace(',', '.'));
  const isEmpty = text.trim() === '';
  const isWrong = !isEmpty && !(given >= min && given <= max);
  const change = (next: string) => {
    setText(next);
    const number = Number(next.replace(',', '.'));
    if (next.trim() === '') put(undefined);
    else if (number >= min && number <= max) put(number);
  };
  return (
    <Field
      label={label}
      value={text}
      onChangeText={change}
      inputMode="decimal"
      help={help}
      wrong={isWrong ? texts.aNumberFromTo(min, max) : undefined}
      testID={testID}
    />
  );
}
