// What is written on the screens of this feature.

export const texts = {
  confirm: 'Confirm',
  confirmYourPassword: 'Confirm your password',
  youSignedInSomeTime: 'You signed in some time ago. Enter your password to make this change.',
  password: 'Password',
  nibber: 'Nibber',
  firstVisitCreateTheOwners: 'First visit: create the owner’s account, with full access.',
  onlyTheCameraAlertsYou: 'Only the camera alerts you want.',
  name: 'Name',
  atLeastCharacters: (minPassword: string | number) => `At least ${minPassword} characters.`,
  setUpCode: 'Set-up code',
  shownWhereNibberWasStarted: 'Shown where Nibber was started.',
  createAccount: 'Create account',
  signIn: 'Sign in',
} as const;
