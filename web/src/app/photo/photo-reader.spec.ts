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
});
