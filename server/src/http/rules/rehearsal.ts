// What a rule would have done in the last seven days, streamed while it is calculated: one JSON object per line.

import type { ChangedItem, RehearsalLine, RehearsalResult } from '@nibber/core/rehearsal';
import { checkSite } from '@nibber/core/check';
import type { SiteFile } from '@nibber/core/site';
import { instantsAt, wallTime } from '@nibber/core/time';
import { problemLine, Problem } from '@nibber/core/problem';
import type { TrackRow } from '../../db';
import type { Changed } from '../../rehearsal/rehearsal';
import { namesOf } from '../events/answer';
import { route, type Route } from '../route';
import type { Services } from '../services';
import { rule as ruleShape } from '../shapes';

/** The day at hand is one of them. */
const days = 7;
const betweenWordsMs = 100;

export const rehearsalRoutes = ({
  site,
  record,
  clock,
  rehearsals,
}: Pick<Services, 'site' | 'record' | 'clock' | 'rehearsals'>): Route[] => [
  route({
    method: 'post',
    path: '/api/rules/:rule/rehearsal',
    may: 'set up',
    summary:
      'What the sent rule would have done in the last seven days, compared with the current rule: one JSON object per line, while it is calculated',
    body: ruleShape,
    answer: { bytes: 'application/x-ndjson' },
    async handle({ response, params: { rule: id }, body }) {
      const { file } = site;
      const zone = file.site.timezone;
      const [before, after] = [file.rules?.filter((r) => r.id === id) ?? [], [{ ...body, id, on: true }]];
      const checked = checkSite({ ...file, rules: after });
      if (!checked.ok)
        throw new Problem(
          'bad-input',
          `The rule cannot be tested. ${checked.problems.map(problemLine).join(' · ')}`,
          'Complete it first.',
          checked.problems,
        );
      const to = clock.now();
      const from = instantsAt(zone, wallTime(zone, to).day - (days - 1), 0)[0]!;
      const cameras = [...new Set([...before, ...after].flatMap((r) => r.cameras))];
      const gone = new AbortController();
      response.on('close', () => gone.abort(new Error('The request was closed.')));
      response.status(200).set('content-type', 'application/x-ndjson');
      const line = (of: RehearsalLine) => void (response.writableEnded || response.write(`${JSON.stringify(of)}\n`));
      let result: RehearsalResult<Changed> | undefined;
      let saidAt = -Infinity;
      const asked = { before: { ...file, rules: before }, after: { ...file, rules: after } as SiteFile, cameras, from, to };
      try {
        await rehearsals.week(
          asked,
          (said) => {
            if (said.kind === 'done') result = said.result;
            if (said.kind !== 'reading' && said.kind !== 'judging') return;
            if (Date.now() - saidAt < betweenWordsMs) return;
            saidAt = Date.now();
            const { number: _number, ...rest } = said;
            line(rest);
          },
          gone.signal,
        );
        const { gained, lost, ...rest } = result!;
        line({
          kind: 'done',
          ...rest,
          gained: await itemsOf({ site, record }, id, gained),
          lost: await itemsOf({ site, record }, id, lost),
        });
      } catch (thrown) {
        if (!gone.signal.aborted) line({ kind: 'failed', message: (thrown as Error).message });
      }
      response.end();
    },
  }),
];

/** With what is kept of each: its event's picture, or that of its track. */
async function itemsOf({ site, record }: Pick<Services, 'site' | 'record'>, rule: string, all: readonly Changed[]): Promise<ChangedItem[]> {
  const names = namesOf({ site });
  const tracks = new Map<string, Pick<TrackRow, 'id' | 'firstSeen' | 'pictureBox'>>();
  for (const camera of new Set(all.map((c) => c.camera))) {
    const instants = all.flatMap((c) => (c.camera === camera && c.since !== null ? [c.since] : []));
    for (const t of await record.tracks.begunAt(camera, instants)) tracks.set(`${camera} ${t.firstSeen}`, t);
  }
  const ids = [...tracks.values()].map((t) => t.id);
  const events = await record.events.ofRuleOrTracks(
    rule,
    all.map((c) => c.at),
    ids,
  );
  const [ofEvents, ofTracks] = [
    await record.media.of(
      'event',
      events.map((e) => e.id),
    ),
    await record.media.of('track', ids),
  ];
  return all.map(({ at, camera, since, why }) => {
    const track = tracks.get(`${camera} ${since}`);
    const own = events.find((e) => e.rule === rule && e.camera === camera && e.at === at);
    const event = own ?? events.find((e) => track !== undefined && e.track === track.id);
    const held = event ? ofEvents.get(event.id) : track && ofTracks.get(track.id);
    return {
      at,
      cameraName: names.camera(camera) ?? '',
      why,
      event: event?.id ?? track?.id ?? null,
      picture: held?.picture ? `/pictures/${held.picture.name}` : null,
      box: (event ? event.pictureBox : track?.pictureBox) ?? null,
    };
  });
}
