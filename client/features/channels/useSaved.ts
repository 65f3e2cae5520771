// Keeping what a sheet of a channel has: said, and undone from there.

import { troubleWords, usePutBackMutation } from '../../state/api';
import { useSay } from '../../ui/Messages';

type Answer = { readonly error?: Parameters<typeof troubleWords>[0]; readonly data?: { readonly version: number } };

export function useKept(close: () => void) {
  const say = useSay();
  const [putBack] = usePutBackMutation();
  return async (work: Promise<Answer>, words: string) => {
    const { error, data } = await work;
    if (error || !data) return say(troubleWords(error) ?? '');
    say(words, { label: 'Undo', press: () => void putBack(data.version) });
    close();
  };
}
