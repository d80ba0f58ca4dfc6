import '../data/taught';
import {
  readEdge,
  type EdgeExpected,
  type EdgePhoto,
  type PhotoRefused,
  type PhotoTrouble,
  type Picture,
  type PrintScale,
} from '@tally-stone/core';
import { imageSize } from 'image-size';
import { findMarkers } from './find-markers';

/** One picture of an end on the mat, and what is known before it is looked at. */
export interface PhotoQuestion {
  readonly file: Blob;
  readonly expected: EdgeExpected;
  readonly mats: readonly (PrintScale & { readonly matNumber: number })[];
}

/** What a file itself can have wrong with it, before any picture is seen. */
export type FileTrouble = 'no-picture' | 'not-this-kind' | 'too-big' | 'too-many-pixels';

export type PhotoAnswer =
  { readonly share: number } | { readonly refused: FileTrouble } | SeenPhoto;

/** A picture that was looked at, and what was found on it. */
export interface SeenPhoto {
  /** The picture, smaller, to be looked at and kept; `shrunk` is its size over the camera's. */
  readonly shown: ImageBitmap;
  readonly kept: Blob;
  readonly shrunk: number;
  readonly found: EdgePhoto | (PhotoRefused & { readonly refused: PhotoTrouble });
}

const MOST_BYTES = 40 * 2 ** 20;
const MOST_PIXELS = 50_000_000;
/** What is shown and kept: the server keeps no more. */
const KEPT_SIDE_PX = 2000;
const KEPT_QUALITY = 0.85;
/** Kinds that every browser opens. */
const OPENED = ['jpg', 'png', 'webp'];

/** What is wrong with a file, told from its first bytes, before a hundred million pixels are unpacked. */
async function troubleOf(file: Blob): Promise<FileTrouble | undefined> {
  if (file.size > MOST_BYTES) return 'too-big';
  // HEIC and its kin begin so (ISO/IEC 14496-12; from memory); few browsers open them.
  if ((await file.slice(4, 8).text()) === 'ftyp') return 'not-this-kind';
  try {
    const { width, height, type } = imageSize(new Uint8Array(await file.arrayBuffer()));
    if (!OPENED.includes(type ?? '')) return 'not-this-kind';
    return width * height > MOST_PIXELS ? 'too-many-pixels' : undefined;
  } catch {
    return 'no-picture';
  }
}

/** Grey of each pixel as the eye weighs the three colours (ITU-R BT.601; from memory). */
function greyOf(bitmap: ImageBitmap): Picture {
  const { width, height } = bitmap;
  const grey = new Uint8ClampedArray(width * height);
  // Strip by strip: the colours of a whole large picture would be four times as much at once.
  const strip = Math.max(1, Math.floor(4_000_000 / width));
  const canvas = new OffscreenCanvas(width, Math.min(strip, height));
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error($localize`This browser cannot look into pictures.`);
  for (let top = 0; top < height; top += strip) {
    const high = Math.min(strip, height - top);
    context.drawImage(bitmap, 0, top, width, high, 0, 0, width, high);
    const { data } = context.getImageData(0, 0, width, high);
    for (let i = 0, at = top * width; i < data.length; i += 4, at++)
      grey[at] = 0.299 * (data[i] ?? 0) + 0.587 * (data[i + 1] ?? 0) + 0.114 * (data[i + 2] ?? 0);
  }
  return { width, height, grey };
}

async function smaller(
  bitmap: ImageBitmap,
): Promise<{ readonly shown: ImageBitmap; readonly kept: Blob; readonly shrunk: number }> {
  const shrunk = Math.min(1, KEPT_SIDE_PX / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(
    Math.round(bitmap.width * shrunk),
    Math.round(bitmap.height * shrunk),
  );
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  const kept = await canvas.convertToBlob({ type: 'image/jpeg', quality: KEPT_QUALITY });
  return { shown: canvas.transferToImageBitmap(), kept, shrunk };
}

const say = (answer: PhotoAnswer, moved: Transferable[] = []): void => {
  postMessage(answer, { transfer: moved });
};

async function work({ file, expected, mats }: PhotoQuestion): Promise<void> {
  const trouble = await troubleOf(file);
  if (trouble) {
    say({ refused: trouble });
    return;
  }
  say({ share: 0.05 });
  // Turned upright as its camera noted.
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(
    () => undefined,
  );
  if (!bitmap) {
    say({ refused: 'no-picture' });
    return;
  }
  const picture = greyOf(bitmap);
  say({ share: 0.25 });
  const keeps = await smaller(bitmap);
  bitmap.close();
  say({ share: 0.35 });
  const seen = findMarkers(picture);
  const found = readEdge(
    picture,
    seen,
    expected,
    (matNumber) => mats.find((each) => each.matNumber === matNumber),
    (share) => {
      say({ share: 0.45 + 0.55 * share });
    },
  );
  say({ ...keeps, found }, [keeps.shown]);
}

addEventListener('message', ({ data }: MessageEvent<PhotoQuestion>) => {
  void work(data);
});
