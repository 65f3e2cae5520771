// ONVIF event messages (wsnt:NotificationMessage), read and written. Source: ONVIF Core Specification (event handling) and the topic
// descriptions of the Analytics, Imaging and Device IO services.

import { isoInstant, parseInstant, type Instant } from '../time';
import { refuse } from './limits';
import { childOf, childrenOf, readXml, xmlText, allOf, type Element } from './xml';

const topics = {
  motion: ['tns1:VideoSource/MotionAlarm', 'tns1:RuleEngine/CellMotionDetector/Motion', 'tns1:RuleEngine/MotionRegionDetector/Motion'],
  'in-field': ['tns1:RuleEngine/FieldDetector/ObjectsInside'],
  'line-crossed': ['tns1:RuleEngine/LineDetector/Crossed'],
  loitering: ['tns1:RuleEngine/LoiteringDetector/ObjectIsLoitering'],
  count: ['tns1:RuleEngine/CountAggregation/Counter'],
  moved: ['tns1:VideoSource/GlobalSceneChange/ImagingService', 'tns1:VideoSource/GlobalSceneChange/AnalyticsService'],
  'too-dark': ['tns1:VideoSource/ImageTooDark/ImagingService', 'tns1:VideoSource/ImageTooDark/AnalyticsService'],
  'too-bright': ['tns1:VideoSource/ImageTooBright/ImagingService', 'tns1:VideoSource/ImageTooBright/AnalyticsService'],
  'too-blurred': ['tns1:VideoSource/ImageTooBlurry/ImagingService', 'tns1:VideoSource/ImageTooBlurry/AnalyticsService'],
  'signal-lost': ['tns1:VideoSource/SignalLoss'],
  input: ['tns1:Device/Trigger/DigitalInput'],
} as const;

export type ReportKind = keyof typeof topics | 'other';

export type CameraReport = {
  readonly at: Instant;
  readonly kind: ReportKind;
  /** As it came. */
  readonly topic: string;
  /** Whether the state is initial, changed or deleted; undefined for messages without a state. */
  readonly operation: 'Initialized' | 'Changed' | 'Deleted' | undefined;
  /** What it is about: tokens of the video source, the rule, the input. */
  readonly source: Readonly<Record<string, string>>;
  readonly data: Readonly<Record<string, string>>;
  /** Whether it is so now; undefined where the message does not say, as of a crossing, which only happens. */
  readonly isActive: boolean | undefined;
};

const longestTopic = 500;
const stateItems = ['State', 'IsMotion', 'IsInside', 'IsLoitering', 'LogicalState'];

/** Every message of a document: a metadata stream, a pull-point answer, or one message. @throws Problem 'bad-input' with line and column */
export const readOnvifEvents = (text: string): CameraReport[] => readNotifications(readXml(text));

/** As `readOnvifEvents`, of a document that was read already. */
export const readNotifications = (element: Element): CameraReport[] => allOf(element, 'NotificationMessage').map(parseNotification);

export function parseNotification(element: Element): CameraReport {
  const topic = childOf(element, 'Topic')?.text.trim();
  const holder = childOf(element, 'Message');
  const message = childOf(holder, 'Message') ?? holder;
  if (!topic) refuse(element.place, 'NotificationMessage has no Topic', 'wsnt:Topic with a topic');
  if (topic.length > longestTopic) refuse(element.place, `Topic is ${topic.length} characters long`, `at most ${longestTopic}`);
  if (!message) refuse(element.place, 'NotificationMessage has no Message', 'wsnt:Message with tt:Message');
  const at = parseInstant(message.attributes.UtcTime ?? '');
  if (at === undefined)
    refuse(message.place, `Message has UtcTime ${JSON.stringify(message.attributes.UtcTime ?? '')}`, 'ISO 8601 with an offset');
  const operation = message.attributes.PropertyOperation;
  if (operation !== undefined && !isOperation(operation))
    refuse(message.place, `Message has PropertyOperation ${JSON.stringify(operation)}`, 'Initialized, Changed or Deleted');
  const data = items(childOf(message, 'Data'));
  const state = stateItems.map((n) => data[n]).find((v) => v !== undefined);
  const isActive = state === undefined ? undefined : state === 'true' || state === '1';
  return { at, kind: kindOf(topic), topic, operation, source: items(childOf(message, 'Source')), data, isActive };
}

const isOperation = (text: string): text is 'Initialized' | 'Changed' | 'Deleted' => ['Initialized', 'Changed', 'Deleted'].includes(text);

/** Prefixes of topics are whatever the document binds them to; the path says what is meant. */
function kindOf(topic: string): ReportKind {
  const path = topic
    .split('/')
    .map((part) => part.slice(part.lastIndexOf(':') + 1))
    .join('/');
  const found = Object.entries(topics).find(([, own]) => own.some((t) => t.replace('tns1:', '') === path));
  return (found?.[0] as ReportKind | undefined) ?? 'other';
}

function items(holder: Element | undefined): Record<string, string> {
  const found: Record<string, string> = {};
  for (const item of holder ? childrenOf(holder, 'SimpleItem') : []) {
    const { Name, Value } = item.attributes;
    if (Name === undefined || Value === undefined) refuse(item.place, 'SimpleItem lacks its Name or Value', 'both of them');
    found[Name] = Value;
  }
  return found;
}

/** One message, with the standard's topic of its kind where it has none of its own. */
export function writeOnvifEvent(report: CameraReport): string {
  const topic = report.topic || (report.kind === 'other' ? '' : topics[report.kind][0]);
  const holder = (name: string, list: Readonly<Record<string, string>>) => {
    const own = Object.entries(list).map(([n, v]) => `<tt:SimpleItem Name="${xmlText(n)}" Value="${xmlText(v)}"/>`);
    return own.length ? `<tt:${name}>${own.join('')}</tt:${name}>` : '';
  };
  const operation = report.operation ? ` PropertyOperation="${report.operation}"` : '';
  return (
    '<wsnt:NotificationMessage xmlns:wsnt="http://docs.oasis-open.org/wsn/b-2" xmlns:tns1="http://www.onvif.org/ver10/topics" xmlns:tt="http://www.onvif.org/ver10/schema">' +
    `<wsnt:Topic Dialect="http://www.onvif.org/ver10/tev/topicExpression/ConcreteSet">${xmlText(topic)}</wsnt:Topic>` +
    `<wsnt:Message><tt:Message UtcTime="${isoInstant(report.at)}"${operation}>${holder('Source', report.source)}${holder('Data', report.data)}</tt:Message></wsnt:Message>` +
    '</wsnt:NotificationMessage>'
  );
}
