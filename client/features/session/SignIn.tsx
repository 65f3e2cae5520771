// Signing in; on the first visit, making the owner's account.

import { useState } from 'react';
import { View } from 'react-native';
import { Attention, Button, Page } from '../../ui/Surface';
import { Field } from '../../ui/Field';
import { Words } from '../../ui/Words';
import { troubleWords, useSignInMutation } from '../api/api';

export function SignIn({ isNew }: { isNew: boolean }) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [signIn, state] = useSignInMutation();
  const go = () => void signIn({ name: name.trim(), password, code: isNew ? code.trim() : undefined });
  const isReady = name.trim() !== '' && password !== '' && (!isNew || code.trim() !== '') && !state.isLoading;
  return (
    <Page wideColumn={false}>
      <View style={{ width: '100%', maxWidth: 420, alignSelf: 'center', gap: 16, paddingTop: 48 }}>
        <View style={{ gap: 4 }}>
          <Words size="head" bold heading={1}>
            Nibber
          </Words>
          <Words tone="second">
            {isNew
              ? 'First visit: make the owner’s account. It can do everything here.'
              : 'From what the cameras see to what you want to be told.'}
          </Words>
        </View>
        <Field label="Name" value={name} onChangeText={setName} autoCapitalize="words" autoComplete="username" testID="sign-in-name" />
        <Field
          label="Password"
          value={password}
          onChangeText={setPassword}
          secureTextEntry
          autoComplete={isNew ? 'new-password' : 'current-password'}
          onSubmitEditing={() => isReady && go()}
          testID="sign-in-password"
        />
        {isNew && (
          <>
            <Words size="small" tone="second">
              At least 8 characters.
            </Words>
            <Field
              label="Set-up code"
              value={code}
              onChangeText={setCode}
              autoCapitalize="characters"
              autoComplete="off"
              onSubmitEditing={() => isReady && go()}
              testID="sign-in-code"
            />
            <Words size="small" tone="second">
              It was printed where the program was started.
            </Words>
          </>
        )}
        {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
        <Button words={isNew ? 'Make the account' : 'Sign in'} main disabled={!isReady} onPress={go} testID="sign-in" />
      </View>
    </Page>
  );
}
