// Texts of what shows pictures.

export const texts = {
  theStreamDoesNotStart: 'The stream does not start. Try again.',
  tapToMeasure: 'Tap to measure',
  resetZoom: 'Reset zoom',
} as const;
