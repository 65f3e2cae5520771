import fc from 'fast-check';
import {
  boxOfRow,
  readCameraEvent,
  readCocoAnnotations,
  readCocoResults,
  readMot,
  readOnvifEvents,
  readOnvifMetadata,
  writeCloudEvent,
  writeCocoAnnotations,
  writeCocoResults,
  writeMot,
  writeOnvifEvent,
  writeOnvifMetadata,
} from '.';
import { colourNames, type Box } from '../boxes';
import type { Frame } from '../tracks';
import { readJson } from './limits';

const start = Date.parse('2026-06-01T12:00:00Z');
const close = (box: readonly number[]) => box.map((v) => expect.closeTo(v, 5));

// The structure of the examples in the ONVIF Analytics Service Specification (scene description), with values of our own: pixels of a
// 640×480 picture from its lower left corner, brought to −1..1 by the Transformation.
const stream = `<?xml version="1.0" encoding="UTF-8"?>
<tt:MetadataStream xmlns:tt="http://www.onvif.org/ver10/schema" xmlns:wsnt="http://docs.oasis-open.org/wsn/b-2" xmlns:tns1="http://www.onvif.org/ver10/topics">
 <tt:VideoAnalytics>
  <tt:Frame UtcTime="2026-06-01T12:00:00.500Z">
   <tt:Transformation><tt:Translate x="-1.0" y="-1.0"/><tt:Scale x="0.003125" y="0.00416667"/></tt:Transformation>
   <tt:Object ObjectId="12">
    <tt:Appearance>
     <tt:Shape><tt:BoundingBox left="160.0" top="360.0" right="320.0" bottom="120.0"/><tt:CenterOfGravity x="240.0" y="240.0"/></tt:Shape>
     <tt:Class><tt:ClassCandidate><tt:Type>Animal</tt:Type><tt:Likelihood>0.1</tt:Likelihood></tt:ClassCandidate>
      <tt:ClassCandidate><tt:Type>Human</tt:Type><tt:Likelihood>0.8</tt:Likelihood></tt:ClassCandidate></tt:Class>
     <tt:HumanBody><tt:Clothing><tt:Tops><tt:Category>Coat</tt:Category><tt:Color><tt:ColorCluster><tt:Color X="54" Y="99" Z="220"/><tt:Weight>0.9</tt:Weight></tt:ColorCluster></tt:Color></tt:Tops></tt:Clothing></tt:HumanBody>
    </tt:Appearance>
   </tt:Object>
   <tt:Object ObjectId="13">
    <tt:Appearance>
     <tt:Shape><tt:BoundingBox left="0" top="480" right="640" bottom="0"/></tt:Shape>
     <tt:Class><tt:Type Likelihood="0.9">Vehicle</tt:Type></tt:Class>
     <tt:VehicleInfo><tt:Type Likelihood="0.7">Truck</tt:Type><tt:Brand Likelihood="0.5">Acme</tt:Brand></tt:VehicleInfo>
     <tt:LicensePlateInfo><tt:PlateNumber Likelihood="0.6">AB12 CDE</tt:PlateNumber></tt:LicensePlateInfo>
    </tt:Appearance>
   </tt:Object>
   <tt:Object ObjectId="14"/>
  </tt:Frame>
 </tt:VideoAnalytics>
 <tt:Event>
  <wsnt:NotificationMessage>
   <wsnt:Topic Dialect="http://www.onvif.org/ver10/tev/topicExpression/ConcreteSet">tns1:RuleEngine/CellMotionDetector/Motion</wsnt:Topic>
   <wsnt:Message><tt:Message UtcTime="2026-06-01T12:00:01Z" PropertyOperation="Changed">
    <tt:Source><tt:SimpleItem Name="VideoSourceConfigurationToken" Value="1"/><tt:SimpleItem Name="Rule" Value="MyMotion"/></tt:Source>
    <tt:Data><tt:SimpleItem Name="IsMotion" Value="true"/></tt:Data>
   </tt:Message></wsnt:Message>
  </wsnt:NotificationMessage>
 </tt:Event>
</tt:MetadataStream>`;

