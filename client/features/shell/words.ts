// What is written on the screens of this feature.

export const texts = {
  tryAgain: 'Try again',
  youHaveUnsavedChangesTo: (words: string | number) => `You have unsaved changes to ${words}.`,
  keepEditing: 'Keep editing',
  discardChanges: 'Discard changes',
  now: 'Now',
  events: 'Events',
  cameras: 'Cameras',
  rules: 'Rules',
  site: 'Site',
  places: 'Places',
  help: 'Help',
  thisMayBeOutOf: 'This may be out of date',
  lastUpdated: (ago: string | number) => `Last updated ${ago}`,
  tryingAgain: (connection: string | number, asOf: string | number) => `${connection}. ${asOf}; trying again.`,
  thisPageCouldNotBe: 'This page could not be loaded. You may be offline, or Nibber has been updated.',
  reload: 'Reload',
  noConnectionToTheServer: 'No connection to the server',
  slowConnection: 'Slow connection',
} as const;
