// Signing in; on the first visit, making the owner's account.

import { minPassword } from '@nibber/core/permissions';
import { useRouter, type Href } from 'expo-router';
import { View } from 'react-native';
import { problemWords, useSignInMutation } from '../../state/api';
import { setGuided } from '../../state/settings';
import { useAppDispatch } from '../../state/store';
import * as checks from '../../state/api/checks';
import { Attention, Button, Page } from '../../ui/Surface';
import { FormField, useCheckedForm } from '../../ui/Form';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Filled = { name: string; password: string; code: string };
/** Whoever is known needs no code. */
const known = ({ name, password }: Filled) => ({ name, password });

export function SignIn({ isNew }: { isNew: boolean }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [signIn, state] = useSignInMutation();
  const { control, handleSubmit, formState } = useCheckedForm<Filled>(
    isNew ? checks.owner : checks.signIn,
    { name: '', password: '', code: '' },
    isNew ? undefined : known,
  );
  const go = handleSubmit(async ({ name, password, code }) => {
    const answer = await signIn({ name: name.trim(), password, code: isNew ? code.trim() : undefined });
    if (answer.error || !isNew) return;
    dispatch(setGuided(true));
    router.replace('/first/place' as Href);
  });
  const enter = () => void go();
  return (
    <Page wideColumn={false}>
      <View style={{ width: '100%', maxWidth: 420, alignSelf: 'center', gap: 16, paddingTop: 48 }}>
        <View style={{ gap: 4 }}>
          <Words size="head" bold heading={1}>
            {texts.nibber}
          </Words>
          <Words tone="second">{isNew ? texts.firstVisitCreateTheOwners : texts.onlyTheCameraAlertsYou}</Words>
        </View>
        <FormField
          control={control}
          name="name"
          label={texts.name}
          autoCapitalize="words"
          autoComplete="username"
          onSubmitEditing={enter}
          testID="sign-in-name"
        />
        <FormField
          control={control}
          name="password"
          label={texts.password}
          help={isNew ? texts.atLeastCharacters(minPassword) : undefined}
          secureTextEntry
          autoComplete={isNew ? 'new-password' : 'current-password'}
          onSubmitEditing={enter}
          testID="sign-in-password"
        />
        {isNew && (
          <FormField
            control={control}
            name="code"
            label={texts.setUpCode}
            help={texts.shownWhereNibberWasStarted}
            autoCapitalize="characters"
            autoComplete="off"
            onSubmitEditing={enter}
            testID="sign-in-code"
          />
        )}
        {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
        <Button
          words={isNew ? texts.createAccount : texts.signIn}
          main
          disabled={!formState.isValid || state.isLoading}
          onPress={enter}
          testID="sign-in"
        />
      </View>
    </Page>
  );
}
