// Alerts on this phone, and the application on its home screen. The browser is asked for nothing before someone presses a button
// that says what it is for.

import { install, type PhoneState } from '../../state/phone';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useThisPhone } from './useThisPhone';
import { texts } from './words';

const says: { readonly [S in PhoneState]: string } = {
  unsupported: texts.thisBrowserCannotShowNotifications,
  insecure: texts.notificationsNeedAnHttpsAddress,
  'install first': texts.thisPhoneOnlyAllowsNotifications,
  blocked: texts.theBrowserBlocksNotificationsFrom,
  off: texts.getAlertsAsNotificationsEven,
  on: texts.alertsAreOnForThis,
};

export function ThisPhone() {
  const say = useSay();
  const phone = useThisPhone();
  const { state, problem, isBusy } = phone;
  return (
    <Card>
      <Words bold heading={2}>
        {texts.alertsOnThisDevice}
      </Words>
      {state && <Words testID={`phone-${state.replace(' ', '-')}`}>{says[state]}</Words>}
      {problem && <Attention words={problem} />}
      <Row>
        {state === 'off' && (
          <Button words={texts.turnOnAlertsHere} main disabled={isBusy} onPress={() => void phone.turnOn()} testID="phone-on" />
        )}
        {state === 'on' && (
          <Button words={texts.sendATestAlert} main disabled={isBusy} onPress={() => void phone.ring().then(say)} testID="phone-ring" />
        )}
        {state === 'on' && (
          <Button words={texts.turnOffAlertsHere} disabled={isBusy} onPress={() => void phone.turnOff()} testID="phone-off" />
        )}
        {phone.canInstall && (
          <Button
            words={texts.addToHomeScreen}
            onPress={() => void install().then((is) => is && say(texts.addedToTheHomeScreen))}
            testID="install"
          />
        )}
      </Row>
    </Card>
  );
}
