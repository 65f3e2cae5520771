// Modes of areas: how they are armed, what switches them, what is on in them.

export { effectiveMode, startArea, stepArea, type AreaInput, type AreaOutcome, type AreaSettings, type AreaState, type Pin } from './area';
export { makeSwitchPlan, nextSwitch, parseSwitch, type PlannedSwitch, type Switch, type SwitchPlan } from './mode-schedules';
export { modeSwitchesOf, switchTime, weeklyOf, type ModeSwitch } from './mode-switches';
export { modesOfWeek, rulesByModes, warningsOf, type Table, type Warning } from './table';
