// The keyboard over the picture: arrows move the chosen point, Backspace removes it, Control and Z undoes.

import { useEffect, useRef } from 'react';
import type { Point } from '@nibber/core/boxes';
import { moved } from './edits';

type Keys = {
  readonly point: number | null;
  readonly points: readonly Point[];
  readonly apply: (points: readonly Point[]) => void;
  readonly remove: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
};

const nudge = 0.005;

export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const arrows: Record<string, Point> = { ArrowLeft: [-nudge, 0], ArrowRight: [nudge, 0], ArrowUp: [0, -nudge], ArrowDown: [0, nudge] };
    const onKey = (event: KeyboardEvent) => {
      const { point, points, apply, remove, undo, redo } = latest.current;
      if ((event.target as HTMLElement).closest('input, textarea')) return;
      const arrow = arrows[event.key];
      if (arrow && point !== null) apply(moved(points, point, ...arrow));
      else if (event.key === 'Backspace' || event.key === 'Delete') remove();
      else if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey)) (event.shiftKey ? redo : undo)();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}
