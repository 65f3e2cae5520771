// A camera that is run by its own app is given a place here, and an address to send its events to.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { Field } from '../../ui/Field';
import { Attention, Button, Sheet } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { troubleWords, useSiteQuery } from '../api/api';
import { usePairCameraMutation } from './api';
import { AreaChoice } from './AreaChoice';

export function PairByApp() {
  const router = useRouter();
  const { data: site } = useSiteQuery();
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [area, setArea] = useState<string>();
  const [pair, state] = usePairCameraMutation();
  const place = area ?? site?.areas[0]?.id ?? '';
  const go = async () => {
    const answer = await pair({ name: name.trim(), area: place });
    if (answer.data) router.navigate(`/cameras/${answer.data.camera}`);
  };
  return (
    <Sheet>
      <Words bold heading={2}>
        Run by its own app
      </Words>
      <Words tone="second">Such a camera sees people and animals by itself. It is given an address here to send its events to.</Words>
      {!isOpen ? (
        <Button words="Pair such a camera" onPress={() => setOpen(true)} testID="pair" />
      ) : (
        <>
          <Field label="What it is called" value={name} onChangeText={setName} autoCapitalize="sentences" testID="pair-name" />
          <AreaChoice areas={site?.areas ?? []} area={place} choose={setArea} />
          {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
          <Button
            words="Make its address"
            main
            disabled={name.trim() === '' || state.isLoading}
            onPress={() => void go()}
            testID="pair-go"
          />
        </>
      )}
    </Sheet>
  );
}
