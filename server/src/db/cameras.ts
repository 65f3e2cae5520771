// What is kept of a camera beside the site file: its id, the token that its events come with.

import { createHash, randomBytes } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Camera } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import { idOf } from '@nibber/core/words';
import { originOf } from '../net/origin';
import { LoginElsewhere, type Login } from '../net/login';
import type { Record } from './index';
import type { Sealed } from './sealed';

/** An id made of a name, that no other camera has; `new` is where the client connects one. */
export const newCameraId = (name: string, others: readonly Camera[]): string => idOf(name, ['new', ...others.map((c) => c.id)], 'camera');

/** The name under which a camera's login is encrypted. */
export const loginName = (camera: string): string => `sign-in ${camera}`;
export const tokenName = (camera: string) => `token ${camera}`;

/** What a camera is let into by, with the machines and ports it was given for; it goes nowhere else. */
type StoredLogin = { readonly name: string; readonly password: string; readonly origins?: readonly string[]; readonly digest?: boolean };

/** Every address at which a camera is asked. */
export const addressesOf = ({ source }: Pick<Camera, 'source'>): string[] =>
  source.kind === 'streamed'
    ? [source.device, source.low, source.full, source.still].filter((a): a is string => a !== undefined)
    : source.still
      ? [source.still]
      : [];

export type CameraLogins = {
  /**
   * @returns the camera's sign-in as it may be sent to an address; undefined where it has none
   * @throws SignInElsewhere where it was given for another scheme, host or port
   */
  of(camera: string, address: string): Promise<Login | undefined>;
  give(camera: string, login: Login, addresses: readonly string[], transaction: Transaction): Promise<void>;
  /** Sign-ins that were kept before they were bound are bound to where their cameras are asked now. */
  bind(cameras: readonly Camera[]): Promise<void>;
};

export const openCameraLogins = (record: Record, sealed: Sealed): CameraLogins => {
  const put = (camera: string, kept: StoredLogin) => record.write((transaction) => sealed.put(loginName(camera), kept, transaction));
  return {
    async of(camera, address) {
      const kept = await sealed.get<StoredLogin>(loginName(camera));
      if (!kept) return undefined;
      if (!kept.origins?.includes(originOf(address))) throw new LoginElsewhere();
      const { name, password, digest } = kept;
      return { name, password, digest, saysDigest: digest ? undefined : () => void put(camera, { ...kept, digest: true }).catch(() => {}) };
    },
    give: (camera, { name, password, digest }, addresses, transaction) =>
      sealed.put(loginName(camera), { name, password, digest, origins: [...new Set(addresses.map(originOf))] }, transaction),
    async bind(cameras) {
      for (const camera of cameras) {
        const kept = await sealed.get<StoredLogin>(loginName(camera.id)).catch(() => undefined);
        if (kept && !kept.origins) await put(camera.id, { ...kept, origins: [...new Set(addressesOf(camera).map(originOf))] });
      }
    },
  };
};

/** Tokens that identify paired cameras. Looked up by hash; stored encrypted, so that the address can be shown again. */
export type CameraTokens = {
  /** Makes a camera's token again; the one before is of no use from then on. */
  make(camera: string, at: Instant): Promise<string>;
  of(camera: string): Promise<string | undefined>;
  cameraOf(token: string): Promise<string | undefined>;
};

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

export const openCameraTokens = (record: Record, sealed: Sealed): CameraTokens => ({
  async make(camera, at) {
    const token = randomBytes(24).toString('base64url');
    await record.write(async (transaction) => {
      await record.tables.cameraTokens.upsert({ camera, tokenHash: hashOf(token), madeAt: at }, { transaction });
      await sealed.put(tokenName(camera), token, transaction);
    });
    return token;
  },
  of: (camera) => sealed.get<string>(tokenName(camera)),
  cameraOf: async (token) => (await record.tables.cameraTokens.findOne({ where: { tokenHash: hashOf(token) } }))?.camera,
});
