import { Matrix, SVD } from 'ml-matrix';
import { standPicture, standPlaces } from '../instrument/photo-stand.js';
import { normal, seeded } from '../testing/dice.js';
import {
  EDGE_LENGTH_MM,
  MADE,
  readView,
  seenIn,
  soundMm,
  trueWidthMm,
  view,
  type MadeEdge,
} from '../testing/photo-views.js';
import { distorted, fitCamera, homography, inPicture, undistorted, type Pair } from './camera.js';
import { MOST_MATS } from './limits.js';
import { lieOf, MAT_SIZE_MM, matMarkers, printScale } from './mat.js';
import { lightAt } from './picture.js';
import { EDGE_EVERY_MM, notchDepth, widthFromPhoto } from './kept-edge.js';
import { notedNotches } from './proposed.js';
import { seenTip, smoothEdge } from './features.js';
import type { PhotoRefused } from './photo-trouble.js';
import { readEdge, type EdgePhoto } from './read-edge.js';
import { edgeRecession, looksLikeOtherEnd, meanRecession } from './recession.js';
import { traceBlade } from './trace.js';

/** The edge, or a failure that says why it was refused. */
function edgeOf(found: EdgePhoto | PhotoRefused): EdgePhoto {
  if ('refused' in found) throw new Error(`refused: ${found.refused} ${String(found.found)}`);
  return found;
}

function pairsOf(of: ReturnType<typeof view>): Pair[][] {
  const place = standPlaces(of);
  return matMarkers(of.matNumber).map(({ corners }) =>
    corners.map((mat) => ({ mat, picture: place(mat) })),
  );
}

describe('the photo mat', () => {
  it('fits on A4 and on Letter lying down with room for the printer', () => {
    expect(MAT_SIZE_MM.width).toBeLessThan(279.4 - 2 * 6);
    expect(MAT_SIZE_MM.height).toBeLessThanOrEqual(210 - 2 * 6);
  });

  it('has markers of its own for every number, within the dictionary', () => {
    const ids = Array.from({ length: MOST_MATS }, (_, i) => matMarkers(i + 1)).flatMap((markers) =>
      markers.map(({ id }) => id),
    );
    expect(new Set(ids).size).toBe(ids.length);
    expect(Math.max(...ids)).toBeLessThan(250);
  });

  it('refuses a print at 97 % at the bar that says so', () => {
    expect(() => printScale({ acrossMm: 135.8, downMm: 140, caliperU: 0.03 })).toThrowError(
      /acrossMm must be within 2 %.*100 %/,
    );
  });
});

