// Hours: plans of a week that are on at some times and off at others, in the wall time of a place.

export { clockDays, type ClockDay } from './clock-days';
export { endText, parseEnd, type End } from './ends';
export {
  isOn,
  isOnAt,
  makePlan,
  minuteOf,
  minutesAWeek,
  minutesOf,
  nextChange,
  planWords,
  weekOf,
  type Plan,
  type SiteLocation,
  type PlanText,
} from './plan';
export { parseSpan, spanText, weekdayKeys, type Span, type WeekdayKey } from './spans';
export {
  copied,
  dayText,
  minutesOfWeek,
  painted,
  parseDay,
  piecesOf,
  templates,
  textOfWeek,
  weekOfText,
  type Piece,
  type Stroke,
  type Week,
} from './week';
export { usersOf } from './uses';
