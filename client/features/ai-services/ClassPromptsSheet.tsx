// What is asked of every thing of a class, by rules that ask nothing of their own.

import { useState } from 'react';
import type { ClassName } from '@nibber/core/boxes';
import type { Asks } from '@nibber/core/site';
import { useAskOfClassMutation } from '../../state/api/aiServices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { useKept } from '../channels/useSaved';
import { AsksPart } from '../rules/parts/PromptPart';
import { classWords } from './words';

type Props = { of: ClassName; asks: Asks; version: number; close: () => void };

export function ClassAsksSheet({ of, asks: saved, version, close }: Props) {
  const [asks, setAsks] = useState(saved);
  const [put, putting] = useAskOfClassMutation();
  const keep = useKept(close);
  const save = () =>
    void keep(put({ version, class: of, asks: Object.keys(asks).length ? asks : null }), `${classWords[of]}: fields saved.`);
  return (
    <Sheet
      title={classWords[of]!}
      open
      close={close}
      footer={<Footer save={save} canSave={!putting.isLoading} cancel={close} testID="class-asks-save" />}
    >
      <Words tone="second">Used when a rule has a description but no fields.</Words>
      <AsksPart asks={asks} change={setAsks} />
    </Sheet>
  );
}
