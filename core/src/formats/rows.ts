// Rows of detectors that say ymin, xmin, ymax, xmax, each 0..1.

import type { Box } from '../boxes';

export const boxOfRow = (yMin: number, xMin: number, yMax: number, xMax: number): Box => [xMin, yMin, xMax - xMin, yMax - yMin];
