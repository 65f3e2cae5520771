// Links to pictures that are signed and expire. Whoever holds one sees that picture for a while, and nothing else.

import { createHmac, timingSafeEqual } from 'node:crypto';

/** `of`: whom the link was given to. */
export type LinkQuery = { readonly expires: string; readonly of: string; readonly signature: string };

export type Links = {
  sign(picture: string, person: string, forMs: number): string;
  isValid(picture: string, query: LinkQuery): boolean;
};

export function makeLinks(secret: Buffer, publicUrl: string, machine: () => number): Links {
  const signatureOf = (picture: string, { expires, of }: Omit<LinkQuery, 'signature'>) =>
    createHmac('sha256', secret)
      .update(JSON.stringify([picture, of, expires]))
      .digest();
  return {
    sign(picture, of, forMs) {
      const expires = String(machine() + forMs);
      const signature = signatureOf(picture, { expires, of }).toString('base64url');
      return `${publicUrl}/pictures/${picture}?${new URLSearchParams({ expires, of, signature }).toString()}`;
    },
    isValid(picture, query) {
      const given = Buffer.from(query.signature, 'base64url');
      const right = signatureOf(picture, query);
      return given.length === right.length && timingSafeEqual(given, right) && Number(query.expires) > machine();
    },
  };
}
