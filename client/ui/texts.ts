// Texts of the parts that every screen is built from.

/** What a text can be filled with; what is missing is left out. */
export type Filled = string | number | null | undefined;

export const texts = {
  loading: 'Loading…',
  less: (name: string | number) => `${name}: less`,
  more: (name: string | number) => `${name}: more`,
  save: 'Save',
  cancel: 'Cancel',
  required: 'Required.',
  atLeastCharacters: (limit: string | number) => `At least ${limit} characters.`,
  atMostCharacters: (limit: string | number) => `At most ${limit} characters.`,
  notAValidValue: 'Not a valid value.',
  aNumberFromTo: (min: string | number, max: string | number) => `A number from ${min} to ${max}.`,
  remove: 'Remove',
  close: 'Close',
  sortBy: (name: string | number) => `Sort by ${name}`,
  youHaveUnsavedChanges: 'You have unsaved changes.',
  discardChanges: 'Discard changes',
  keepEditing: 'Keep editing',
  hasBeenChangedBySomeone: (what: string | number) =>
    `${what} has been changed by someone else since you started editing. Saving will overwrite that.`,
  useTheSavedVersion: 'Use the saved version',
  keepMyChanges: 'Keep my changes',
} as const;
