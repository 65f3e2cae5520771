// Whether something is in sight, or scrolled out of it.

import { useEffect, useRef } from 'react';
import type { View } from 'react-native';

/** Where a browser cannot say it, everything is in sight. `isInView` changes without a redraw. */
export function useInView() {
  const ref = useRef<View>(null);
  const isInView = useRef(true);
  useEffect(() => {
    const element = ref.current as unknown as Element | null;
    if (!element || typeof IntersectionObserver === 'undefined') return;
    const observer = new IntersectionObserver((seen) => (isInView.current = seen.at(-1)!.isIntersecting));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, isInView };
}