test('a metadata stream: boxes after their transformation, ids, the likeliest class, appearance and messages', () => {
  const { frames, reports } = readOnvifMetadata(stream, 'gate');
  expect(frames).toEqual([
    {
      at: start + 500,
      camera: 'gate',
      objects: [
        // 160..320 of 640 is a quarter to a half; 120..360 from below of 480 is a quarter to three quarters.
        { class: 'person', score: 0.8, box: close([0.25, 0.25, 0.25, 0.5]), track: '12', looks: { upper: 'red' } },
        {
          class: 'vehicle',
          type: 'truck',
          score: 0.9,
          box: close([0, 0, 1, 1]),
          track: '13',
          looks: { plate: 'AB12 CDE', fields: { make: 'Acme' } },
        },
      ],
    },
  ]);
  expect(reports).toEqual([
    {
      at: start + 1000,
      kind: 'motion',
      topic: 'tns1:RuleEngine/CellMotionDetector/Motion',
      operation: 'Changed',
      source: { VideoSourceConfigurationToken: '1', Rule: 'MyMotion' },
      data: { IsMotion: 'true' },
      isActive: true,
    },
  ]);
});

test.each([
  ['tns1:VideoSource/MotionAlarm', 'State', 'motion'],
  ['tns1:RuleEngine/MotionRegionDetector/Motion', 'State', 'motion'],
  ['tns1:RuleEngine/FieldDetector/ObjectsInside', 'IsInside', 'in-field'],
  ['tns1:RuleEngine/LineDetector/Crossed', 'ObjectId', 'line-crossed'],
  ['tns1:RuleEngine/LoiteringDetector/ObjectIsLoitering', 'IsLoitering', 'loitering'],
  ['tns1:RuleEngine/CountAggregation/Counter', 'Count', 'count'],
  ['tns1:VideoSource/GlobalSceneChange/ImagingService', 'State', 'moved'],
  ['tns1:VideoSource/ImageTooDark/AnalyticsService', 'State', 'too-dark'],
  ['tns1:VideoSource/ImageTooBright/ImagingService', 'State', 'too-bright'],
  ['tns1:VideoSource/ImageTooBlurry/ImagingService', 'State', 'too-blurred'],
  ['tns1:VideoSource/SignalLoss', 'State', 'signal-lost'],
  ['tns1:UserAlarm/GardenGnome', 'State', 'other'],
  ['other:RuleEngine/LineDetector/tns1:Crossed', 'ObjectId', 'line-crossed'],
] as const)('topic %s', (topic, item, kind) => {
  const report = {
    at: start,
    kind,
    topic,
    operation: 'Changed' as const,
    source: { Rule: 'A & "B" <C>' },
    data: { [item]: 'true' },
    isActive: item === 'ObjectId' || item === 'Count' ? undefined : true,
  };
  expect(readOnvifEvents(writeOnvifEvent(report))).toEqual([report]);
});

const share = fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000);
const anyFrames = fc
  .array(
    fc.array(
      fc.record({
        kind: fc.constantFrom(
          { class: 'person' as const },
          { class: 'vehicle' as const, type: 'car' as const },
          { class: 'vehicle' as const, type: 'bicycle' as const },
          { class: 'vehicle' as const, type: 'motorcycle' as const },
        ),
        score: share,
        box: fc.tuple(share, share, share, share).map(([x, y, w, h]): Box => [x * 0.5, y * 0.5, w * 0.5, h * 0.5]),
        track: fc.option(fc.nat(50).map(String), { nil: undefined }),
      }),
      { maxLength: 4 },
    ),
    { minLength: 1, maxLength: 5 },
  )
  .map((frames): Frame[] =>
    frames.map((objects, i) => ({
      at: start + i * 200,
      camera: 'c',
      objects: objects.map(({ kind, score, box, track }) => ({ ...kind, score, box, ...(track === undefined ? {} : { track }) })),
    })),
  );

/** As near as the form can hold it: boxes to a hundredth of a pixel. */
const nearly = (frames: readonly Frame[], change: (o: Frame['objects'][number]) => object = () => ({})) =>
  frames.map((f) => ({
    ...f,
    objects: f.objects.map((o) => ({ ...o, box: o.box.map((v) => expect.closeTo(v, 4)), score: expect.closeTo(o.score, 2), ...change(o) })),
  }));

test('ONVIF metadata that we write is read as it was', () => {
  fc.assert(
    fc.property(anyFrames, (frames) => expect(readOnvifMetadata(writeOnvifMetadata(frames), 'c').frames).toEqual(nearly(frames))),
    { numRuns: 60 },
  );
});

test('every colour, a plate and a description survive ONVIF metadata', () => {
  for (const colour of colourNames) {
    const looks = { colour, upper: colour, lower: colour, plate: 'A<1>', fields: { make: 'B&B', model: '"x"' } };
    const frame: Frame = { at: start, camera: 'c', objects: [{ class: 'vehicle', type: 'bus', score: 0.5, box: [0, 0, 0.5, 0.5], looks }] };
    expect(readOnvifMetadata(writeOnvifMetadata([frame]), 'c').frames[0]!.objects[0]!.looks).toEqual(looks);
  }
});

