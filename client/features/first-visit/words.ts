// What is written on the screens of this feature.

type Filled = string | number | null | undefined;

export const texts = {
  reading: 'Reading',
  stepNotFound: 'Step not found.',
  goBackToNow: 'Go back to Now.',
  nameAndLocation: 'Name and location',
  youCanChangeAllOf: 'You can change all of this later under Site.',
  saveAndGoOn: 'Save and go on',
  aHome: 'A home',
  aShop: 'A shop',
  aShopWithAFlat: 'A shop with a flat',
  areas: 'Areas',
  area: 'Area',
  aTemplate: 'A template',
  setsUpAreasModesAnd: 'Sets up areas, modes and schedules. You can change names and times later under Site.',
  aPhone: 'A phone',
  alertsGoToRegisteredPhones: 'Alerts go to registered phones.',
  isNotifiedOn: (me: Filled, list: string | number) => `${me} is notified on ${list}.`,
  noRegisteredPhoneToRegister: (me: string | number) =>
    `${me} no registered phone. To register another phone, open Nibber on it and sign in.`,
  refresh: 'Refresh',
  peopleAndPhones: 'People and phones',
  ofStepsDone: (done: string | number, count: string | number) => `${done} of ${count} steps done`,
  next: (what: string | number) => `Next: ${what}`,
  goOn: 'Go on',
  later: 'Later',
  settingUpOfDone: (count: string | number, count2: string | number) => `Setting up: ${count} of ${count2} done`,
  continue: (what: string | number) => `Continue: ${what}`,
} as const;
