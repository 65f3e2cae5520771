// Files of this device, chosen and sent with their progress.

import type { ServerProblem } from './types';

/** A file that someone chooses; undefined where no one did. */
export const pickFile = (accept: string) =>
  new Promise<File | undefined>((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.dataset.testid = 'file';
    input.style.display = 'none';
    const end = (file: File | undefined) => {
      input.remove();
      resolve(file);
    };
    input.onchange = () => end(input.files?.[0]);
    input.oncancel = () => end(undefined);
    document.body.append(input);
    input.click();
  });

export type Sending<T> = { readonly done: Promise<{ answer: T } | { problem: string } | { stopped: true }>; stop(): void };

/** @param tell called with the share that was sent, 0..1 */
export function sendFile<T>(url: string, file: File, progress: (share: number) => void): Sending<T> {
  // fetch says nothing of how much was sent.
  const request = new XMLHttpRequest();
  const done = new Promise<Awaited<Sending<T>['done']>>((resolve) => {
    request.upload.onprogress = (e) => e.lengthComputable && progress(e.loaded / e.total);
    request.onabort = () => resolve({ stopped: true });
    request.onerror = () => resolve({ problem: `${file.name} could not be sent. Check the connection, and try again.` });
    request.onload = () => {
      try {
        const said = JSON.parse(request.responseText) as T & { error?: ServerProblem };
        resolve(said.error ? { problem: `${said.error.message} ${said.error.hint}` } : { answer: said });
      } catch {
        resolve({ problem: `The server could not accept ${file.name}. Try again.` });
      }
    };
  });
  request.open('POST', url);
  request.setRequestHeader('content-type', file.type || 'application/octet-stream');
  request.send(file);
  return { done, stop: () => request.abort() };
}
