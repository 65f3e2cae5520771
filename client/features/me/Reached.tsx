// The user's channels, in their order of use.

import { useState } from 'react';
import { personChannels, type PersonChannel } from '@nibber/core/channels';
import type { Person } from '@nibber/core/site';
import type { MySettings } from '../../state/api/people';
import type { Me } from '../../state/api/types';
import { FormField, useForm } from '../../ui/Form';
import { Footer } from '../../ui/Footer';
import { Button, Card, Row } from '../../ui/Surface';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { channelNamesOf } from '../channels/words';
import { isMail, isPhone, withoutBlanks } from './addresses';
import { texts } from './words';

type Filled = { mail: string; phone: string };

export function Reached({ me, save }: { me: Me; save: (settings: MySettings) => Promise<boolean> }) {
  const person = me.person as Person;
  const [isOpen, setOpen] = useState(false);
  const order: readonly PersonChannel[] = person.channels ?? personChannels;
  const up = (i: number) => void save({ channels: order.map((c, j) => (j === i - 1 ? order[i]! : j === i ? order[i - 1]! : c)) });
  const addressOf = { push: undefined, mail: person.mail, text: person.phone } as const;
  return (
    <Card>
      <Words bold heading={2}>
        {texts.howToReachYou}
      </Words>
      {order.map((name, i) => {
        const { reaches = false, why = null } = me.channels.find((c) => c.name === name) ?? {};
        return (
          <Row key={name} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
            <Words style={{ flexShrink: 1 }} tone={reaches ? 'ink' : 'second'}>
              {`${i + 1}. ${channelNamesOf[name]}${reaches ? (addressOf[name] ? `: ${addressOf[name]}` : '') : texts.notYet(why?.replace(/^./, (c) => c.toLowerCase()))}`}
            </Words>
            {i > 0 && (
              <Button
                glyph="up"
                label={texts.before(channelNamesOf[name], channelNamesOf[order[i - 1]!])}
                onPress={() => up(i)}
                testID={`up-${name}`}
              />
            )}
          </Row>
        );
      })}
      <Words size="small" tone="second">
        {texts.ifOneFailsForTwo}
      </Words>
      <Row>
        <Button words={texts.eMailAddressAndNumber} onPress={() => setOpen(true)} testID="my-addresses" />
      </Row>
      {isOpen && <Addresses person={person} save={save} close={() => setOpen(false)} />}
    </Card>
  );
}

function Addresses({ person, save, close }: { person: Person; save: (settings: MySettings) => Promise<boolean>; close: () => void }) {
  const { control, handleSubmit, formState } = useForm<Filled>(
    { mail: person.mail ?? '', phone: person.phone ?? '' },
    ({ mail, phone }) => ({
      ...(mail.trim() === '' || isMail(mail.trim()) ? {} : { mail: texts.oneEMailAddressSuch }),
      ...(phone.trim() === '' || isPhone(withoutBlanks(phone)) ? {} : { phone: texts.withItsCountrySuchAs }),
    }),
  );
  const keep = handleSubmit(async ({ mail, phone }) => {
    if (await save({ mail: mail.trim() || null, phone: withoutBlanks(phone) || null })) close();
  });
  return (
    <Sheet
      title={texts.yourContactDetails}
      open
      close={close}
      footer={<Footer save={() => void keep()} canSave={formState.isValid} cancel={close} testID="addresses-save" />}
    >
      <FormField
        control={control}
        name="mail"
        label={texts.mailAddress}
        inputMode="email"
        autoComplete="email"
        autoCapitalize="none"
        testID="my-mail"
      />
      <FormField control={control} name="phone" label={texts.numberForTextMessages} inputMode="tel" autoComplete="tel" testID="my-number" />
    </Sheet>
  );
}
