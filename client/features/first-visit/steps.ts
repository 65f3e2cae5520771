// What setting up a place takes, in its order, and what of it is done: seen from what there is, so that nothing has to be ticked off.

import type { CameraAnswer, Site, StoredWalkTest } from '../../state/api/types';
import { unnamed } from '../site-settings/unnamed';
import { texts } from './words';

export type StepName = 'place' | 'template' | 'camera' | 'zone' | 'rule' | 'phone' | 'walk';
export type Step = {
  readonly name: StepName;
  readonly words: string;
  readonly says: string;
  readonly isDone: boolean;
  readonly href: string;
};

export type Known = {
  readonly site: Site;
  readonly cameras: readonly CameraAnswer[];
  readonly rules: number;
  readonly phones: readonly { readonly person: string }[];
  readonly walks: readonly Pick<StoredWalkTest, 'endedAt'>[];
};

export function stepsOf({ site, cameras, rules, phones, walks }: Known): Step[] {
  const [camera] = cameras;
  const zoned = cameras.some((c) => c.zones.some((z) => z.purpose === 'watch') || (c.lines ?? []).length > 0);
  return [
    {
      name: 'place',
      words: texts.nameAndLocation,
      says: texts.itsNameTimeZoneAnd,
      isDone: site.settings.name !== unnamed,
      href: '/first/place',
    },
    {
      name: 'template',
      words: 'A template',
      says: texts.areasModesAndSchedulesFor,
      isDone: site.schedules.length > 0 || rules > 0,
      href: '/first/template',
    },
    { name: 'camera', words: texts.firstCamera, says: texts.onTheNetworkOrBy, isDone: camera !== undefined, href: '/cameras/new' },
    {
      name: 'zone',
      words: texts.firstZone,
      says: texts.drawItOnThePicture,
      isDone: zoned || rules > 0,
      href: camera ? `/cameras/${camera.id}?draw=1` : '/cameras/new',
    },
    { name: 'rule', words: texts.firstRule, says: texts.fromASuggestion, isDone: rules > 0, href: '/rules?new=1' },
    { name: 'phone', words: 'A phone', says: texts.firstAlert, isDone: phones.length > 0, href: '/first/phone' },
    {
      name: 'walk',
      words: texts.walkTest,
      says: texts.checkThatItWorks,
      isDone: walks.some((w) => w.endedAt !== null),
      href: '/rules/walk',
    },
  ];
}
