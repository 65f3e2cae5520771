// Pictures judged under settings, a few at a time, the newest first: dragging a slider never waits for it.

import { useEffect, useRef, useState } from 'react';
import { judgeRecentFrames, type JudgedFrame, type Tuning } from '@nibber/core/tuning';
import type { NumberedPicture } from './useRecentFrames';

const sliceMs = 8;

type Judged = { readonly for: string; readonly frames: ReadonlyMap<number, JudgedFrame> };
const none: Judged = { for: '', frames: new Map() };

/** @returns by the number of a picture; until other settings are through, those judged under them and, for the rest, what was there before */
export function useJudgedFrames(pictures: readonly NumberedPicture[], tuning: Tuning): ReadonlyMap<number, JudgedFrame> {
  const { threshold, smallestPart, contrast } = tuning;
  const settings = `${threshold} ${smallestPart} ${contrast}`;
  const done = useRef<Judged>(none);
  const [shown, setShown] = useState<ReadonlyMap<number, JudgedFrame>>(none.frames);
  useEffect(() => {
    const before = done.current.for === settings ? done.current.frames : none.frames;
    const frames = new Map<number, JudgedFrame>();
    const toDo: NumberedPicture[] = [];
    for (const p of pictures) {
      const known = before.get(p.number);
      if (known) frames.set(p.number, known);
      else toDo.push(p);
    }
    done.current = { for: settings, frames };
    let timer: ReturnType<typeof setTimeout>;
    const slice = () => {
      const end = performance.now() + sliceMs;
      while (toDo.length > 0 && performance.now() < end) {
        const picture = toDo.pop()!;
        frames.set(picture.number, {
          at: picture.at,
          ...judgeRecentFrames(picture, { threshold, smallestPart, contrast, confidence: 0 }),
        });
      }
      setShown((last) => new Map([...pictures.flatMap((p) => entryOf(p.number, frames.get(p.number) ?? last.get(p.number)))]));
      if (toDo.length > 0) timer = setTimeout(slice, 0);
    };
    timer = setTimeout(slice, 0);
    return () => clearTimeout(timer);
  }, [pictures, settings, threshold, smallestPart, contrast]);
  return shown;
}

const entryOf = (number: number, frame: JudgedFrame | undefined): [number, JudgedFrame][] => (frame ? [[number, frame]] : []);
