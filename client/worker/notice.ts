// What a message of the server becomes on a phone. No effects here: what is shown is worked out, worker.ts shows it.

/** As the server sends it (server/src/notify/channels). */
export type Notice = {
  readonly id: string;
  readonly kind: 'alert' | 'fill-in';
  readonly title: string;
  readonly body: string;
  readonly at: string;
  readonly when: string;
  readonly small: string | null;
  readonly open: string;
  readonly live: string | null;
  readonly thread: string | null;
  readonly count: number;
  readonly silent: boolean;
  readonly badge: number;
  readonly actions: readonly { readonly action: string; readonly words: string; readonly token: string }[];
};

/** What a notification carries for when it is touched. */
export type Carried = {
  readonly id: string;
  readonly at: number;
  readonly open: string;
  readonly live: string | null;
  readonly tokens: Readonly<Record<string, string>>;
  /** It says what became of an action that its owner chose. */
  readonly isAnswered?: true;
};

export type Shown = { readonly title: string; readonly options: NotificationOptions & { readonly data: Carried } };

/** Of the alerts of a thread one notification is shown, with the number; an alert of none is by itself. */
export const tagOf = ({ thread, id }: Pick<Notice, 'thread' | 'id'>): string => thread ?? id;

/**
 * What is to be shown; undefined where what is there already is newer, or its owner put it away or chose an action.
 * @param present what is shown under the tag now
 */
export function shownOf(notice: Notice, present: Carried | undefined): Shown | undefined {
  const at = Date.parse(notice.at);
  if (present && present.at > at) return undefined;
  // A fill-in belongs to an alert that was shown: where that is gone, it was read.
  if (notice.kind === 'fill-in' && (present?.id !== notice.id || present.isAnswered)) return undefined;
  const actions = [
    ...(notice.live ? [{ action: 'live', title: 'Watch live' }] : []),
    ...notice.actions.map(({ action, words }) => ({ action, title: words })),
  ];
  return {
    title: notice.count > 1 ? `${notice.title} · ${notice.count}` : notice.title,
    options: {
      body: `${notice.body}\n${notice.when}`,
      tag: tagOf(notice),
      icon: '/icon-192.png',
      badge: '/badge.png',
      silent: notice.silent,
      ...({
        ...(notice.small ? { image: notice.small } : {}),
        renotify: !notice.silent,
        timestamp: at,
        actions,
      } as object),
      data: {
        id: notice.id,
        at,
        open: notice.open,
        live: notice.live,
        tokens: Object.fromEntries(notice.actions.map(({ action, token }) => [action, token])),
      },
    },
  };
}
