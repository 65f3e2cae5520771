// A camera that is run by its own app is given a place here, and an address to send its events to.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import * as checks from '../../state/api/checks';
import { FormField, useCheckedForm } from '../../ui/Form';
import { Attention, Button, Card } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords, useSiteQuery } from '../../state/api';
import { usePairCameraMutation } from '../../state/api/connect';
import { FormArea } from './AreaChoice';
import { texts } from './words';

type Filled = { name: string; area: string };

export function PairByApp() {
  const [isOpen, setOpen] = useState(false);
  const { data: site } = useSiteQuery();
  return (
    <Card>
      <Words bold heading={2}>
        {texts.cameraWithItsOwnApp}
      </Words>
      <Words tone="second">{texts.theseCamerasDoTheirOwn}</Words>
      {isOpen && site ? <PairForm areas={site.areas} /> : <Button words={texts.pairACamera} onPress={() => setOpen(true)} testID="pair" />}
    </Card>
  );
}

const bodyOf = ({ name, area }: Filled) => ({ name: name.trim(), area });

function PairForm({ areas }: { areas: readonly { id: string; name: string }[] }) {
  const router = useRouter();
  const [pair, state] = usePairCameraMutation();
  const { control, handleSubmit, formState } = useCheckedForm<Filled>(checks.paired, { name: '', area: areas[0]?.id ?? '' }, bodyOf);
  const go = handleSubmit(async (filled) => {
    const answer = await pair(bodyOf(filled));
    if (answer.data) router.navigate(`/cameras/${answer.data.camera}`);
  });
  return (
    <>
      <FormField
        control={control}
        name="name"
        label={texts.name}
        autoCapitalize="sentences"
        onSubmitEditing={() => void go()}
        testID="pair-name"
      />
      <FormArea control={control} name="area" areas={areas} />
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      <Button
        words={texts.createAddress}
        main
        disabled={!formState.isValid || state.isLoading}
        onPress={() => void go()}
        testID="pair-go"
      />
    </>
  );
}