describe('the camera of a picture', () => {
  const size = { width: 4000, height: 3000 };

  it('agrees with a homography by singular values (ml-matrix), which shares no equations with ours', () => {
    const dice = seeded(4);
    for (let i = 0; i < 40; i++) {
      const truth = Array.from({ length: 8 }, (_, k) =>
        k === 0 || k === 4 ? 0.7 + 0.2 * dice() : 0.1 * normal(dice),
      );
      const camera = { ...size, values: [...truth, 0, 0], covariance: [], misfitPx: 0 };
      const pairs = Array.from({ length: 12 }, () => {
        const mat = { xMm: 258 * dice(), yMm: 194 * dice() };
        return { mat, picture: inPicture(camera, mat) };
      });
      const half = Math.hypot(size.width, size.height) / 2;
      const rows = pairs.flatMap(({ mat, picture }) => {
        const [X, Y] = [(mat.xMm - 129) / 129, (mat.yMm - 97) / 129];
        const x = (picture.xPx - (size.width - 1) / 2) / half;
        const y = (picture.yPx - (size.height - 1) / 2) / half;
        return [
          [-X, -Y, -1, 0, 0, 0, x * X, x * Y, x],
          [0, 0, 0, -X, -Y, -1, y * X, y * Y, y],
        ];
      });
      const v = new SVD(new Matrix(rows)).rightSingularVectors;
      const ours = homography(pairs, size) ?? [];
      ours.forEach((value, k) => {
        expect(value).toBeCloseTo(v.get(k, 8) / v.get(8, 8), 7);
      });
    }
  });

  it('follows a pinhole’s rays through a lens that bends them, to a hundredth of a pixel', () => {
    const dice = seeded(9);
    for (const [k1, k2] of [
      [-0.15, 0.02],
      [-0.05, 0],
      [0.1, -0.01],
    ] as const) {
      const of = view(dice, MADE, { camera: { k1, k2, tiltDeg: 25 } });
      const camera = fitCamera(pairsOf(of), of.camera);
      expect(camera?.misfitPx).toBeLessThan(0.01);
      for (const mat of [
        { xMm: 40, yMm: 90 },
        { xMm: 130, yMm: 120 },
        { xMm: 220, yMm: 70 },
      ]) {
        const [found, truth] = [camera && inPicture(camera, mat), standPlaces(of)(mat)];
        expect(
          Math.hypot((found?.xPx ?? 0) - truth.xPx, (found?.yPx ?? 0) - truth.yPx),
        ).toBeLessThan(0.01);
      }
    }
  });

  it('agrees with a published camera: intrinsics, distortion and first pose of Zhang (1998; from memory)', () => {
    const [alpha, gamma, beta, u0, v0, k1, k2] = [
      832.5, 0.204494, 832.53, 303.959, 206.585, -0.228601, 0.190353,
    ];
    const rotation = [
      [0.992759, -0.026319, 0.117201],
      [0.0139247, 0.994339, 0.105341],
      [-0.11931, -0.102947, 0.987505],
    ];
    const shift = [-3.84019, 3.65164, 12.791];
    // Our sheet in the place of his model plane: seven inches of it, its y upward.
    const shownBy = ({ xMm, yMm }: { readonly xMm: number; readonly yMm: number }) => {
      const at = [(xMm * 7) / 258, (-yMm * 7) / 258, 0];
      const [X = 0, Y = 0, Z = 1] = rotation.map(
        (row, i) => row.reduce((sum, each, j) => sum + each * (at[j] ?? 0), 0) + (shift[i] ?? 0),
      );
      const [x, y] = [X / Z, Y / Z];
      const bend = 1 + k1 * (x * x + y * y) + k2 * (x * x + y * y) ** 2;
      return { xPx: alpha * x * bend + gamma * y * bend + u0, yPx: beta * y * bend + v0 };
    };
    const size = { width: 640, height: 480 };
    const markers = matMarkers(1).map(({ corners }) =>
      corners.map((mat) => ({ mat, picture: shownBy(mat) })),
    );
    const camera = fitCamera(markers, size);
    // His distortion is in focal lengths, ours in half diagonals.
    const half = Math.hypot(640, 480) / 2;
    const [k1Found = 0, k2Found = 0, xFound = 0, yFound = 0] = camera?.values.slice(8) ?? [];
    expect(k1Found).toBeCloseTo(k1 * (half / alpha) ** 2, 3);
    expect(k2Found).toBeCloseTo(k2 * (half / alpha) ** 4, 3);
    expect(xFound * half + 319.5).toBeCloseTo(u0, 0);
    expect(yFound * half + 239.5).toBeCloseTo(v0, 0);
    const misses = [40, 90, 140, 210].map((xMm) => {
      const mat = { xMm, yMm: 97 };
      const [found, truth] = [camera && inPicture(camera, mat), shownBy(mat)];
      return Math.hypot((found?.xPx ?? NaN) - truth.xPx, (found?.yPx ?? NaN) - truth.yPx);
    });
    expect(Math.max(...misses)).toBeLessThan(0.01);
  });

  it('is not moved by a third of the markers in wrong places', () => {
    const of = view(seeded(2));
    const pairs = pairsOf(of).map((marker, i) =>
      i % 3 === 0
        ? marker.map(({ mat, picture }) => ({
            mat,
            picture: { xPx: picture.xPx + 40, yPx: picture.yPx - 25 },
          }))
        : marker,
    );
    const camera = fitCamera(pairs, of.camera);
    const truth = standPlaces(of)({ xMm: 129, yMm: 97 });
    const found = camera && inPicture(camera, { xMm: 129, yMm: 97 });
    expect(found?.xPx).toBeCloseTo(truth.xPx, 1);
    expect(found?.yPx).toBeCloseTo(truth.yPx, 1);
  });

  it('takes distortion out and puts it back', () => {
    const camera = {
      ...size,
      values: [1, 0, 0, 0, 1, 0, 0, 0, -0.12, 0.02],
      covariance: [],
      misfitPx: 0,
    };
    const there = undistorted(camera, { xPx: 3900, yPx: 120 });
    const back = distorted(camera, there);
    expect(back.xPx).toBeCloseTo(3900, 6);
    expect(back.yPx).toBeCloseTo(120, 6);
  });

  it('says how sure it is: the fit’s own covariance tells the spread of fits with noise (JCGM 102; from memory)', () => {
    const of = view(seeded(5));
    const dice = seeded(6);
    const exact = pairsOf(of);
    const at = { xMm: 120, yMm: 110 };
    const found: number[] = [];
    let told = 0;
    for (let i = 0; i < 60; i++) {
      const noisy = exact.map((marker) =>
        marker.map(({ mat, picture }) => ({
          mat,
          picture: {
            xPx: picture.xPx + 0.2 * normal(dice),
            yPx: picture.yPx + 0.2 * normal(dice),
          },
        })),
      );
      const camera = fitCamera(noisy, of.camera);
      if (!camera) throw new Error('no camera');
      found.push(inPicture(camera, at).yPx);
      told += camera.misfitPx / 60;
    }
    const mean = found.reduce((sum, each) => sum + each, 0) / found.length;
    const spread = Math.sqrt(
      found.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (found.length - 1),
    );
    expect(told).toBeGreaterThan(0.17);
    expect(told).toBeLessThan(0.22);
    // Fifty-six corners tell a place in their middle several times better than one does.
    expect(spread).toBeLessThan(0.1);
  });
});

