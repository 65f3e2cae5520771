// A question about past events in plain words, answered from the record alone.

import { answerOf, answerOfReadings, queryWithin, understand, type AskedSite, type Query } from '@nibber/core/asking';
import { searchPrompt, searchQuestion, queryIn, answerPrompt, answerQuestion, type FoundLine } from '@nibber/core/describing';
import { valueWords } from '@nibber/core/readings';
import { siteSeen, type PersonAccess } from '@nibber/core/people';
import { Problem } from '@nibber/core/problem';
import { inTurn } from '../../base/in-turn';
import type { Visitor } from '../../db/access';
import type { FoundAsked } from '../../db/found';
import type { SiteBook } from '../../db/site';
import { eventItems, listItem, trackItems } from '../events/answer';
import { seenPart } from '../events/sieve';
import { route, type Route } from '../route';
import { count, either, list, maybeNumber, maybeText, named, object, oneOf, orNull, text, typed } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';

const ids = { type: 'array', maxItems: 64, items: typed(40) } as const;
const query = named(
  'Query',
  object(
    {
      wanted: oneOf('last', 'first', 'count', 'whether', 'which'),
      kinds: ids,
      cameras: ids,
      areas: ids,
      rules: ids,
      sensors: ids,
      readings: ids,
      /** Null: from the beginning, or until now. */
      span: orNull(object({ from: maybeNumber, to: maybeNumber, words: typed(120) })),
      words: { type: 'array', maxItems: 24, items: typed(60) } as const,
    },
    ['readings'],
  ),
);
const answer = named(
  'RecordAnswer',
  object({
    query,
    answer: text,
    count,
    since: maybeNumber,
    cameras: list(text),
    items: list(listItem),
    /** Where readings were asked for: what they said, with their pictures. */
    readings: list(object({ id: text, reading: text, name: text, at: instant, says: text, picture: maybeText })),
    /** The service that read the question, or was asked to; its sentence about what was found; and why it gave none, where it did not. */
    by: maybeText,
    sentence: maybeText,
    why: maybeText,
  }),
);
const maxMoments = 30;
const anything: FoundAsked = { kinds: [], cameras: [], areas: [], rules: [], sensors: [], words: [], from: null, to: null };

/** So many questions of one person wait for the one that is being answered. */
const maxWaiting = 4;
const noneThere = 'No such name, or you have no access to it.';
const nothingFound = { count: 0, since: null, items: [], readings: [] };

const placeOf = ({ file }: SiteBook, visible: PersonAccess): AskedSite => {
  const { site, areas, cameras, rules = [], sensors = [] } = siteSeen(file, visible);
  const readings = (file.readings ?? []).filter((r) => visible.camera(r.camera));
  return { zone: site.timezone, areas, cameras, rules, sensors, readings };
};

/** How long a service is waited for, of each of its two answers; without them the record answers by itself. */
const patienceMs = 8000;
const words = { event: null, camera: '', why: 'A question about past events', pictures: [] } as const;