test('MOT lines that we write are read as they were', () => {
  const setting = { camera: 'c', width: 1920, height: 1080, fps: 5, start };
  fc.assert(
    fc.property(anyFrames, (frames) => {
      // A line whose confidence is 0 does not count, in the ground truth's form.
      const sure = frames.map((f) => ({ ...f, objects: f.objects.filter((o) => o.score > 0) }));
      expect(readMot(writeMot(sure, setting), { ...setting, frames: sure.length })).toEqual(nearly(sure));
    }),
    { numRuns: 60 },
  );
});

test('COCO results and annotations that we write are read as they were', () => {
  const images = (n: number) => Array.from({ length: n }, (_, i) => ({ id: i + 1, width: 1920, height: 1080, at: start + i * 200 }));
  fc.assert(
    fc.property(anyFrames, (frames) => {
      const results = readCocoResults(writeCocoResults(frames, 1920, 1080), images(frames.length), 'c');
      expect(results).toEqual(nearly(frames.map((f) => ({ ...f, objects: f.objects.map(({ track: _track, ...o }) => o) }))));
      expect(readCocoAnnotations(writeCocoAnnotations(frames, 1920, 1080), 'c', { start, fps: 5 })).toEqual(
        nearly(frames, () => ({ score: 1 })),
      );
    }),
    { numRuns: 60 },
  );
});

test('MOT detections and ground truth in their published columns', () => {
  const setting = { camera: 'c', width: 100, height: 50, fps: 2, start };
  // det.txt: frame, -1, left, top, width, height, confidence, -1, -1, -1
  expect(readMot('2,-1,10,5,20,10,0.9,-1,-1,-1\n', setting)).toEqual([
    { at: start, camera: 'c', objects: [] },
    { at: start + 500, camera: 'c', objects: [{ class: 'person', score: 0.9, box: [0.1, 0.1, 0.2, 0.2] }] },
  ]);
  // gt.txt: frame, id, left, top, width, height, whether it counts, label, visibility; 3 is a car, 8 and lines that do not count are left out.
  expect(readMot('1,7,10,5,20,10,1,3,0.5\n1,8,10,5,20,10,0,1,1\n1,9,10,5,20,10,1,8,1', setting)[0]!.objects).toEqual([
    { class: 'vehicle', type: 'car', score: 1, box: [0.1, 0.1, 0.2, 0.2], track: '7' },
  ]);
});

test.each([
  [1, 'person', undefined],
  [2, 'vehicle', 'bicycle'],
  [3, 'vehicle', 'car'],
  [4, 'vehicle', 'motorcycle'],
  [6, 'vehicle', 'bus'],
  [8, 'vehicle', 'truck'],
  [16, 'other', undefined],
  [17, 'pet', 'cat'],
  [18, 'pet', 'dog'],
  [62, 'other', undefined],
] as const)('COCO category %d is %s %s', (id, cls, type) => {
  const [frame] = readCocoResults(
    `[{"image_id":42,"category_id":${id},"bbox":[258.15,41.29,348.26,243.78],"score":0.236}]`,
    [{ id: 42, width: 1000, height: 500, at: start }],
    'c',
  );
  expect(frame!.objects).toEqual([{ class: cls, ...(type && { type }), score: 0.236, box: close([0.25815, 0.08258, 0.34826, 0.48756]) }]);
});

test('rows of ymin, xmin, ymax, xmax', () => {
  expect(boxOfRow(0.1, 0.2, 0.4, 0.6)).toEqual(close([0.2, 0.1, 0.4, 0.3]));
});

const event = {
  id: undefined,
  at: start,
  kind: 'seen' as const,
  state: 'begins' as const,
  objects: [{ class: 'pet' as const, type: 'dog' as const, score: 0.7, box: [0, 0, 1, 1] as Box }],
};

test('a camera’s own event, plain and as a CloudEvent with its required attributes', () => {
  expect(readCameraEvent('{"at":"2026-06-01T12:00:00Z","kind":"seen","state":"begins","objects":[{"class":"dog","score":0.7}]}')).toEqual(
    event,
  );
  const wrapped = writeCloudEvent({ ...event, id: 'e1' }, '/cameras/porch');
  expect(JSON.parse(wrapped)).toMatchObject({
    specversion: '1.0',
    id: 'e1',
    source: '/cameras/porch',
    type: 'nibber.camera.seen',
    datacontenttype: 'application/json',
  });
  expect(readCameraEvent(wrapped)).toEqual({ ...event, id: '/cameras/porch e1' });
});