describe('an edge read from a picture of it', () => {
  const of = view(seeded(11));
  let photo: EdgePhoto;
  let picture: ReturnType<typeof readView>['picture'];
  beforeAll(() => {
    const read = readView(of);
    photo = edgeOf(read.found);
    picture = read.picture;
  });

  it('lies within three hundredths of a millimetre of the true one', () => {
    const misses = photo.widthsMm.flatMap((width, i) => {
      const fromTipMm = i * EDGE_EVERY_MM;
      const notched = MADE.notches.some(
        ({ atMm, lengthMm }) => Math.abs(atMm - fromTipMm) < lengthMm / 2 + 1,
      );
      return width === null || notched || fromTipMm < 4 || fromTipMm > 98
        ? []
        : [width - trueWidthMm(MADE, fromTipMm)];
    });
    expect(misses.length).toBeGreaterThan(150);
    const mean = misses.reduce((sum, each) => sum + each, 0) / misses.length;
    const spread = Math.sqrt(
      misses.reduce((sum, each) => sum + (each - mean) ** 2, 0) / misses.length,
    );
    expect(spread).toBeLessThan(0.03);
    expect(Math.abs(mean)).toBeLessThan(2 * photo.sharedU);
  });

  it('gives widths at stations within their doubt, not narrower for a nick near by', () => {
    for (const fromTipMm of [12, 45, 62, 85]) {
      const width = widthFromPhoto(photo, EDGE_LENGTH_MM, 265, { radiusMm: 265 - fromTipMm });
      expect(Math.abs((width?.value ?? 0) - soundMm(MADE, fromTipMm))).toBeLessThan(
        2 * (width?.u ?? 0),
      );
      expect(width?.u).toBeLessThan(0.06);
    }
  });

  it('finds the nicks and the rounded tip, and nothing else', () => {
    expect(photo.damage.map(({ kind }) => kind)).toEqual(['nick', 'nick']);
    MADE.notches.forEach(({ atMm, depthMm }, i) => {
      expect(Math.abs((photo.damage[i]?.fromTipMm ?? 0) - atMm)).toBeLessThan(0.6);
      expect(Math.abs((photo.damage[i]?.depthMm ?? 0) - depthMm)).toBeLessThan(0.08);
    });
    expect(Math.abs(photo.tip.roundedByMm - MADE.roundMm)).toBeLessThan(0.5);
  });

  it('tells from the kept edge what a notch is deep, and nothing where the edge is sound', () => {
    for (const { atMm, depthMm } of MADE.notches) {
      const depth = notchDepth(photo, EDGE_LENGTH_MM, atMm + 1);
      expect(Math.abs((depth?.value ?? 0) - depthMm)).toBeLessThan(2 * (depth?.u ?? 0));
    }
    expect(notchDepth(photo, EDGE_LENGTH_MM, 50)?.value).toBe(0);
    const hidden = {
      ...photo,
      widthsMm: photo.widthsMm.map((each, i) => (i > 90 && i < 110 ? null : each)),
    };
    expect(notchDepth(hidden, EDGE_LENGTH_MM, 50)).toBeUndefined();
  });

  it('measures the unworn bar and the picture itself', () => {
    expect(photo.bodyWidthMm).toBeCloseTo(61, 1);
    expect(photo.quality.tiltDeg).toBeGreaterThan(8);
    expect(photo.quality.misfitMm).toBeLessThan(0.02);
  });

  it('is the same with three wrong markers among the fourteen', () => {
    const dice = seeded(3);
    const seen = seenIn(of, dice).map((marker, i) =>
      i % 5 === 1
        ? {
            ...marker,
            corners: marker.corners.map(({ xPx, yPx }) => ({
              xPx: xPx + 60,
              yPx,
            })) as unknown as typeof marker.corners,
          }
        : marker,
    );
    const again = edgeOf(
      readEdge(
        picture,
        seen,
        { end: 'A', hand: 'right', lengthMm: 530, newWidthMm: 61, edgeLengthMm: EDGE_LENGTH_MM },
        () => ({ across: 1, down: 1, u: 0.0004 }),
      ),
    );
    expect(Math.abs((again.widthsMm[100] ?? 0) - (photo.widthsMm[100] ?? 0))).toBeLessThan(0.03);
  });

  it('is registered on the unworn bar: what was ground off shows within four hundredths', () => {
    const ground: MadeEdge = {
      ...MADE,
      rootMm: MADE.rootMm - 0.45,
      notches: MADE.notches.map((notch) => ({
        ...notch,
        depthMm: Math.max(0, notch.depthMm - 0.45),
      })),
    };
    // Lying 0.3 mm higher and to the side: all lengths larger by a thousandth.
    const later = view(seeded(12), ground, {
      camera: { tiltDeg: 6, turnDeg: -3, offMm: [-2, 3] },
      blade: {
        offMm: [-1, -2],
        turnDeg: -1,
        widthMm: (fromTipMm) => 1.001 * trueWidthMm(ground, fromTipMm),
      },
    });
    const recession = edgeRecession(photo, edgeOf(readView(later).found));
    expect(recession.registered).toBeTrue();
    const mean = meanRecession(recession, [6, 94]);
    expect(Math.abs((mean?.value ?? 0) - 0.45)).toBeLessThan(0.04);
    expect(mean?.u).toBeLessThan(0.03);
  });
});

