// AI services as they are answered.

import { aiServiceSchema, aiUses, type AiUse } from '@nibber/core/site';
import { trialParts } from '../../ai-services/trial';
import { count, list, maybeNumber, maybeText, named, number, object, oneOf, orNull, text, yesNo } from '../schema';
import { version } from '../shapes';

/** Of the last day: how many questions went out, how many came to nothing, and how long it took, in seconds. */
const recentFrames = object({ sent: count, failed: count, medianSeconds: maybeNumber, worstSeconds: maybeNumber });
const spent = { answers: count, failed: count, cost: number };
const answer = object({ id: count, at: number, outcome: oneOf('waiting', 'answered', 'failed'), said: maybeText, seconds: maybeNumber });
const service = named(
  'AiServiceState',
  object({
    service: aiServiceSchema,
    /** Named where the program is started: it is changed there. */
    isNamedAtStart: yesNo,
    hasKey: yesNo,
    /** Why it is not asked now. */
    resting: maybeText,
    recentFrames,
    today: object(spent),
    /** The newest last; `day` is the instant at which it began. */
    days: list(object({ day: number, ...spent })),
    last: list(answer),
  }),
);
export const state = named(
  'Ai',
  object({
    services: list(service),
    /** By use, who is asked, the first of them first. */
    order: object(Object.fromEntries(aiUses.map((u) => [u, list(text)])) as Record<AiUse, { type: 'array'; items: typeof text }>),
    waiting: count,
    problem: maybeText,
    canMakeClips: yesNo,
    version,
  }),
);
export const trial = named(
  'AiTrial',
  object({ parts: list(object({ part: oneOf(...trialParts), holds: orNull(yesNo), said: text })), seconds: number, cost: maybeNumber }),
);
export const sentPicture = named(
  'SentPicture',
  object({
    id: count,
    at: number,
    event: maybeText,
    camera: text,
    cameraName: text,
    service: text,
    model: text,
    use: oneOf(...aiUses),
    why: text,
    pictures: list(text),
    isStored: yesNo,
    seconds: maybeNumber,
    cost: maybeNumber,
    currency: maybeText,
    outcome: oneOf('waiting', 'answered', 'failed'),
    said: maybeText,
  }),
);
