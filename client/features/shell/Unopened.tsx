// What stands where a page could not be opened: its part was not fetched, or it failed while it was shown. The rest of the application stays.

import { usePathname } from 'expo-router';
import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Attention, Button, Page, Row } from '../../ui/Surface';
import { texts } from './words';

export function Unopened({ children }: { children: ReactNode }) {
  return (
    <ErrorBoundary
      resetKeys={[usePathname()]}
      fallback={
        <Page>
          <Attention words={texts.thisPageCouldNotBe}>
            <Row>
              <Button words={texts.reload} onPress={() => globalThis.location?.reload()} testID="load-again" />
            </Row>
          </Attention>
        </Page>
      }
    >
      {children}
    </ErrorBoundary>
  );
}