describe('an edge longer than one mat', () => {
  const long: MadeEdge = {
    ...MADE,
    slope: 0.002,
    edgeLengthMm: 290,
    notches: [
      { atMm: 40, depthMm: 0.7, lengthMm: 3 },
      { atMm: 268, depthMm: 0.6, lengthMm: 3 },
    ],
  };
  /** Two mats side by side as a hand lays them: a little apart, a little turned. */
  const beside = {
    matNumber: 4,
    print: { across: 1, down: 1 },
    atMm: [297.6, 1.1],
    turnDeg: 0.25,
  } as const;
  const wide = (
    width: number,
    atMm: readonly [number, number] = beside.atMm,
  ): ReturnType<typeof view> =>
    view(
      seeded(31),
      long,
      {
        camera: { focalPx: width * 1.1, farMm: 640, offMm: [148, 0], tiltDeg: 8 },
        blade: { turnDeg: 0.3 },
        rest: { beside: { ...beside, atMm }, blurPx: 0.6 },
      },
      width,
    );
  const edgeLengthMm = 290;

  it('is read over two mats laid side by side, whose lie the picture tells', () => {
    const photo = edgeOf(readView(wide(4000), 5, undefined, edgeLengthMm).found);
    for (const fromTipMm of [20, 100, 180, 250, 280]) {
      const width = widthFromPhoto(photo, edgeLengthMm, 400, { radiusMm: 400 - fromTipMm });
      const off = (width?.value ?? 0) - soundMm(long, fromTipMm);
      expect(Math.abs(off)).toBeLessThan(2 * (width?.u ?? 0));
    }
    const notches = photo.damage.map(({ fromTipMm }) => Math.round(fromTipMm / 4));
    expect(notches.sort((a, b) => a - b)).toEqual([10, 67]);
    expect(photo.bodyWidthMm).toBeCloseTo(61, 1);
  });

  it('asks for a second mat where there is one, and for level rows where they are askew', () => {
    const refusedWith = (of: ReturnType<typeof view>): unknown => {
      const { found } = readView(of, 5, undefined, edgeLengthMm);
      return 'refused' in found ? found.refused : 'read';
    };
    expect(refusedWith(view(seeded(32), long))).toBe('needs-two-mats');
    expect(refusedWith(wide(2000, [297.6, 7]))).toBe('mats-askew');
  });
});

