// Which AI services are asked for a use, and in which order.

import { useState } from 'react';
import { View } from 'react-native';
import type { AiUse } from '@nibber/core/site';
import { useOrderServicesMutation } from '../../state/api/aiServices';
import type { ServiceState } from '../../state/api/types';
import { Check } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useSaved } from '../channels/useSaved';
import { texts, useWords } from './words';

type Props = { use: AiUse; services: readonly ServiceState[]; order: readonly string[]; version: number; close: () => void };

export function OrderSheet({ use, services, order, version, close }: Props) {
  const own = services.filter((s) => !s.isNamedAtStart).map((s) => s.service);
  const [asked, setAsked] = useState(() => order.filter((id) => own.some((s) => s.id === id)));
  const [put, putting] = useOrderServicesMutation();
  const keep = useSaved(close);
  const rest = own.filter((s) => !asked.includes(s.id)).map((s) => s.id);
  const move = (id: string, by: 1 | -1) => {
    const next = asked.filter((a) => a !== id);
    next.splice(asked.indexOf(id) + by, 0, id);
    setAsked(next);
  };
  const toggle = (id: string) => setAsked(asked.includes(id) ? asked.filter((a) => a !== id) : [...asked, id]);
  const save = () => void keep(put({ version, use, services: asked }), texts.orderSaved(useWords[use].name));
  return (
    <Sheet
      title={useWords[use].name}
      open
      close={close}
      footer={<Footer save={save} canSave={!putting.isLoading} cancel={close} testID="order-save" />}
    >
      <Words tone="second">{texts.theFirstIsUsedIf}</Words>
      {[...asked, ...rest].map((id) => {
        const { name } = own.find((s) => s.id === id)!;
        const at = asked.indexOf(id);
        return (
          <Row key={id} style={{ flexWrap: 'nowrap', justifyContent: 'space-between' }}>
            <View style={{ flex: 1 }}>
              <Check words={name} checked={at >= 0} press={() => toggle(id)} testID={`order-${id}`} />
            </View>
            <Button glyph="up" label={texts.earlier(name)} disabled={at <= 0} onPress={() => move(id, -1)} testID={`order-${id}-up`} />
            <Button
              glyph="down"
              label={texts.later(name)}
              disabled={at < 0 || at === asked.length - 1}
              onPress={() => move(id, 1)}
              testID={`order-${id}-down`}
            />
          </Row>
        );
      })}
    </Sheet>
  );
}
