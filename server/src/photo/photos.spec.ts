import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { BladeView, PhotoAnswer, Problem } from '@tally-stone/contract';
import sharp from 'sharp';
import { v7 as uuidv7 } from 'uuid';
import { TookTooLong } from '../heavy/heavy.js';
import { sweepPhotos } from './photos.js';
import { TestShop, type TestCycle } from '../testing/shop.js';

const picture = (width = 60, height = 40, colour = '#885522') =>
  sharp({ create: { width, height, channels: 3, background: colour } });

describe('photos', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  async function send(bytes: Uint8Array, name = 'nick.jpg') {
    const form = new FormData();
    form.append('photo', new Blob([new Uint8Array(bytes)], { type: 'image/jpeg' }), name);
    const response = await fetch(`${shop.serving.address}/api/v1/photos`, {
      method: 'POST',
      body: form,
    });
    return { status: response.status, body: (await response.json()) as PhotoAnswer & Problem };
  }
  const attach = (cycle: TestCycle, file: string, more: object = {}) =>
    cycle.act({ type: 'attach-photo', photoId: uuidv7(), file, ...more });
  const kept = (): string[] => {
    const folder = join(shop.folder, 'photos');
    return existsSync(folder) ? readdirSync(folder) : [];
  };

  it('are kept beside the database, shown again, and on the blade’s page', async () => {
    const cycle = await shop.openCycle();
    const { body } = await send(await picture().jpeg().toBuffer());
    expect((await attach(cycle, body.file)).status).toBe(200);
    expect((await cycle.view()).photos.map(({ file }) => file)).toEqual([body.file]);
    const shown = await fetch(`${shop.serving.address}/api/v1/photos/${body.file}`);
    expect(shown.headers.get('content-type')).toBe('image/jpeg');
    const life = await shop.get<BladeView>(`/api/v1/blades/${cycle.bladeId}`);
    expect(life.body.photos.length).toBe(1);
  });

  it('lose the place they were taken at, and stand upright', async () => {
    const withPlace = await picture(60, 40)
      .withExif({
        IFD0: { Make: 'Somebody' },
        IFD3: { GPSLatitude: '51/1 30/1 0/1', GPSLatitudeRef: 'N' },
      })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    expect((await sharp(withPlace).metadata()).exif).toBeDefined();
    const { body } = await send(withPlace);
    const { exif, width, height, orientation } = await sharp(
      join(shop.folder, 'photos', body.file),
    ).metadata();
    expect(exif).toBeUndefined();
    expect(orientation).toBeUndefined();
    expect([width, height]).toEqual([40, 60]);
  });

  it('are judged by what is in them, not by their name', async () => {
    const text = await send(new TextEncoder().encode('<svg onload="alert(1)"></svg> not a photo'));
    expect(text.status).toBe(422);
    expect(text.body.errors?.[0]?.message).toContain('not a picture');
    const svg = new TextEncoder().encode(
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>',
    );
    expect((await send(svg, 'drawing.png')).status).toBe(422);
    const cut = (await picture(400, 300).jpeg().toBuffer()).subarray(0, 300);
    expect((await send(cut)).status).toBe(422);
    const png = await send(await picture().png().toBuffer(), 'really.txt');
    expect(png.status).toBe(200);
    expect(kept()).toEqual([png.body.file]);
  });

  it('of 60 MB are refused with what to do, and nothing is kept', async () => {
    const { status, body } = await send(new Uint8Array(60 * 2 ** 20));
    expect(status).toBe(413);
    expect(body.errors?.[0]?.message).toBe('is larger than 12 MB: take it with fewer pixels');
    expect(kept()).toEqual([]);
  });

  it('with more pixels than memory are refused before they are unpacked', async () => {
    const bomb = await picture(9000, 9000).png().toBuffer();
    expect((await send(bomb)).status).toBe(422);
  });

  it('that take too long to decode are given up, and the next is decoded', async () => {
    const { pictures } = shop.database;
    const bytes = await picture(3000, 3000).png().toBuffer();
    await expectAsync(pictures.run('photo', bytes, 1)).toBeRejectedWithError(TookTooLong);
    expect((await send(bytes)).status).toBe(200);
  });

  it('sent twice are one file; larger ones are made smaller', async () => {
    const bytes = await picture(3000, 1000).jpeg().toBuffer();
    const [first, again] = [await send(bytes), await send(bytes)];
    expect(again.body.file).toBe(first.body.file);
    expect(kept()).toEqual([first.body.file]);
    expect((await sharp(join(shop.folder, 'photos', first.body.file)).metadata()).width).toBe(2000);
  });

  it('go on one mark, come off again, and are refused where they do not belong', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    const { body } = await send(await picture().jpeg().toBuffer());
    const field = async (file: string, more: object = {}) =>
      (await attach(cycle, file, more)).body.errors?.[0]?.field;
    expect(await field('f'.repeat(32) + '.jpg')).toBe('file');
    expect(await field('../../tally-stone.sqlite')).toBe('file');
    expect(await field(body.file, { damageId: uuidv7() })).toBe('damageId');
    const damageId = uuidv7();
    await cycle.do({
      type: 'mark-damage',
      damageId,
      kind: 'nick',
      end: 'A',
      fromTip: { text: '20', unit: 'mm' },
      depth: { text: '1', unit: 'mm' },
    });
    expect((await attach(cycle, body.file, { damageId })).status).toBe(200);
    const [photo] = (await cycle.view()).photos;
    expect(photo?.damageId).toBe(damageId);
    await cycle.do({ type: 'remove-photo', photoId: photo?.photoId ?? '' });
    expect((await cycle.view()).photos).toEqual([]);
    expect((await cycle.act({ type: 'remove-photo', photoId: uuidv7() })).status).toBe(422);
    for (let i = 0; i < 12; i++) await attach(cycle, body.file);
    expect((await attach(cycle, body.file)).body.detail).toContain('12 photos');
    expect((await fetch(`${shop.serving.address}/api/v1/photos/nothing.jpg`)).status).toBe(404);
  });

  it('that no blade has are swept after two days, and no sooner', async () => {
    const cycle = await shop.openCycle();
    const on = (await send(await picture().jpeg().toBuffer())).body.file;
    const off = (await send(await picture(50, 50).jpeg().toBuffer())).body.file;
    await attach(cycle, on);
    const folder = join(shop.folder, 'photos');
    const attached = new Set([on]);
    expect(await sweepPhotos(folder, attached)).toBe(0);
    expect(await sweepPhotos(folder, attached, Date.now() + 3 * 86_400_000)).toBe(1);
    expect(kept()).toEqual([on]);
    expect(off).not.toBe(on);
    expect(await sweepPhotos(join(folder, 'nowhere'), attached)).toBe(0);
  });
});
