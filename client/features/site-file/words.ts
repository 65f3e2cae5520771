// What is written on the screens of this feature.

export const texts = {
  n1pxSolid: (rule: string | number) => `1px solid ${rule}`,
  n2pxSolid: (work: string | number) => `2px solid ${work}`,
  underlineWavy: (alarm: string | number) => `underline wavy ${alarm}`,
  siteFile: 'Site file',
  reading: 'Reading',
  theSiteFileWasCopied: 'The site file was copied.',
  isLongerThanMbToo: (name: string | number, maxCharacters: string | number) =>
    `${name} is longer than ${maxCharacters} MB, too long for a site file.`,
  theSiteFileWasSaved: 'The site file was saved.',
  earlierVersions: 'Earlier versions',
  checking: 'Checking',
  oneProblem: 'One problem',
  sameMeaningOnlyFormattedDifferently: 'Same meaning, only formatted differently',
  changesIfYouSave: 'Changes if you save',
  theSite: 'The site',
  copy: 'Copy',
  download: 'Download',
  upload: 'Upload',
  loadingEditor: 'Loading editor',
  noChangesYet: 'No changes yet.',
  earlierOnes: 'Earlier ones',
} as const;
