// Coming in by an invitation: who invites, a name to sign in with, a password. The link is used up by it.

import { minPassword } from '@nibber/core/permissions';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { problemWords } from '../../state/api';
import { useComeInMutation, useInvitedQuery, type InvitedAs } from '../../state/api/people';
import { Attention, Button, Empty, Page, Waiting } from '../../ui/Surface';
import { FormField, useForm } from '../../ui/Form';
import { Words } from '../../ui/Words';
import { texts, roleSays } from './words';

type Filled = { name: string; password: string };

export function ComeIn() {
  // What stands after the sign # is sent to no server by itself.
  const [token] = useState(() => globalThis.location?.hash.slice(1) ?? '');
  const asked = useInvitedQuery(token, { skip: token === '' });
  return (
    <Page wideColumn={false}>
      <View style={{ width: '100%', maxWidth: 420, alignSelf: 'center', gap: 16, paddingTop: 48 }}>
        {token === '' ? (
          <Empty words={texts.thisLinkIsIncomplete} next={texts.openTheLinkAsIt} />
        ) : asked.isLoading ? (
          <Waiting />
        ) : asked.data ? (
          <Account token={token} {...asked.data} />
        ) : (
          <Attention words={problemWords(asked.error) ?? ''} />
        )}
      </View>
    </Page>
  );
}

function Account({ token, siteName, name, role, madeBy, until, isKnown }: { token: string } & InvitedAs) {
  const router = useRouter();
  const [comeIn, state] = useComeInMutation();
  const { control, handleSubmit, formState } = useForm<Filled>({ name: name ?? '', password: '' }, (f) => ({
    ...(f.name.trim() ? {} : { name: texts.required }),
    ...(f.password.length >= minPassword ? {} : { password: texts.atLeastCharacters(minPassword) }),
  }));
  const go = handleSubmit(async (filled) => {
    const answer = await comeIn({ token, name: filled.name.trim(), password: filled.password });
    if (!answer.error) router.replace('/');
  });
  return (
    <>
      <View style={{ gap: 4 }}>
        <Words size="head" bold heading={1}>
          {siteName}
        </Words>
        <Words tone="second">
          {isKnown
            ? texts.letsYouChooseANew(madeBy, name)
            : texts.invitesYouAs(madeBy, role, roleSays[role], until ? texts.until2(until) : '')}
        </Words>
      </View>
      {!isKnown && (
        <FormField
          control={control}
          name="name"
          label={texts.yourNameForSigningIn}
          autoCapitalize="words"
          autoComplete="username"
          testID="come-name"
        />
      )}
      <FormField
        control={control}
        name="password"
        label={isKnown ? texts.newPassword : texts.password}
        help={texts.atLeastCharacters(minPassword)}
        secureTextEntry
        autoComplete="new-password"
        onSubmitEditing={() => void go()}
        testID="come-password"
      />
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      <Button words={texts.join} main disabled={!formState.isValid || state.isLoading} onPress={() => void go()} testID="come-in" />
    </>
  );
}
