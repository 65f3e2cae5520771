// Being told on this phone, and having the application on its home screen. Nothing is asked of the browser before somebody touched a button
// that says what it is for.

import { install, type PhoneState } from '../../state/phone';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useThisPhone } from './useThisPhone';

const says: { readonly [S in PhoneState]: string } = {
  unsupported: 'This browser cannot show notifications. Use another browser or a phone, or get alerts by e-mail.',
  insecure: 'Notifications need an https address. Ask the person who runs Nibber to set up a certificate.',
  'install first': 'This phone only allows notifications from apps on the home screen. Open the browser’s share menu, add Nibber to the home screen, and open it from there.', // prettier-ignore
  blocked: 'The browser blocks notifications from this address. Allow them in its settings, then reload the page.',
  off: 'Get alerts as notifications, even when Nibber is closed. The browser asks for permission once.', // prettier-ignore
  on: 'Alerts are on for this device.',
};

export function ThisPhone() {
  const say = useSay();
  const phone = useThisPhone();
  const { state, problem, isBusy } = phone;
  return (
    <Card>
      <Words bold heading={2}>
        Alerts on this device
      </Words>
      {state && <Words testID={`phone-${state.replace(' ', '-')}`}>{says[state]}</Words>}
      {problem && <Attention words={problem} />}
      <Row>
        {state === 'off' && (
          <Button words="Turn on alerts here" main disabled={isBusy} onPress={() => void phone.turnOn()} testID="phone-on" />
        )}
        {state === 'on' && (
          <Button words="Send a test alert" main disabled={isBusy} onPress={() => void phone.ring().then(say)} testID="phone-ring" />
        )}
        {state === 'on' && (
          <Button words="Turn off alerts here" disabled={isBusy} onPress={() => void phone.turnOff()} testID="phone-off" />
        )}
        {
          phone.canInstall &&
          <Button words="Add to home screen" onPress={() => void install().then((is) => is && say('Added to the home screen.'))} testID="install" /> // prettier-ignore
        }
      </Row>
    </Card>
  );
}
