// Saves the picture that is shown, with the camera's name and the time on it.

import { download } from '../../ui/download';

/** @param what a picture or a video that is drawn now */
export async function takePicture(what: HTMLVideoElement | HTMLImageElement, name: string): Promise<void> {
  const [width, height] = what instanceof HTMLVideoElement ? [what.videoWidth, what.videoHeight] : [what.naturalWidth, what.naturalHeight];
  if (!width || !height) return;
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext('2d')!;
  context.drawImage(what, 0, 0);
  const at = new Date();
  const words = `${name}  ${at.toLocaleString()}`;
  const size = Math.max(12, Math.round(height / 32));
  context.font = `${size}px sans-serif`;
  const wide = context.measureText(words).width;
  context.fillStyle = 'rgba(0, 0, 0, 0.55)';
  context.fillRect(0, height - size * 1.8, wide + size * 1.6, size * 1.8);
  context.fillStyle = '#FFFDF7';
  context.fillText(words, size * 0.8, height - size * 0.6);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.92));
  if (!blob) return;
  download(blob, `${name} ${at.toISOString().slice(0, 19).replace(/[:T]/g, '-')}.jpg`);
}

/** The newest picture that the server has of a camera. */
export async function takeNewest(camera: string, name: string): Promise<void> {
  const picture = new Image();
  picture.src = `/api/cameras/${camera}/picture.jpg?at=${Date.now()}`;
  await picture.decode();
  await takePicture(picture, name);
}
