// Who is signed in, as it is answered.

import { maybeText, named, object, orNull, text, yesNo } from '../schema';
import { role } from '../shapes';

export const session = named(
  'Session',
  object({ visitor: orNull(object({ name: text, role, person: maybeText })), isNew: yesNo, siteName: maybeText }),
);
