// Who a token is of, without asking the database at every request.

import type { SiteFile } from '@nibber/core/site';
import type { AccountRow, SessionRow } from './rows';
import type { Tables } from './tables';

export type SignIn = { readonly session: SessionRow; readonly account: AccountRow | undefined };

export type SignIns = {
  /** What was looked up a moment ago, in the site as it is, is not looked up again. */
  of(tokenHash: string): Promise<SignIn | undefined>;
  /** One was ended or changed here: each is looked up again. What a command beside the server ends is seen a moment later. */
  forget(): void;
};

const recentMs = 2000;

export function openSignIns({ sessions, accounts }: Pick<Tables, 'sessions' | 'accounts'>, siteFile: () => SiteFile | undefined): SignIns {
  const recent = new Map<string, { readonly at: number; readonly file: SiteFile | undefined; readonly found: SignIn }>();
  let changes = 0;
  return {
    async of(tokenHash) {
      const known = recent.get(tokenHash);
      if (known && known.file === siteFile() && performance.now() - known.at < recentMs) return known.found;
      const [before, file] = [changes, siteFile()];
      const session = (await sessions.findByPk(tokenHash))?.get({ plain: true });
      if (!session) return undefined;
      const account = session.account === null ? null : await accounts.findByPk(session.account);
      const found = { session, account: account?.get({ plain: true }) };
      // One that was ended meanwhile is not kept.
      if (before === changes) recent.set(tokenHash, { at: performance.now(), file, found });
      return found;
    },
    forget() {
      changes++;
      recent.clear();
    },
  };
}
