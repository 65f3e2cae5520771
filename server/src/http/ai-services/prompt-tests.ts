// Wordings of what a rule asks, tried on stored moments with several services, cell by cell.

import { randomUUID } from 'node:crypto';
import { answerHolds, checkOfLine, checksOfLines } from '@nibber/core/expected';
import { promptSchema, type Prompt } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { route, type Route } from '../route';
import { either, list, maybeNumber, maybeText, named, number, object, orNull, text, yesNo } from '../schema';
import type { Services } from '../services';

const line = { type: 'string', minLength: 1, maxLength: 200 } as const;
const example = object({ event: text, checks: { type: 'array', maxItems: 12, items: line } });
const cell = object({
  promptVersion: text,
  event: text,
  service: text,
  at: number,
  line: maybeText,
  fields: { type: 'object', additionalProperties: either(text, number, yesNo) } as const,
  problems: list(text),
  why: maybeText,
  seconds: number,
  cost: maybeNumber,
  /** What was sent for it. */
  pictures: list(text),
  /** What the try before said, where that was something else. */
  before: maybeText,
  /** Of each check of its moment, whether the answer holds it. */
  holds: list(yesNo),
});
const promptTests = named(
  'PromptTests',
  object({
    examples: list(object({ event: text, at: number, cameraName: maybeText, picture: maybeText, checks: list(text) })),
    promptVersions: list(object({ id: text, at: number, by: text, prompt: promptSchema })),
    results: list(cell),
    services: list(object({ id: text, name: text, currency: maybeText })),
    running: orNull(object({ done: number, of: number })),
  }),
);
const maxPromptVersions = 8;
const maxExamples = 20;

type Used = Pick<Services, 'record' | 'site' | 'clock' | 'aiServices' | 'promptTests'>;

