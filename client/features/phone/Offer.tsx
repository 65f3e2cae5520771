// On Now, once: to be told on this device. Left for later, it is found under Site.

import { setPhoneOffered } from '../../state/settings';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useSteps } from '../first-visit/useSteps';
import { useThisPhone } from './useThisPhone';

export function Offer() {
  const dispatch = useAppDispatch();
  const isOffered = useAppSelector((s) => s.settings.isPhoneOffered);
  const { state, turnOn, isBusy, problem } = useThisPhone();
  const steps = useSteps();
  // Where the place is being set up it is one of the steps.
  const isStep = steps?.some((s) => s.name === 'phone' && !s.isDone);
  if (isOffered || isStep || state !== 'off') return null;
  const done = () => dispatch(setPhoneOffered(true));
  return (
    <Card>
      <Words size="lead" bold heading={2}>
        Alerts on this device
      </Words>
      <Words>{problem ?? 'Get notifications even when Nibber is closed. Your browser will ask for permission.'}</Words>
      <Row>
        <Button words="Turn on alerts here" main disabled={isBusy} onPress={() => void turnOn()} testID="offer-on" />
        <Button words="Not now" onPress={done} testID="offer-later" />
      </Row>
    </Card>
  );
}