describe('the sound edge carried on to the tip', () => {
  const placesOf = (edge: MadeEdge) =>
    Array.from({ length: 440 }, (_, i) => {
      const fromTipMm = 0.1 + i / 4;
      return { fromTipMm, widthMm: trueWidthMm(edge, fromTipMm), sure: true };
    });
  const seenOf = (edge: MadeEdge) => {
    const places = placesOf(edge);
    const smooth = smoothEdge(places, EDGE_LENGTH_MM);
    return { smooth, tip: seenTip(places, smooth, 0.008) };
  };

  it('is not bent away by a wide notch further in: no tip is rounded by it', () => {
    for (const lengthMm of [6, 12, 18, 24])
      for (const atMm of [22, 31, 38]) {
        const edge: MadeEdge = {
          ...MADE,
          roundMm: 1,
          notches: [
            { atMm, depthMm: 0.7, lengthMm },
            { atMm: 49, depthMm: 1.2, lengthMm: 4 },
          ],
        };
        const { smooth, tip } = seenOf(edge);
        expect(Math.abs(smooth.valueAt(2) - soundMm(edge, 2)))
          .withContext(`${atMm}, ${lengthMm}`)
          .toBeLessThan(0.08);
        expect(Math.abs(tip.roundedByMm - 1))
          .withContext(`${atMm}, ${lengthMm}`)
          .toBeLessThan(0.8);
      }
  });
});

describe('notches a photo shows beside those that are noted', () => {
  const at = (...places: number[]) => places.map((fromTipMm) => ({ fromTipMm }));

  it('are each the nearest noted one, and each noted one is one of them at most', () => {
    const nick = { fromTipMm: 30, kind: 'nick' } as const;
    const chip = { fromTipMm: 62, kind: 'chip' } as const;
    expect(notedNotches(at(27.5, 31, 60, 80), [nick, chip])).toEqual([
      undefined,
      nick,
      chip,
      undefined,
    ]);
    expect(notedNotches(at(28, 33), [nick, { ...nick, fromTipMm: 35 }])).toEqual([
      nick,
      { ...nick, fromTipMm: 35 },
    ]);
  });

  it('are none of what is no notch, however near it lies: such a nick is new', () => {
    for (const kind of ['burnt', 'rust-pitting', 'crack', 'rounded-tip', 'worn-hole'] as const)
      expect(notedNotches(at(12), [{ fromTipMm: 12, kind }]))
        .withContext(kind)
        .toEqual([undefined]);
  });
});

describe('which end a photo shows', () => {
  const edge = (notchAt: number, groundMm = 0) => ({
    widthsMm: Array.from(
      { length: 220 },
      (_, i) => 58 - groundMm - Math.max(0, 1.2 - Math.abs(i / 2 - notchAt) * 0.4),
    ),
    placeU: 0.01,
    sharedU: 0.04,
  });

  it('is told by its notches and wear, ground or not', () => {
    expect(looksLikeOtherEnd(edge(70), edge(30), edge(70))).toBeTrue();
    expect(looksLikeOtherEnd(edge(70, 0.3), edge(30), edge(70))).toBeTrue();
    expect(looksLikeOtherEnd(edge(30, 0.3), edge(30), edge(70))).toBeFalse();
  });

  it('is not guessed at: where both ends are alike, or one was never photographed', () => {
    expect(looksLikeOtherEnd(edge(30), edge(30), edge(30))).toBeFalse();
    expect(looksLikeOtherEnd(edge(70), undefined, edge(70))).toBeFalse();
  });
});

