import { TestBed } from '@angular/core/testing';
import { lastValueFrom } from 'rxjs';
import { PhotoReader } from './photo-reader';
import type { PhotoAnswer } from './photo.worker';

const EXPECTED = {
  end: 'A',
  hand: 'right',
  lengthMm: 533,
  newWidthMm: 63.5,
  edgeLengthMm: 100,
} as const;

const read = (file: Blob): Promise<PhotoAnswer> =>
  lastValueFrom(TestBed.inject(PhotoReader).read({ file, expected: EXPECTED, mats: [] }));

const ascii = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0));
const int = (value: number): number[] => [24, 16, 8, 0].map((shift) => (value >>> shift) & 255);
/** A PNG as far as its size: what it says it is, without the pixels. */
const pngOf = (width: number, height: number): Blob =>
  new Blob([
    new Uint8Array([
      ...[137, 80, 78, 71, 13, 10, 26, 10],
      ...int(13),
      ...ascii('IHDR'),
      ...int(width),
      ...int(height),
      ...[8, 2, 0, 0, 0],
      ...int(0),
    ]),
  ]);
/** A JPEG that its camera held on its side: the note of it, an EXIF segment, behind the first two bytes. */
async function onItsSide(jpeg: Blob): Promise<Blob> {
  const bytes = new Uint8Array(await jpeg.arrayBuffer());
  const orientation = [0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, 6, 0, 0];
  const tiff = [...ascii('MM'), 0, 42, ...int(8), 0, 1, ...orientation, ...int(0)];
  const exif = [...ascii('Exif'), 0, 0, ...tiff];
  const segment = new Uint8Array([0xff, 0xe1, 0, exif.length + 2, ...exif]);
  return new Blob([bytes.slice(0, 2), segment, bytes.slice(2)], { type: 'image/jpeg' });
}
const heic = new Blob([
  new Uint8Array([...int(24), ...ascii('ftypheic'), ...int(0), ...ascii('mif1heic')]),
]);

describe('the reader of edge photos, in its worker', () => {
  it('tells files that cannot be used by their first bytes', async () => {
    expect(await read(new Blob(['no picture at all']))).toEqual({ refused: 'no-picture' });
    expect(await read(new Blob([]))).toEqual({ refused: 'no-picture' });
    expect(await read(new Blob([new Uint8Array(41 * 2 ** 20)]))).toEqual({ refused: 'too-big' });
    expect(await read(pngOf(12_000, 9000))).toEqual({ refused: 'too-many-pixels' });
    expect(await read(heic)).toEqual({ refused: 'not-this-kind' });
  });

  it('refuses what is cut off, and a picture of something else, without a word about pixels', async () => {
    expect(await read(pngOf(40, 30))).toEqual({ refused: 'no-picture' });
    const canvas = new OffscreenCanvas(640, 480);
    const context = canvas.getContext('2d');
    context?.fillRect(10, 10, 300, 200);
    const answer = await read(await canvas.convertToBlob({ type: 'image/png' }));
    expect('found' in answer && answer.found).toEqual({ refused: 'few-markers', found: 0 });
    expect('kept' in answer && answer.kept.type).toBe('image/jpeg');
  });

  it('turns a picture upright that was taken on its side, and takes a grey one for what it is', async () => {
    const canvas = new OffscreenCanvas(640, 480);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('no canvas');
    context.filter = 'grayscale(1)';
    context.fillStyle = '#c0c0c0';
    context.fillRect(0, 0, 640, 480);
    const jpeg = await canvas.convertToBlob({ type: 'image/jpeg' });
    const answer = await read(await onItsSide(jpeg));
    if (!('shown' in answer)) throw new Error('not looked at');
    expect([answer.shown.width, answer.shown.height]).toEqual([480, 640]);
    expect(answer.found).toEqual({ refused: 'few-markers', found: 0 });
  });
});
