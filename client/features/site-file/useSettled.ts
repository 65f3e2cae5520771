// A value once it has not changed for a moment.

import { useEffect, useState } from 'react';

const restMs = 350;

export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), restMs);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
