// For a process supervisor, and for whoever wonders.

import type { Parts } from './parts';
import { route, type Route } from './route';

export const healthRoutes = (parts: Parts): Route[] => [
  route('get', '/health', 'anyone', async ({ response }) => {
    const writable = await parts.record.isWritable();
    const cameras = parts.site.file.cameras.map((c) => parts.cameraHealth(c.id)?.state ?? 'connecting');
    const takesFrames = cameras.length === 0 || cameras.includes('running');
    const { stations } = parts.troubles();
    const isWell = writable && takesFrames && stations.length === 0;
    response.status(isWell ? 200 : 503);
    // Anybody may ask: how much is wrong is said, what it is stays inside.
    return { ok: isWell, writable, takesFrames, troubles: stations.length };
  }),
  route('get', '/api/health', 'signed-in', async () => ({
    now: parts.clock.now(),
    troubles: [...parts.troubles().stations, ...parts.troubles().people],
    cameras: parts.site.file.cameras.map((c) => ({ id: c.id, name: c.name, health: parts.cameraHealth(c.id) ?? null })),
  })),
  route('get', '/api/live', 'signed-in', async ({ request, response }) => parts.live.join(request, response)),
];
