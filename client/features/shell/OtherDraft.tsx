// Changes of something else of the same kind that are not saved yet: there is one draft at a time, and none is lost.

import { useRouter, type Href } from 'expo-router';
import type { DraftKind, Drafts } from '../../state/draft';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { Attention, Button, Row } from '../../ui/Surface';
import { texts } from './words';

type Props<C> = {
  kind: DraftKind<C>;
  /** What is open; its own draft is not another's. */
  id?: string;
  /** Those that are saved. */
  all: readonly { readonly id: string }[];
  /** Where one is opened by its id. */
  path: string;
  /** What it is, where it has no name. */
  words: string;
};

export function OtherDraft<C extends { readonly id: string; readonly name: string }>({ kind, id, all, path, words }: Props<C>) {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const { begun, history } = useAppSelector((s) => s[kind.name]) as unknown as Drafts<C>;
  if (!begun || begun.of === id) return null;
  const isNew = !all.some((e) => e.id === begun.of);
  if (history.past.length === 0 && !isNew) return null;
  return (
    <Attention words={texts.youHaveUnsavedChangesTo(history.present.name || words)}>
      <Row>
        <Button words={texts.keepEditing} main onPress={() => router.navigate(`${path}/${begun.of}` as Href)} testID="other-draft" />
        <Button words={texts.discardChanges} onPress={() => dispatch(kind.end())} />
      </Row>
    </Attention>
  );
}
