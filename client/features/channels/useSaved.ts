// Keeping what a sheet of a channel has: said, and undone from there.

import { problemWords, useRevertMutation } from '../../state/api';
import { useSay } from '../../ui/Messages';
import { texts } from './words';

type Answer = { readonly error?: Parameters<typeof problemWords>[0]; readonly data?: { readonly version: number } };

export function useSaved(close: () => void) {
  const say = useSay();
  const [revertChange] = useRevertMutation();
  return async (work: Promise<Answer>, words: string) => {
    const { error, data } = await work;
    if (error || !data) return say(problemWords(error) ?? '');
    say(words, { label: texts.undo, press: () => void revertChange(data.version) });
    close();
  };
}
