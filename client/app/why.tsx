import { lazy, Suspense } from 'react';
import { Waiting } from '../ui/Surface';

const Why = lazy(() => import('../features/why/Why').then((m) => ({ default: m.Why })));

export default function WhyRoute() {
  return (
    <Suspense fallback={<Waiting words="Opening" />}>
      <Why />
    </Suspense>
  );
}