describe('a picture that is not used says why', () => {
  const small = 1200;
  const dice = seeded(21);
  const refused = (of: ReturnType<typeof view>, seen?: Parameters<typeof readView>[2]): string => {
    const { found } = readView(of, 5, seen);
    return 'refused' in found ? found.refused : `read with ${found.damage.length} marks`;
  };

  it('too few markers, markers under something, a mat nobody measured', () => {
    const of = view(dice, MADE, {}, 800);
    expect(refused(of, seenIn(of, dice).slice(0, 3))).toBe('few-markers');
    // A rag over the right of it, and the same part simply out of the picture.
    const covers = [{ left: 130, top: -20, right: 290, bottom: 220 }];
    const left = (seen: ReturnType<typeof seenIn>) => seen.filter(({ id }) => id % 7 < 4);
    const ragged = { ...view(dice, MADE, {}, small), covers };
    expect(refused(ragged, left(seenIn(ragged, dice)))).toBe('markers-covered');
    const away = view(dice, MADE, { camera: { offMm: [-140, 0] } }, small);
    expect(refused(away, left(seenIn(away, dice)))).toBe('few-markers');
    expect(refused(of, seenIn({ ...of, matNumber: 5 }, dice))).toBe('unknown-mat');
  });

  it('too far away, too slanted, blurred, burnt out, too dark', () => {
    expect(refused(view(dice, MADE, {}, small))).toBe('too-far');
    expect(
      refused(view(dice, MADE, { camera: { tiltDeg: 40, farMm: 400, tiltTowardDeg: 0 } }, small)),
    ).toBe('too-slanted');
    expect(refused(view(dice, MADE, { rest: { blurPx: 2 } }, small))).toBe('blurred');
    const bright = { paper: 1.5, gradient: [0, 0] } as const;
    expect(refused(view(dice, MADE, { light: bright }, small))).toBe('too-bright');
    const dark = { paper: 0.03, gradient: [0, 0], vignette: 0 } as const;
    expect(refused(view(dice, MADE, { light: dark, rest: { noise: 0 } }, small))).toBe('too-dark');
  });

  it('no blade, a blade out of its bed, the other end', () => {
    const troubleOf = (of: ReturnType<typeof view>): string => {
      const camera = fitCamera(pairsOf(of), of.camera);
      if (!camera) throw new Error('no camera');
      const traced = traceBlade(standPicture(of), camera, lieOf('A', 'right'));
      return 'trouble' in traced ? traced.trouble.reason : 'traced';
    };
    const bare = view(dice, MADE, {}, small);
    expect(troubleOf(bare)).toBe('traced');
    expect(troubleOf({ ...bare, blade: undefined } as unknown as typeof bare)).toBe('no-blade');
    expect(troubleOf(view(dice, MADE, { blade: { offMm: [0, 41] } }, small))).toBe('outside-bed');
    const other = { end: 'B', lie: { inward: -1, toEdge: -1 } } as const;
    expect(troubleOf(view(dice, MADE, { blade: other }, small))).toBe('lies-as-other-end');
  });

  it('a print at 97 % by the unworn bar, where its calibration is older', () => {
    const print = { across: 0.97, down: 0.97 };
    expect(refused(view(dice, MADE, { rest: { print } }, 2000))).toBe('wrong-size');
  });

  it('glare over the edge, with the place', () => {
    const of = view(
      dice,
      MADE,
      {
        light: {
          glare: [20, 45, 70].map((fromTipMm) => ({
            fromTipMm,
            fromEdgeMm: 0,
            sizeMm: 5,
            light: 1,
          })),
        },
      },
      1900,
    );
    const { found } = readView(of);
    expect('refused' in found && found.refused).toBe('glare');
    expect('refused' in found && found.at).toBeTruthy();
  });

  it('is NaN outside the picture, never a made-up grey', () => {
    const picture = { width: 2, height: 2, grey: new Uint8Array(4) };
    expect(lightAt(picture, -1, 0)).toBeNaN();
    expect(lightAt(picture, 0.5, 1.5)).toBeNaN();
  });
});
