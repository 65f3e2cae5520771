// What another program gets of an alert: a CloudEvent (CloudEvents 1.0.2, JSON format). Its data is described in docs/receivers.md.

import type { ClassName } from '../boxes';

export type AlertNotified = {
  readonly id: string;
  readonly kind: 'alert' | 'fill-in';
  /** ISO 8601. */
  readonly at: string;
  /** The address of the site. */
  readonly source: string;
  readonly event: string;
  readonly rule: string | null;
  readonly camera: string | null;
  readonly area: string;
  readonly class: ClassName | null;
  readonly type: string | null;
  readonly description: string | null;
  readonly title: string;
  readonly body: string;
  /** A signed link that ends. */
  readonly picture: string | null;
  readonly open: string;
};

export function writeAlertEvent({ id, kind, at, source, type, ...notified }: AlertNotified): Record<string, unknown> {
  return {
    specversion: '1.0',
    // The same alert once more is the same event, and what fills it in another.
    id: kind === 'alert' ? id : `${id}-filled-in`,
    type: kind === 'alert' ? 'nibber.alert' : 'nibber.alert.filled-in',
    source,
    subject: notified.camera ?? notified.area,
    time: at,
    datacontenttype: 'application/json',
    data: { alert: id, ...notified, type },
  };
}
