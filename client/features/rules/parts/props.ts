// What every part of a rule is given to show and change.

import type { Rule } from '@nibber/core/site';
import type { CameraAnswer, Site } from '../../../state/api/types';
import type { RehearsalAsked } from '../../../state/rehearsal';

export type PartProps = {
  rule: Rule;
  site: Site;
  cameras: readonly CameraAnswer[];
  change: (rule: Rule) => void;
  week: RehearsalAsked;
};
