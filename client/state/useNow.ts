// The time at the site, updated every few seconds.

import { useEffect, useState } from 'react';
import { useAppSelector } from './store';

const everyMs = 5000;

export function useNow(): number {
  const ahead = useAppSelector((s) => s.live.clockAheadMs);
  const [own, setOwn] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setOwn(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, []);
  return own + ahead;
}
