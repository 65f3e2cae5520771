// What is written on the screens of this feature.

export const texts = {
  alertsOnThisDevice: 'Alerts on this device',
  getNotificationsEvenWhenNibber: 'Get notifications even when Nibber is closed. Your browser will ask for permission.',
  turnOnAlertsHere: 'Turn on alerts here',
  notNow: 'Not now',
  alertsAreOffHere: 'Alerts are off on this device.',
  turnOn: 'Turn on',
  thisBrowserCannotShowNotifications: 'This browser cannot show notifications. Use another browser or a phone, or get alerts by e-mail.',
  notificationsNeedAnHttpsAddress: 'Notifications need an https address. Ask the person who runs Nibber to set up a certificate.',
  thisPhoneOnlyAllowsNotifications:
    'This phone only allows notifications from apps on the home screen. Open the browser’s share menu, add Nibber to the home screen, and open it from there.',
  theBrowserBlocksNotificationsFrom:
    'The browser blocks notifications from this address. Allow them in its settings, then reload the page.',
  getAlertsAsNotificationsEven: 'Get alerts as notifications, even when Nibber is closed. The browser asks for permission once.',
  alertsAreOnForThis: 'Alerts are on for this device.',
  sendATestAlert: 'Send a test alert',
  turnOffAlertsHere: 'Turn off alerts here',
  addToHomeScreen: 'Add to home screen',
  addedToTheHomeScreen: 'Added to the home screen.',
  theBrowsersPushServiceRefused: 'The browser’s push service refused. Check the connection and try again.',
  sentItShouldArriveWithin: 'Sent. It should arrive within seconds.',
} as const;