const bomb = '<!DOCTYPE b [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><b>&b;</b>';
const deepXml = '<a>'.repeat(40) + '</a>'.repeat(40);
const cloud = (change: object) => JSON.stringify({ ...JSON.parse(writeCloudEvent({ ...event, id: 'e' }, 's')), ...change });

test.each<[string, () => unknown, RegExp]>([
  ['entities', () => readOnvifMetadata(bomb, 'c'), /^line 1, column \d+ has a document type/],
  ['deep XML', () => readOnvifMetadata(deepXml, 'c'), /^line 1, column \d+ is more than 32 levels deep/],
  ['long XML', () => readOnvifMetadata(`<a>${'x'.repeat(5_000_000)}</a>`, 'c'), /is 5000007 characters long/],
  ['XML that is cut off', () => readOnvifMetadata(stream.slice(0, 900), 'c'), /^line \d+, column \d+ is not well formed/],
  ['an entity nobody declared', () => readOnvifMetadata('<a>&nbsp;</a>', 'c'), /^line 1, column \d+ is not well formed/],
  ['a frame without its time', () => readOnvifMetadata('<m><Frame/></m>', 'c'), /^line 1, column \d+ Frame has UtcTime ""/],
  [
    'a box that is no number',
    () => readOnvifMetadata(stream.replace('left="160.0"', 'left="left"'), 'c'),
    /^line 8, column \d+ BoundingBox has left "left"/,
  ],
  ['a likelihood of 80', () => readOnvifMetadata(stream.replace('>0.8<', '>80<'), 'c'), /has a likelihood of "80"/],
  ['a message without a topic', () => readOnvifEvents('<NotificationMessage/>'), /NotificationMessage has no Topic/],
  ['deep JSON', () => readJson('['.repeat(40) + ']'.repeat(40)), /^line 1, column 33 is more than 32 levels deep/],
  [
    'brackets inside text are no depth',
    () => {
      throw new Error(String(readJson(`"${'['.repeat(99)}"`)).slice(0, 3));
    },
    /^\[\[\[$/,
  ],
  ['JSON that is cut off', () => readCocoResults('[{"image_id":1,', [], 'c'), /is not JSON/],
  [
    'a result of an unknown picture',
    () => readCocoResults('[{"image_id":9,"category_id":1,"bbox":[0,0,1,1],"score":1}]', [], 'c'),
    /^0\/image_id is 9, which is not a picture here/,
  ],
  [
    'a box of three numbers',
    () => readCocoResults('[{"image_id":9,"category_id":1,"bbox":[0,0,1],"score":1}]', [{ id: 9, width: 1, height: 1, at: 0 }], 'c'),
    /^0\/bbox is \[0,0,1\]/,
  ],
  [
    'a MOT line of words',
    () => readMot('1,1,0,0,1,1\nhello', { camera: 'c', width: 1, height: 1, fps: 1, start: 0 }),
    /^line 2 is "hello"/,
  ],
  ['MOT frame 0', () => readMot('0,1,0,0,1,1', { camera: 'c', width: 1, height: 1, fps: 1, start: 0 }), /^line 1 has frame 0/],
  ['an event of no kind', () => readCameraEvent('{"at":"2026-06-01T12:00:00Z"}'), /kind is missing/],
  ['an event of no time', () => readCameraEvent('{"at":"noon","kind":"test"}'), /^at is "noon"/],
  ['another CloudEvents version', () => readCameraEvent(cloud({ specversion: '0.3' })), /^specversion is "0.3"/],
  ['a CloudEvent without its source', () => readCameraEvent(cloud({ source: undefined })), /^source is undefined/],
  ['a CloudEvent of another content', () => readCameraEvent(cloud({ datacontenttype: 'text/html' })), /^datacontenttype is "text\/html"/],
])('%s is refused with its place', (_name, act, words) => {
  expect(act).toThrow(words);
});

test('nothing but a refusal comes of anything', () => {
  const readers = [
    (t: string) => readOnvifMetadata(t, 'c'),
    readOnvifEvents,
    readCameraEvent,
    (t: string) => readCocoAnnotations(t, 'c', { start: 0, fps: 5 }),
    (t: string) => readMot(t, { camera: 'c', width: 9, height: 9, fps: 5, start: 0, frames: 1 }),
  ];
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.json(),
        fc.nat(stream.length).map((n) => stream.slice(0, n) + stream.slice(n + 7)),
      ),
      (text) => {
        for (const read of readers)
          try {
            read(text);
          } catch (thrown) {
            expect((thrown as { code?: string }).code).toBe('bad-input');
          }
      },
    ),
    { numRuns: 300 },
  );
});