export function askRoutes(services: Pick<Services, 'record' | 'clock' | 'site' | 'aiServices'>): Route[] {
  const { record, clock, site, aiServices } = services;
  const turns = inTurn();
  /** One question of a person after the other, so that no one's questions keep the others waiting. @throws Problem 'too-many-tries' */
  function oneAtATime<T>({ person, session }: Visitor, work: () => Promise<T>): Promise<T> {
    const who = person ?? session;
    if (turns.waiting(who) > maxWaiting)
      throw new Problem('too-many-tries', 'Your earlier questions are still being answered.', 'Wait for them, then ask again.');
    return turns.add(who, work);
  }
  const nameOf = (id: string | null) => site.file.ai?.services?.find((s) => s.id === id)?.name ?? id;

  /** By a service where one is set up for it; else, and where it fails, by what is understood here. */
  async function understood(question: string, place: AskedSite, now: number, before: Query | undefined) {
    const own = understand(question, place, now, before);
    // What is a reading here no one else can know.
    if (own.readings || aiServices.services('asking').length === 0) return { query: own, by: null, why: null };
    const prompt = searchPrompt(place);
    const said = await aiServices.ask('asking', {
      prompt,
      words: searchQuestion(question, place, now, before),
      pictures: [],
      of: words,
      maxMs: patienceMs,
    });
    const query = said.ok ? queryIn(said.fields, place) : undefined;
    const why = said.ok ? 'It gave nothing to look for.' : said.why;
    return { query: query ?? own, by: nameOf(said.service), why: query ? null : why };
  }

  /** What was read off pictures, of the readings that may be seen. */
  async function ofReadings(asked: Query, place: AskedSite, now: number) {
    const all = (site.file.readings ?? []).filter((r) => asked.readings?.includes(r.id) && place.readings?.some((p) => p.id === r.id));
    const cameras = place.cameras.filter((c) => all.some((r) => r.camera === c.id)).map((c) => c.name);
    const within = { readings: all.map((r) => r.id), words: asked.words, from: asked.span?.from ?? null, to: asked.span?.to ?? null };
    const found = all.length
      ? await record.longReads.found.readings(within, asked.wanted === 'first' ? 'oldest' : 'newest', maxMoments)
      : { count: 0, ids: [], min: null, max: null };
    const rows = await record.readings.some(found.ids);
    const held = await record.media.of(
      'reading',
      rows.filter((r) => r.hasPicture).map((r) => r.id),
    );
    const readings = rows.map((row) => {
      const { name, unit } = all.find((r) => r.id === row.reading)!;
      const file = held.get(row.id)?.picture;
      return {
        id: row.id,
        reading: row.reading,
        name,
        at: row.at,
        says: valueWords((row.corrected ?? row.value)!, unit),
        picture: file ? `/pictures/${file.name}` : null,
      };
    });
    const unit = all[0]?.unit;
    const range = found.min !== null && found.max !== null ? ([valueWords(found.min), valueWords(found.max, unit)] as const) : null;
    const [shown] = readings;
    const answer = answerOfReadings(
      asked,
      { count: found.count, shown: shown ? { ...shown, words: shown.says } : null, range },
      place,
      now,
    );
    return { answer, count: found.count, since: null, cameras, items: [], readings };
  }

  async function sentenceBy(question: string, answer: string, lines: readonly FoundLine[], zone: string): Promise<string | null> {
    const said = await aiServices.ask('asking', {
      prompt: answerPrompt,
      words: answerQuestion(question, answer, lines, zone),
      pictures: [],
      of: words,
      maxMs: patienceMs,
    });
    return said.ok ? said.sentence : null;
  }

  return [
    route({
      method: 'post',
      path: '/api/ask',
      may: 'look',
      summary:
        'Ask about past events: the interpretation, the answer and the events it is based on. `before` is the previous question as interpreted; `query` instead of `question` asks a corrected one',
      body: either(object({ question: typed(300), before: query }, ['before']), object({ query })),
      answer,
      handle: ({ body, visitor }) =>
        oneAtATime(visitor, async () => {
          const place = placeOf(site, visitor.visible);
          const now = clock.now();
          const read =
            'query' in body
              ? { query: body.query as Query, by: null, why: null }
              : await understood(body.question, place, now, body.before as Query | undefined);
          const { query: asked, isThere } = queryWithin(read.query, place);
          if (!isThere)
            return { query: asked, answer: noneThere, ...nothingFound, cameras: [], by: read.by, sentence: null, why: read.why };
          if (asked.readings?.length)
            return { query: asked, ...(await ofReadings(asked, place, now)), by: read.by, sentence: null, why: read.why };
          const seen = seenPart(site, visitor.visible);
          // An area is all that its cameras see, and what happened in it without one.
          const inAreas = site.file.cameras.filter((c) => asked.areas.includes(c.area)).map((c) => c.id);
          const cameras = [...new Set([...asked.cameras, ...inAreas])];
          const { span, ...rest } = asked;
          const within = { ...rest, cameras, from: span?.from ?? null, to: span?.to ?? null };
          const found = await record.longReads.found.search(within, asked.wanted === 'first' ? 'oldest' : 'newest', maxMoments, seen);
          const counted = async (part: Partial<FoundAsked>) =>
            (await record.longReads.found.search({ ...within, ...part }, 'newest', 0, seen)).count;
          const isNone = found.count === 0;
          const isKindKnown = !isNone || asked.kinds.length === 0 || (await counted({ ...anything, kinds: asked.kinds })) > 0;
          const others =
            isNone && asked.words.length > 0
              ? { seen: await counted({ words: [] }), described: await counted({ words: [], isDescribed: true }) }
              : undefined;
          const since = await record.longReads.found.since(cameras, seen);
          const [passed, quiet] = await Promise.all([
            // What comes back is asked about once more: an index that is wrong shows no one what is not theirs.
            record.events
              .some(found.events.flatMap((m) => m.event ?? []))
              .then((rows) => eventItems(services, rows.filter(visitor.visible.happened))),
            record.tracks.some(found.events.flatMap((m) => (m.event === null ? m.id : []))).then((rows) =>
              trackItems(
                services,
                rows.filter((t) => visitor.visible.camera(t.camera)),
              ),
            ),
          ]);
          const byId = new Map([...passed, ...quiet].map((item) => [item.id, item]));
          // In their order; what was deleted meanwhile is left out.
          const items = found.events.flatMap((m) => byId.get(m.event ?? m.id) ?? []);
          const answer = answerOf(asked, { ...found, lookingSince: since, isKindKnown, ...(others ? { others } : {}) }, place, now);
          const cameraName = (id: string | null) => place.cameras.find((c) => c.id === id)?.name ?? '';
          const lines = items.map((i): FoundLine => ({
            at: i.at,
            camera: cameraName(i.camera),
            what: i.type ?? i.class ?? i.kind,
            description: 'description' in i ? i.description : null,
          }));
          const isAnswered = 'question' in body && read.by !== null && read.why === null && lines.length > 0;
          const sentence = isAnswered ? await sentenceBy(body.question, answer, lines, place.zone) : null;
          return {
            query: asked,
            answer,
            count: found.count,
            since,
            cameras: place.cameras.filter((c) => cameras.length === 0 || cameras.includes(c.id)).map((c) => c.name),
            items,
            readings: [],
            by: read.by,
            sentence,
            why: read.why,
          };
        }),
    }),
  ];
}
