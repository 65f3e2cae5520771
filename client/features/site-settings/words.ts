// What is written on the screens of this feature.

export const texts = {
  chooseFromTheListSuch: 'Choose from the list, such as Europe/Lisbon.',
  required: 'Required.',
  saved: 'Saved.',
  undo: 'Undo',
  theBrowserSharesItsLocation: 'The browser shares its location only with https pages. Enter it instead.',
  noLocationAvailableAllowIt: 'No location available. Allow it in the browser’s settings, or enter it.',
  name: 'Name',
  location: 'Location',
  forSchedulesBasedOnSunrise: 'For schedules based on sunrise and sunset. In degrees; south and west are negative. Optional.',
  latitude: 'Latitude',
  longitude: 'Longitude',
  useThisDevicesLocation: 'Use this device’s location',
  enterBoth90To90: 'Enter both (-90 to 90 and -180 to 180), or neither.',
  timeZone: 'Time zone',
} as const;
