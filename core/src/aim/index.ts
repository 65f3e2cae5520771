// What a camera can see how far away: its one public face.

export { density, distanceFor, fieldDegrees, levelAt, levelNames, levels, plateRule, type Lens, type Level } from './density';
export {
  deadMetres,
  densityAt,
  densityIn,
  distanceOf,
  footprint,
  groundModel,
  metresHigh,
  onPlan,
  pixelsHigh,
  plateAt,
  reach,
  type Aim,
  type Ground,
  type GroundModel,
  type PlateView,
} from './ground';
export { bandsOf, groundSeen, type Band } from './bands';
export { calibrate, type Calibration, type GroundMark } from './calibrate';
