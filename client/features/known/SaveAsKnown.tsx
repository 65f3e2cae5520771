// From a moment to a known thing: one tap, and its name.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { problemWords } from '../../state/api';
import { useSaveAsKnownMutation } from '../../state/api/siteSettings';
import type { Site } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Button } from '../../ui/Surface';
import { KnownSheet } from './KnownSheet';
import { texts } from './words';

export function SaveAsKnown({ event, site }: { event: string; site: Site }) {
  const router = useRouter();
  const say = useSay();
  const [make] = useSaveAsKnownMutation();
  const [isOpen, setOpen] = useState(false);
  const save = async ({ name, plate }: { name: string; plate?: string | undefined }) => {
    const answer = await make({ name, event, ...(plate ? { plate } : {}) });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    say(texts.savedItWillBeRecognised(name), { label: texts.show, press: () => router.navigate('/site/known' as Href) });
  };
  return (
    <>
      <Button glyph="add" words={texts.saveAsKnown} onPress={() => setOpen(true)} testID="make-known" />
      {isOpen && (
        <KnownSheet
          thing={undefined}
          taken={site.known.map((k) => k.name.toLowerCase())}
          save={(thing) => void save(thing)}
          close={() => setOpen(false)}
          isBrief
        />
      )}
    </>
  );
}
