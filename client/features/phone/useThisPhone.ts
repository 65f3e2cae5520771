// This phone, while it is looked at: how it stands, and what can be done.

import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';
import { problemWords, useRemovePhoneMutation, useSessionQuery } from '../../state/api';
import { useAddPhoneMutation, useLazyPushKeyQuery, useRingMutation } from '../../state/api/people';
import { canInstall, onInstallOffer, phoneState, subscribe, subscriptionNow, unsubscribe, type PhoneState } from '../../state/phone';
import { texts } from './words';

export type ThisPhone = {
  /** Undefined while it is being looked at. */
  readonly state: PhoneState | undefined;
  /** What went wrong, in words. */
  readonly problem: string | undefined;
  readonly isBusy: boolean;
  readonly canInstall: boolean;
  turnOn(): Promise<void>;
  turnOff(): Promise<void>;
  /** What came of ringing it, in words. */
  ring(): Promise<string>;
};

const notReached = texts.theBrowsersPushServiceRefused;

export function useThisPhone(): ThisPhone {
  const [state, setState] = useState<PhoneState>();
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const installable = useSyncExternalStore(onInstallOffer, canInstall, () => false);
  const [askKey] = useLazyPushKeyQuery();
  const [add] = useAddPhoneMutation();
  const [ringIt] = useRingMutation();
  const [remove] = useRemovePhoneMutation();
  const look = useCallback(() => void phoneState().then(setState), []);
  useEffect(look, [look]);
  const doing = async (work: () => Promise<string | undefined>) => {
    setBusy(true);
    setProblem(undefined);
    setProblem(await work().catch(() => notReached));
    setBusy(false);
    look();
  };
  return {
    state,
    problem,
    isBusy,
    canInstall: installable,
    turnOn: () =>
      doing(async () => {
        const key = await askKey().unwrap();
        const made = await subscribe(key.key);
        if (!made) return undefined;
        const answer = await add(made);
        if (!answer.error) return undefined;
        await unsubscribe();
        return problemWords(answer.error);
      }),
    turnOff: () =>
      doing(async () => {
        // Which of the server's it is, it says itself.
        const made = await subscriptionNow();
        const known = made && (await add(made));
        if (known?.data) await remove(known.data.id);
        await unsubscribe();
        return undefined;
      }),
    async ring() {
      const answer = await ringIt({});
      if (answer.error) return problemWords(answer.error) ?? '';
      const failed = answer.data.find((p) => p.state !== 'accepted');
      return failed ? `${failed.label}: ${failed.why}` : texts.sentItShouldArriveWithin;
    },
  };
}

/** At each start the phone is registered again: the push service may have changed its address, or someone else signed in. */
export function useRenewedPhone(): void {
  const { data: session } = useSessionQuery();
  const [add] = useAddPhoneMutation();
  const person = session?.visitor?.person;
  useEffect(() => {
    if (!person) return;
    void subscriptionNow().then(
      (made) => made && add(made),
      () => {},
    );
  }, [person, add]);
}
