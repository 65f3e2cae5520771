// What is kept of a camera beside the site file: its id, the token that its events come with.

import { createHash, randomBytes } from 'node:crypto';
import type { Camera } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import type { Record } from './index';
import type { Sealed } from './sealed';

const longestId = 40;

/** An id made of a name, that no other camera has. */
export function newCameraId(name: string, others: readonly Camera[]): string {
  const base =
    name
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, longestId - 4) || 'camera';
  // `new` is where the client connects one.
  const taken = new Set(['new', ...others.map((c) => c.id)]);
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(id)) return id;
  }
}

/** The name under which a camera's sign-in is sealed. */
export const signInName = (camera: string): string => `sign-in ${camera}`;

/** Tokens by which paired cameras are known. Looked up by hash; sealed, so that the address can be shown again. */
export type CameraTokens = {
  /** Makes a camera's token anew; the one before is of no use from then on. */
  make(camera: string, at: Instant): Promise<string>;
  of(camera: string): Promise<string | undefined>;
  cameraOf(token: string): Promise<string | undefined>;
};

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');
const sealedName = (camera: string) => `token ${camera}`;

export const openCameraTokens = (record: Record, sealed: Sealed): CameraTokens => ({
  async make(camera, at) {
    const token = randomBytes(24).toString('base64url');
    await record.write(async (transaction) => {
      await record.tables.cameraTokens.upsert({ camera, tokenHash: hashOf(token), madeAt: at }, { transaction });
      await sealed.put(sealedName(camera), token, transaction);
    });
    return token;
  },
  of: (camera) => sealed.get<string>(sealedName(camera)),
  cameraOf: async (token) => (await record.tables.cameraTokens.findOne({ where: { tokenHash: hashOf(token) } }))?.camera,
});
