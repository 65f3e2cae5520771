// The one way of a form: fields by react-hook-form, checked by the server's own schemas (Ajv's checks, made into plain code beforehand), with
// what is wrong said at its field.

import type { ErrorObject } from 'ajv';
import type { ComponentProps } from 'react';
import {
  Controller,
  set,
  useForm as useHookForm,
  type Control,
  type DefaultValues,
  type FieldPath,
  type FieldValues,
  type Resolver,
  type UseFormReturn,
} from 'react-hook-form';
import { OneOf } from './Choices';
import { Field } from './Field';
import { texts } from './texts';

export type Check = { (body: unknown): boolean; errors?: readonly ErrorObject[] | null };

/** What is asked of a field, as one would say it. */
function words({ keyword, params, message }: ErrorObject): string {
  if (keyword === 'required' || keyword === 'pattern') return texts.required;
  if (keyword === 'minLength') return params.limit === 1 ? texts.required : texts.atLeastCharacters(params.limit);
  if (keyword === 'maxLength') return texts.atMostCharacters(params.limit);
  return message ?? texts.notAValidValue;
}

/** What is wrong, by the name of the field (`a.0.b` inside of lists). */
export type Problems = Readonly<Record<string, string>>;

/** What is wrong with what would be sent, by where it stands in it. */
export function problemsBy(check: Check, body: unknown): Problems {
  if (check(body)) return {};
  const problems: Record<string, string> = {};
  for (const error of check.errors ?? []) {
    const path = error.instancePath.slice(1).split('/').filter(Boolean);
    const field = [...path, ...(error.keyword === 'required' ? [String(error.params.missingProperty)] : [])].join('.');
    problems[field] ??= words(error);
  }
  return problems;
}

/** A form of which one says oneself what is wrong. */
export function useForm<T extends FieldValues>(start: DefaultValues<T>, problemsOf: (filled: T) => Problems): UseFormReturn<T> {
  const resolver: Resolver<T> = (filled) => {
    const problems = Object.entries(problemsOf(filled));
    if (problems.length === 0) return { values: filled, errors: {} };
    const errors = {};
    for (const [field, message] of problems) set(errors, field, { type: 'fault', message });
    return { values: {}, errors } as never;
  };
  return useHookForm<T>({ resolver, defaultValues: start, mode: 'onTouched' });
}

/** A form whose content is sent. @param bodyOf what is sent of what was filled in */
export const useCheckedForm = <T extends FieldValues>(
  check: Check,
  start: DefaultValues<T>,
  bodyOf: (filled: T) => unknown = (f) => f,
): UseFormReturn<T> => useForm<T>(start, (filled) => problemsBy(check, bodyOf(filled)));

type Props<T extends FieldValues> = Omit<ComponentProps<typeof Field>, 'value' | 'onChangeText' | 'onBlur' | 'wrong'> & {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
};

export const FormField = <T extends FieldValues>({ control, name, ...props }: Props<T>) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange, onBlur }, fieldState: { error } }) => (
      <Field {...props} value={value as string} onChangeText={onChange} onBlur={onBlur} wrong={error?.message} />
    )}
  />
);

type ChoiceProps<T extends FieldValues> = Omit<ComponentProps<typeof OneOf>, 'value' | 'choose'> & {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
};

/** One of several, in a form. */
export const FormChoice = <T extends FieldValues>({ control, name, ...props }: ChoiceProps<T>) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange } }) => <OneOf {...props} value={value as string} choose={onChange} />}
  />
);
