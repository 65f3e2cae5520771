// What is written on the screens of this feature.

export const texts = {
  siteFile: 'Site file',
  theSiteFileWasCopied: 'The site file was copied.',
  isLongerThanMbToo: (name: string | number, maxCharacters: string | number) =>
    `${name} is longer than ${maxCharacters} MB, too long for a site file.`,
  theSiteFileWasSaved: 'The site file was saved.',
  earlierVersions: 'Earlier versions',
  checking: 'Checking…',
  oneProblem: 'One problem',
  sameMeaningOnlyFormattedDifferently: 'Same meaning, only formatted differently',
  changesIfYouSave: 'Changes if you save',
  theSite: 'The site',
  copy: 'Copy',
  download: 'Download',
  upload: 'Upload',
  noChangesYet: 'No changes yet.',
  showEarlier: 'Show earlier',
  versionCurrent: (version: string | number) => `Version ${version} (current)`,
  problems: (count: string | number) => `${count} problems`,
  line: (line: string | number, words: string | number) => `Line ${line}: ${words}`,
  andMore: (shownChanges: string | number) => `and ${shownChanges} more`,
} as const;
