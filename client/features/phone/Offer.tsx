// Offers alerts on this device on Now: once as a card, then as one line. Left for later, it is found under Site.

import { useEffect, useState } from 'react';
import { setPhoneOffered, setPhoneOfferSeen } from '../../state/settings';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useSteps } from '../first-visit/useSteps';
import { useThisPhone } from './useThisPhone';
import { texts } from './words';

export function Offer() {
  const dispatch = useAppDispatch();
  const { isPhoneOffered, isPhoneOfferSeen } = useAppSelector((s) => s.settings);
  const [isFirst] = useState(!isPhoneOfferSeen);
  const { state, turnOn, isBusy, problem } = useThisPhone();
  const steps = useSteps();
  // Where the place is being set up it is one of the steps.
  const isStep = steps?.some((s) => s.name === 'phone' && !s.isDone);
  const isShown = !isPhoneOffered && !isStep && state === 'off';
  useEffect(() => void (isShown && dispatch(setPhoneOfferSeen())), [isShown, dispatch]);
  if (!isShown) return null;
  const done = () => dispatch(setPhoneOffered(true));
  if (!isFirst)
    return (
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words style={{ flexShrink: 1 }}>{problem ?? texts.alertsAreOffHere}</Words>
        <Row style={{ flexWrap: 'nowrap' }}>
          <Button words={texts.turnOn} disabled={isBusy} onPress={() => void turnOn()} testID="offer-on" />
          <Button glyph="close" label={texts.notNow} onPress={done} testID="offer-later" />
        </Row>
      </Row>
    );
  return (
    <Card>
      <Words size="lead" bold heading={2}>
        {texts.alertsOnThisDevice}
      </Words>
      <Words>{problem ?? texts.getNotificationsEvenWhenNibber}</Words>
      <Row>
        <Button words={texts.turnOnAlertsHere} main disabled={isBusy} onPress={() => void turnOn()} testID="offer-on" />
        <Button words={texts.notNow} onPress={done} testID="offer-later" />
      </Row>
    </Card>
  );
}
