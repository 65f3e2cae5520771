// Saves something as a file on the user's device.

/** @param name as it is called there; the server says it if absent */
export function download(what: string | Blob, name = ''): void {
  const link = document.createElement('a');
  link.href = typeof what === 'string' ? what : URL.createObjectURL(what);
  link.download = name;
  link.click();
  // The browser reads it a moment later.
  if (typeof what !== 'string') setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
