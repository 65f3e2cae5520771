// Being told on this phone, and having the application on its home screen. Nothing is asked of the browser before somebody touched a button
// that says what it is for.

import { install, type PhoneState } from '../../state/phone';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useThisPhone } from './useThisPhone';

const says: { readonly [S in PhoneState]: string } = {
  unsupported: 'This browser cannot show notifications. Another one can, as can a phone; alerts may also come by mail.',
  insecure: 'Notifications need an address that begins with https. Whoever runs Nibber can give it a certificate.',
  'install first': 'This phone only allows notifications from apps on the home screen. Open the browser’s share menu, add Nibber to the home screen, and open it from there.', // prettier-ignore
  blocked: 'Notifications of this address are blocked in the browser. Allow them in its settings for this site, then load the page again.',
  off: 'Alerts come here as notifications, also while Nibber is closed. The browser asks once whether it may show them; they are used for alerts alone.', // prettier-ignore
  on: 'Alerts are on for this device.',
};

export function ThisPhone() {
  const say = useSay();
  const phone = useThisPhone();
  const { state, trouble, isBusy } = phone;
  return (
    <Card>
      <Words bold heading={2}>
        Alerts on this device
      </Words>
      {state && <Words testID={`phone-${state.replace(' ', '-')}`}>{says[state]}</Words>}
      {trouble && <Attention words={trouble} />}
      <Row>
        {state === 'off' && <Button words="Tell me here" main disabled={isBusy} onPress={() => void phone.turnOn()} testID="phone-on" />}
        {state === 'on' && (
          <Button words="Send a test alert" main disabled={isBusy} onPress={() => void phone.ring().then(say)} testID="phone-ring" />
        )}
        {state === 'on' && (
          <Button words="Turn off alerts here" disabled={isBusy} onPress={() => void phone.turnOff()} testID="phone-off" />
        )}
        {
          phone.canInstall &&
          <Button words="Put on the home screen" onPress={() => void install().then((is) => is && say('It is on the home screen.'))} testID="install" /> // prettier-ignore
        }
      </Row>
    </Card>
  );
}
