// What is asked of every thing of a class, by rules that ask nothing of their own.

import { useState } from 'react';
import type { ClassName } from '@nibber/core/boxes';
import type { Prompt } from '@nibber/core/site';
import { useSetClassPromptMutation } from '../../state/api/aiServices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { useSaved } from '../channels/useSaved';
import { PromptPart } from '../rules/parts/PromptPart';
import { texts, classWords } from './words';

type Props = { of: ClassName; prompt: Prompt; version: number; close: () => void };

export function ClassPromptsSheet({ of, prompt: saved, version, close }: Props) {
  const [prompt, setPrompt] = useState(saved);
  const [put, putting] = useSetClassPromptMutation();
  const keep = useSaved(close);
  const save = () =>
    void keep(put({ version, class: of, prompt: Object.keys(prompt).length ? prompt : null }), texts.fieldsSaved(classWords[of]));
  return (
    <Sheet
      title={classWords[of]!}
      open
      close={close}
      footer={<Footer save={save} canSave={!putting.isLoading} cancel={close} testID="class-prompt-save" />}
    >
      <Words tone="second">{texts.usedWhenARuleHas}</Words>
      <PromptPart prompt={prompt} change={setPrompt} />
    </Sheet>
  );
}
