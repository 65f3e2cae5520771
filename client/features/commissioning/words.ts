// What is written on the screens of this feature.

export const texts = {
  setUp: 'Set-up',
  readyAllStepsDone: 'Ready: all steps done',
  setUpOfStepsLeft: (open: string | number, count: string | number) => `Set-up: ${open} of ${count} steps left`,
  needsFixing: 'needs fixing',
  nothingToDo: 'nothing to do',
  noCameraYet: 'No camera yet.',
  connectTheFirstOne: 'Connect the first one.',
  allCamerasAreSetUp: 'All cameras are set up.',
  ofCamerasReady: (finished: string | number, count: string | number) => `${finished} of ${count} cameras ready.`,
  inService: 'in service',
  camera: 'Camera',
  next: 'Next',
  allStepsDone: 'All steps done.',
  camerasToFinish: 'Cameras to finish',
  left: (count: string | number) => `${count} left`,
} as const;
