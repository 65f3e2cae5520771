// Links to pictures that are signed and expire. Whoever holds one sees that picture for a while, and nothing else.

import { createHmac, timingSafeEqual } from 'node:crypto';

export type Links = {
  sign(picture: string, forMs: number): string;
  isValid(picture: string, expires: string, signature: string): boolean;
};

export function makeLinks(secret: Buffer, publicUrl: string, machine: () => number): Links {
  const signatureOf = (picture: string, expires: string) => createHmac('sha256', secret).update(`${picture}\n${expires}`).digest();
  return {
    sign(picture, forMs) {
      const expires = String(machine() + forMs);
      return `${publicUrl}/pictures/${picture}?expires=${expires}&signature=${signatureOf(picture, expires).toString('base64url')}`;
    },
    isValid(picture, expires, signature) {
      const given = Buffer.from(signature, 'base64url');
      const right = signatureOf(picture, expires);
      return given.length === right.length && timingSafeEqual(given, right) && Number(expires) > machine();
    },
  };
}