export function promptTestRoutes({ record, site, clock, aiServices, promptTests: station }: Used): Route[] {
  const find = (id: string) => {
    const found = site.file.rules?.find((r) => r.id === id);
    if (!found) throw new Problem('not-found', `Rule ${id} not found.`, 'Reload the page.');
    return found;
  };
  const answer = async (rule: string) => {
    const [examples, promptVersions] = await Promise.all([record.promptTests.examples(rule), record.promptTests.promptVersions(rule)]);
    const ids = examples.map((e) => e.event);
    const [events, held, results] = await Promise.all([
      record.events.some(ids),
      record.media.of('event', ids),
      record.promptTests.results(promptVersions.map((w) => w.id)),
    ]);
    const checksOf = (event: string) => examples.find((e) => e.event === event)?.checks ?? [];
    return {
      examples: examples.flatMap(({ event: id, checks }) => {
        const event = events.find((e) => e.id === id);
        const picture = held.get(id)?.crop ?? held.get(id)?.picture;
        return event
          ? [
              {
                event: id,
                at: event.at,
                cameraName: event.camera && (site.compiled.cameras.get(event.camera)?.name ?? event.camera),
                picture: picture ? `/pictures/${picture.name}` : null,
                checks: [...checks],
              },
            ]
          : [];
      }),
      promptVersions: promptVersions.map(({ id, at, by, prompt }) => ({ id, at, by, prompt })),
      results: results
        .filter((r) => ids.includes(r.event))
        .map((r) => {
          const own = new Set(Object.values(held.get(r.event) ?? {}).map((f) => f?.name));
          const holds = checksOf(r.event).map((l) => answerHolds(checkOfLine(l)!, r.line, r.fields));
          return {
            ...r,
            problems: [...r.problems],
            before: r.before !== null && r.before !== r.line ? r.before : null,
            pictures: r.pictures.filter((p) => own.has(p)).map((p) => `/pictures/${p}`),
            holds,
          };
        }),
      services: aiServices.services('descriptions').map((s) => ({ id: s.id, name: s.name, currency: s.price?.currency ?? null })),
      running: station.running(rule),
    };
  };

  return [
    route({
      method: 'get',
      path: '/api/rules/:rule/prompt-tests',
      may: 'set up',
      summary: 'Prompts of a rule, the events they are tested on, and the results by service',
      answer: promptTests,
      handle: ({ params }) => answer(find(params.rule).id),
    }),
    route({
      method: 'put',
      path: '/api/rules/:rule/prompt-tests/examples',
      may: 'set up',
      summary: 'Set the events that prompts are tested on, with checks for a good answer',
      body: object({ examples: { type: 'array', maxItems: maxExamples, items: example } }),
      answer: promptTests,
      async handle({ params, body }) {
        const rule = find(params.rule).id;
        const there = new Set((await record.events.some(body.examples.map((e) => e.event))).map((e) => e.id));
        const gone = body.examples.find((e) => !there.has(e.event));
        if (gone) throw new Problem('not-found', 'One of the events is no longer stored.', 'Remove it and save again.');
        for (const { checks } of body.examples) {
          const { wrong } = checksOfLines(checks.join('\n'));
          if (wrong) throw new Problem('bad-input', `This is not a valid check: ${wrong}.`, 'Correct it and save again.');
        }
        const unique = [...new Map(body.examples.map((e) => [e.event, e])).values()];
        await record.promptTests.setExamples(
          rule,
          unique.map((e, place) => ({ event: e.event, place, checks: [...e.checks] })),
        );
        return answer(rule);
      },
    }),
    route({
      method: 'post',
      path: '/api/rules/:rule/prompt-tests',
      may: 'set up',
      summary: 'Test prompts on all events with these services; those given by id are tested again',
      body: object({
        promptVersions: {
          type: 'array',
          minItems: 1,
          maxItems: maxPromptVersions,
          items: object({ id: text, prompt: promptSchema }, ['id']),
        },
        services: { type: 'array', minItems: 1, maxItems: 24, uniqueItems: true, items: text },
      }),
      answer: promptTests,
      async handle({ params, body, visitor }) {
        const rule = find(params.rule).id;
        const examples = await record.promptTests.examples(rule);
        if (examples.length === 0) throw new Problem('bad-input', 'There are no events to test on.', 'Choose at least one.');
        const services = body.services.map((id) => {
          const found = aiServices.services('descriptions').find((s) => s.id === id);
          if (!found) throw new Problem('not-found', `AI service ${id} not found.`, 'Reload the page.');
          return found;
        });
        if (station.running(rule)) throw new Problem('conflict', 'A test is already running.', 'Wait until it finishes, or stop it.');
        const known = await record.promptTests.promptVersions(rule);
        const promptVersions: { id: string; prompt: Prompt }[] = [];
        for (const { prompt } of body.promptVersions) {
          // The same text is the same prompt, even if it was typed again.
          const before = known.find((k) => JSON.stringify(k.prompt) === JSON.stringify(prompt));
          const id = before?.id ?? randomUUID();
          if (!before) await record.promptTests.addPromptVersion({ id, rule, at: clock.now(), by: visitor.name, prompt });
          promptVersions.push({ id, prompt });
        }
        const cells = examples.flatMap((e) =>
          promptVersions.flatMap(({ id, prompt }) => services.map((service) => ({ promptVersion: id, prompt, event: e.event, service }))),
        );
        station.start(rule, cells);
        return answer(rule);
      },
    }),
    route({
      method: 'post',
      path: '/api/rules/:rule/prompt-tests/stop',
      may: 'set up',
      summary: 'Stop the test after the requests in progress',
      answer: promptTests,
      async handle({ params }) {
        const rule = find(params.rule).id;
        station.stop(rule);
        return answer(rule);
      },
    }),
    route({
      method: 'delete',
      path: '/api/rules/:rule/prompt-tests/:prompt',
      may: 'set up',
      summary: 'Delete a prompt and its results',
      answer: promptTests,
      async handle({ params }) {
        const rule = find(params.rule).id;
        const own = (await record.promptTests.promptVersions(rule)).find((w) => w.id === params.prompt);
        if (!own) throw new Problem('not-found', 'Prompt not found.', 'Reload the page.');
        await record.promptTests.deletePrompt(own.id);
        return answer(rule);
      },
    }),
  ];
}
