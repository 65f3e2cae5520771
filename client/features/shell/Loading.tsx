// What stands where a screen cannot be shown yet: that it is being fetched, or why it cannot be, with a way to try again.

import type { SerializedError } from '@reduxjs/toolkit';
import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { problemWords } from '../../state/api';
import { Attention, Button, Page, Row, Waiting } from '../../ui/Surface';
import { texts } from './words';

type Asked = { readonly error?: FetchBaseQueryError | SerializedError | undefined; readonly isFetching: boolean; refetch(): unknown };

type Props = {
  readonly words?: string;
  /** The questions whose answers it is made of. */
  readonly of: readonly Asked[];
  /** A part of a screen: it has no page of its own. */
  readonly isPart?: boolean;
};

export function Loading({ words, of, isPart = false }: Props) {
  const failed = of.filter((q) => q.error && !q.isFetching);
  if (failed.length === 0) return <Waiting words={words} />;
  const why = (
    <Attention words={problemWords(failed[0]!.error) ?? ''}>
      <Row>
        <Button words={texts.tryAgain} onPress={() => failed.forEach((q) => void q.refetch())} testID="try-again" />
      </Row>
    </Attention>
  );
  return isPart ? why : <Page wideColumn={false}>{why}</Page>;
}
