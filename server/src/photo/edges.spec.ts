import type {
  CycleView,
  PhotoAnswer,
  PhotoEdge,
  Problem,
  ShopView,
  StandPose,
} from '@tally-stone/contract';
import { MAT_PAPERS, readEdge, widthFromPhoto, type SeenMarker } from '@tally-stone/core';
import aruco from 'js-aruco2';
import sharp from 'sharp';
import { v7 as uuidv7 } from 'uuid';
import { cycleAt } from '../cycle/facts.js';
import { markerCells } from '../instrument/photo-stand.js';
import { benchTruth } from '../instrument/truth.js';
import { photoMat } from '../report/photo-mat.js';
import { TestShop, type TestCycle } from '../testing/shop.js';

const mm = (text: string) => ({ text, unit: 'mm' as const });

describe('the photo mat', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
    await shop.simulate(['photo-stand']);
  });
  afterEach(() => shop.close());

  const measure = (matNumber: number, across: string, down: string) =>
    shop.post<Problem>({
      type: 'measure-mat',
      ...shop.envelope(),
      measureId: uuidv7(),
      matNumber,
      across: mm(across),
      down: mm(down),
    });
  const mats = async () => (await shop.get<ShopView>('/api/v1/shop')).body.mats;

  async function stand(cycle: TestCycle, pose = 'well'): Promise<Uint8Array> {
    const response = await fetch(
      `${shop.serving.address}/api/v1/photo-stand.jpg?cycle=${cycle.cycleId}&end=A&mat=1&pose=${pose}`,
    );
    expect(response.headers.get('content-type')).toBe('image/jpeg');
    return new Uint8Array(await response.arrayBuffer());
  }

  async function send(bytes: Uint8Array): Promise<string> {
    const form = new FormData();
    form.append('photo', new Blob([new Uint8Array(bytes)], { type: 'image/jpeg' }), 'edge.jpg');
    const response = await fetch(`${shop.serving.address}/api/v1/photos`, {
      method: 'POST',
      body: form,
    });
    return ((await response.json()) as PhotoAnswer).file;
  }

  async function sentPhoto(colour: string): Promise<string> {
    const create = { width: 40, height: 30, channels: 3 as const, background: colour };
    return send(await sharp({ create }).jpeg().toBuffer());
  }

  const edge = (widthMm: number, matNumber = 1): PhotoEdge => ({
    matNumber,
    widthsMm: Array.from({ length: 220 }, (_, i) => (i > 80 && i < 100 ? null : widthMm)),
    placeU: 0.01,
    sharedU: 0.045,
    bodyWidthMm: 63.5,
    pxPerMm: 9,
    misfitMm: 0.005,
    blurMm: 0.1,
  });

  async function cleanCycle(): Promise<TestCycle> {
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    return cycle;
  }

  const read = (
    cycle: TestCycle,
    of: PhotoEdge,
    file: string,
    stations: readonly string[] = ['tip'],
    edgeId = uuidv7(),
  ) =>
    cycle.act({
      type: 'read-edge',
      edgeId,
      file,
      end: 'A',
      phase: 'before',
      edge: of,
      readings: stations.map((stationKey) => ({ readingId: uuidv7(), stationKey })),
    });

  it('is printed at its true size on both papers, one page, as dark as its markers', async () => {
    for (const paper of ['a4', 'letter'] as const) {
      const pdf = (await photoMat(4, paper)).toString('latin1');
      const { widthMm, heightMm } = MAT_PAPERS[paper];
      const [, wide = '0', high = '0'] = /MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf) ?? [];
      expect((Number(wide) / 72) * 25.4).toBeCloseTo(widthMm, 1);
      expect((Number(high) / 72) * 25.4).toBeCloseTo(heightMm, 1);
      expect(pdf.match(/\/Type \/Page\b/g)?.length).toBe(1);
    }
    expect((await fetch(`${shop.serving.address}/api/v1/photo-mats/18/mat.pdf`)).status).toBe(422);
  });

  it('is measured once, its newest size counts, and a print to fit is refused at its bar', async () => {
    expect((await measure(1, '139.8', '140.1')).status).toBe(200);
    expect((await measure(1, '139.82', '140.06')).status).toBe(200);
    const [mat] = await mats();
    expect((await mats()).length).toBe(1);
    expect(mat?.across).toBeCloseTo(139.82 / 140, 6);
    expect(mat?.u).toBeLessThan(0.0012);
    const small = await measure(2, '135.8', '135.9');
    expect(small.status).toBe(422);
    expect(small.body.errors?.[0]?.field).toContain('across');
    expect(small.body.detail).toContain('100 %');
    expect((await measure(18, '140', '140')).status).toBe(422);
    expect((await measure(2, 'abc', '140')).body.errors?.[0]?.field).toBe('across.text');
  });

  it('gives widths with their doubt, keeps the whole edge, and takes it off again', async () => {
    await measure(1, '140', '140');
    const cycle = await cleanCycle();
    const edgeId = uuidv7();
    const answer = await read(cycle, edge(61.4), await sentPhoto('#404040'), ['tip'], edgeId);
    expect(answer.status).toBe(200);
    const view = await cycle.view();
    const slot = view.slots.find(
      ({ quantity, end, stationKey }) =>
        quantity === 'width' && end === 'A' && stationKey === 'tip',
    );
    expect(slot?.taken?.value).toBeCloseTo(61.4, 6);
    expect(slot?.taken?.u).toBeGreaterThan(0.045);
    expect(view.photos.length).toBe(1);
    expect(view.bench?.state.edges[0]?.widthsMm.length).toBe(220);
    await cycle.do({ type: 'remove-photo', photoId: edgeId });
    const after = await cycle.view();
    expect(after.bench?.state.edges).toEqual([]);
    expect(
      after.slots.find(({ quantity, end }) => quantity === 'width' && end === 'A')?.taken,
    ).toBeUndefined();
    const { models } = shop.database;
    expect([await models.edgePhoto.count(), await models.reading.count()]).toEqual([0, 0]);
  });

  it('refuses what it cannot know: an unmeasured mat, a hidden station, a photo never sent', async () => {
    await measure(1, '140', '140');
    const cycle = await cleanCycle();
    const file = await sentPhoto('#303030');
    const stranger = await read(cycle, edge(61.4, 2), file);
    expect(stranger.body.errors?.[0]?.field).toBe('edge.matNumber');
    const hidden = await read(cycle, edge(61.4), file, ['middle']);
    expect(hidden.body.errors?.[0]?.field).toBe('readings.0.stationKey');
    const unsent = await read(cycle, edge(61.4), `${'0'.repeat(32)}.jpg`);
    expect(unsent.body.errors?.[0]?.field).toBe('file');
    const endless = await read(
      cycle,
      { ...edge(61.4), widthsMm: new Array<number>(1001).fill(60) },
      file,
    );
    expect(endless.body.errors?.[0]?.field).toBe('edge.widthsMm');
    const tooSure = await read(cycle, { ...edge(61.4), sharedU: 0 }, file);
    expect(tooSure.body.errors?.[0]?.field).toBe('edge.sharedU');
    expect((await cycle.view()).revision).toBe(1);
  });

  it('takes the place of the picture before, and is what the next cycle compares with', async () => {
    await measure(1, '140', '140');
    const cycle = await cleanCycle();
    await read(cycle, edge(61.4), await sentPhoto('#101010'));
    await read(cycle, edge(61.2), await sentPhoto('#202020'));
    const { models } = shop.database;
    expect(await models.edgePhoto.count()).toBe(1);
    const view: CycleView = await cycle.view();
    expect(view.bench?.state.edges.length).toBe(1);
    // The next cycle of the same blade: the row of this one is enough.
    const signed = { signedAt: new Date().toISOString(), signedBy: shop.personId };
    await shop.database.connection.write(async () => {
      await models.cycle.update({ ...signed, outcome: 'ready' }, { where: { id: cycle.cycleId } });
      await models.blade.update({ state: 'ready' }, { where: { id: cycle.bladeId } });
    });
    const next = await shop.openCycleOf(cycle.bladeId);
    const { facts } = await cycleAt(shop.database, next.cycleId);
    expect(facts.lastEdges.A?.widthsMm[0]).toBeCloseTo(61.2, 6);
    expect(facts.lastEdges.B).toBeUndefined();
  });

  /** The stand's picture of end A, found and read as a browser does it. */
  async function readStand(
    cycle: TestCycle,
    pose: StandPose = 'well',
  ): Promise<ReturnType<typeof readEdge>> {
    const picture = sharp(await stand(cycle, pose));
    const { data: rgba, info } = await picture
      .clone()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const grey = new Uint8Array(await picture.greyscale().raw().toBuffer());
    const { width, height } = info;
    const { AR } = aruco as unknown as {
      AR: {
        Detector: new (config: object) => {
          detectImage(
            width: number,
            height: number,
            rgba: Uint8ClampedArray,
          ): { id: number; corners: { x: number; y: number }[] }[];
        };
      };
    };
    const seen = new AR.Detector({ dictionaryName: 'ARUCO_MIP_36h12', maxHammingDistance: 3 })
      .detectImage(width, height, new Uint8ClampedArray(rgba))
      .map(({ id, corners }) => ({
        id,
        corners: corners.map(({ x, y }) => ({ xPx: x, yPx: y })),
      })) as unknown as SeenMarker[];
    const { facts } = await cycleAt(shop.database, cycle.cycleId);
    const { spec, mats: known } = facts;
    return readEdge(
      { width, height, grey },
      seen,
      {
        end: 'A',
        hand: spec.hand,
        lengthMm: spec.newLengthMm,
        newWidthMm: spec.newWidthMm,
        edgeLengthMm: spec.edgeLengthMm,
      },
      (matNumber) => known.find((each) => each.matNumber === matNumber),
    );
  }

  it('is seen by the stand: its JPEG, detected and read, gives the true blade back', async () => {
    await measure(1, '139.82', '140.06');
    const cycle = await cleanCycle();
    const { state, facts } = await cycleAt(shop.database, cycle.cycleId);
    const { spec } = facts;
    const found = await readStand(cycle);
    if ('refused' in found) throw new Error(found.refused);
    // A nick at a station is not its width: the edge is taken without them.
    const truth = benchTruth(state, facts);
    for (const station of spec.stations) {
      const width = widthFromPhoto(found, spec.edgeLengthMm, spec.newLengthMm / 2, station);
      const place = {
        phase: 'before',
        quantity: 'width',
        end: 'A',
        stationKey: station.key,
      } as const;
      const off = Math.abs((width?.value ?? 0) - truth.valueAt(place));
      expect(off)
        .withContext(cycle.cycleId)
        .toBeLessThan(2 * (width?.u ?? 0));
    }
    expect(found.damage.length).toBe(2);
  });

  // One picture a test: a slow machine needs its time for each.
  for (const [pose, reasons] of [
    ['covered', ['markers-covered']],
    ['creased', ['mat-not-flat']],
    ['two-blades', ['two-blades']],
    ['moved', ['blurred', 'few-markers']],
    ['slanted', ['too-slanted', 'few-markers']],
    ['glare', ['glare']],
  ] as const)
    it(`says of a bad picture of the stand what is wrong with it: ${pose}`, async () => {
      await measure(1, '140', '140');
      const found = await readStand(await cleanCycle(), pose);
      const [how] = reasons.filter((each) => 'refused' in found && found.refused === each);
      expect(how).withContext(JSON.stringify(found).slice(0, 200)).toBeDefined();
    });

  it('prints the markers of the dictionary, cell by cell', () => {
    // The first code of the dictionary, as its package lists it: 0xd2b63a09d in 36 bits.
    const bits = (0xd2b63a09d).toString(2).padStart(36, '0');
    const cells = markerCells(0);
    expect(
      cells
        .slice(1, 7)
        .flatMap((row) => row.slice(1, 7))
        .join(''),
    ).toBe(bits);
    expect(cells[0]?.every((cell) => cell === 0)).toBeTrue();
  });
});
