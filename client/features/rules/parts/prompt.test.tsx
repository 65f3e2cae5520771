import { act, fireEvent, screen } from '@testing-library/react-native';
import { useState } from 'react';
import type { Prompt } from '@nibber/core/site';
import { draw } from '../../../testing/draw';
import { PromptPart } from './PromptPart';

let prompt: Prompt;
function Held({ first }: { first: Prompt }) {
  const [now, set] = useState(first);
  prompt = now;
  return <PromptPart prompt={now} change={set} />;
}

test('fields are written one a line, begun from ready ones, and what cannot be meant is said and not taken', async () => {
  await draw(<Held first={{}} />).drawn;
  await fireEvent.press(screen.getByTestId('prompt-ready-Vehicle'));
  expect(prompt.fields?.map((f) => f.name)).toEqual(['colour', 'make', 'kind', 'plate', 'lettering']);
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-fields'), 'colour\nkind: car'));
  expect(screen.getByText('After “kind:” enter at least two options, separated by commas.')).toBeTruthy();
  expect(prompt.fields).toHaveLength(5);
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-fields'), 'colour\nladder?'));
  expect(prompt.fields).toEqual([
    { name: 'colour', kind: 'text' },
    { name: 'ladder', kind: 'yes or no' },
  ]);
});

test('the sentence may be left out where fields are asked, and comes back where they are not', async () => {
  await draw(<Held first={{ fields: [{ name: 'colour', kind: 'text' }] }} />).drawn;
  await fireEvent.press(screen.getByTestId('prompt-sentence'));
  expect(prompt.sentence).toBe(false);
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-fields'), ''));
  expect(prompt).toEqual({});
});

test('own words and language are kept', async () => {
  await draw(<Held first={{}} />).drawn;
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-words'), 'Leave out the weather.'));
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-language'), 'French'));
  expect(prompt).toEqual({ words: 'Leave out the weather.', language: 'French' });
});

test('what is sent is chosen; a setting that is not shown here stays when another is changed', async () => {
  await draw(<Held first={{ maxCharacters: 90 }} />).drawn;
  await fireEvent.press(screen.getByTestId('prompt-shows-both'));
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-moments'), '3'));
  expect(prompt).toEqual({ maxCharacters: 90, shows: 'both', closeUps: 3 });
  await fireEvent.press(screen.getByTestId('prompt-shows-usual'));
  await act(async () => fireEvent.changeText(screen.getByTestId('prompt-longest'), ''));
  expect(prompt).toEqual({ closeUps: 3 });
  await fireEvent.press(screen.getByTestId('prompt-shows-whole'));
  expect(screen.queryByTestId('prompt-moments')).toBeNull();
});
