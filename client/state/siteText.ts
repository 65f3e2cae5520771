// The site file's text while it is being edited.

import { draftsOf } from './draft';

export const siteText = draftsOf<string>('siteText', '', (content) => typeof content === 'string');
