// Texts of stored data: how much there is, how long it is kept, when the disk will be full.

import type { RetentionKind } from '@nibber/core/retention';
import { bytesText, counted, listed } from '@nibber/core/words';
import type { Filled } from '../../ui/texts';

export const kindNames: Readonly<Record<RetentionKind, string>> = {
  events: 'Events',
  usefulEvents: 'Useful events',
  filteredOut: 'Filtered-out detections',
  trails: 'Their trails',
  pictures: 'Pictures of events',
  clips: 'Clips',
  deliveries: 'Deliveries of cameras',
  aiRequests: 'AI requests',
  readings: 'Readings',
  detections: 'Recorded detections',
  logbook: 'Logbook',
  sessions: 'Ended sessions',
  jobs: 'Finished jobs',
  siteVersions: 'Site versions',
};

export const kindHelp: Readonly<Partial<Record<RetentionKind, string>>> = {
  usefulEvents: 'Events that someone marked as useful, with their pictures and clips.',
  trails: 'Which gate stopped a detection, and why.',
  pictures: 'The event itself stays without them.',
  detections: 'What rehearsals use.',
};

export const daysText = (days: number): string => counted(days, 'day');

/** What will happen to the disk. */
export const forecastText = ({ perDay, steady, fullInDays }: { perDay: number; steady: number; fullInDays: number | null }): string => {
  if (perDay === 0) return 'No pictures or clips were stored in the last seven days.';
  const comes = `About ${bytesText(perDay)} a day.`;
  return fullInDays === null
    ? `${comes} It will level off at ${bytesText(steady)}. All of it fits.`
    : `${comes} The limit is reached ${fullInDays === 0 ? 'today' : `in ${daysText(fullInDays)}`}. From then on the oldest data is deleted early.`;
};

/** How much there is of a camera. */
export const storedText = ({ events, tracks, clips }: { events: number; tracks: number; clips: number }): string =>
  `${listed([counted(events, 'event'), counted(tracks, 'track'), counted(clips, 'clip')], 'and')} are stored.`;

export const texts = {
  exportOrDelete: 'Export or delete',
  chooseWhat: 'The data of one camera, for one day or for all days. For one event, see its page. For a person, see People.',
  choose: 'Choose',
  camera: 'Camera',
  howMuch: 'How much',
  oneDay: 'One day',
  allDays: 'All days',
  day: 'Day',
  counting: 'Counting…',
  nothingStored: 'Nothing is stored.',
  export: 'Export',
  delete: 'Delete',
  deletePermanently: 'Delete permanently',
  cancel: 'Cancel',
  cannotBeUndone: 'This cannot be undone. Export it first if you may need it.',
  deletesOfCamera: (camera: Filled, day: Filled) =>
    `Events, filtered-out detections, pictures, clips and recorded detections of ${camera}, ${day}, are deleted.`,
  storedFree: (stored: Filled, free: Filled) => `${stored} stored, ${free} free`,
  onlyAreFree: (free: Filled) =>
    `Only ${free} are free on the disk. Old clips and pictures are deleted early. Free up space, or keep less.`,
  storedData: 'Stored data',
  what: 'What',
  files: 'Files',
  size: 'Size',
  theOldestIsFrom: (day: Filled) => ` The oldest is from ${day}.`,
  detectionsTake: (bytes: Filled, since: Filled) => `Recorded detections take up to ${bytes}.${since}`,
  howLong: 'Retention',
  change: 'Change',
  ofCamera: (camera: Filled) => `Retention: ${camera}`,
  asTheSite: 'as the site',
  otherDays: (n: number) => counted(n, 'exception'),
  exceptions: 'Exceptions by camera',
  chooseACamera: 'A camera can keep its data for longer or shorter than the site.',
  inDays: 'The number of days.',
  ifEmpty: (value: Filled) => `${value} if empty.`,
  fromOneTo: 'A whole number from 1 to 3650',
  disk: 'Disk',
  maxShare: 'Most of the disk, %',
  aShare: 'A number from 1 to 100',
  minFree: 'Always free, GB',
  aFree: 'A number from 0.1 to 100,000',
  diskLimits: (share: Filled, free: Filled) => `At most ${share} % of the disk, and ${free} always free.`,
  limitHelp: 'Before a limit is reached, the oldest and least valuable data is deleted early. Useful events go last.',
  saved: 'Saved.',
  picturesOfEvents: 'Pictures of events',
  clipsOfEvents: 'Clips of events',
  picturesOfWhatWasFiltered: 'Pictures of what was filtered out',
  picturesThatCamerasSent: 'Pictures that cameras sent',
  picturesOfReadings: 'Pictures of readings',
  picturesOfWalkTests: 'Pictures of walk tests',
  picturesOfKnownVehicles: 'Pictures of known people and vehicles',
  thePlanOfTheSite: 'The plan of the site',
  recordedDetectionsForRehearsals: 'Recorded detections, for rehearsals',
  eventsSettingsAndTheLogbook: 'Events, settings and the logbook',
} as const;
