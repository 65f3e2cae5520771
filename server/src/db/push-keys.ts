// The key pair by which push services know this server (VAPID, RFC 8292).

import webPush from 'web-push';
import type { Sealed } from './sealed';

export type PushKeys = { readonly publicKey: string; readonly privateKey: string };

export const pushKeys = (sealed: Sealed): Promise<PushKeys> =>
  sealed.made('push keys', () => webPush.generateVAPIDKeys(), {
    setting: 'push keys',
    read: (text) => JSON.parse(text) as PushKeys,
  });
