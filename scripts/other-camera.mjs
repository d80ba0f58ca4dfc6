import { createRequire } from 'node:module';
import { join } from 'node:path';
import { MARKER_MM, MAT_SIZE_MM, matMarkers, SCALE_BARS, TIP_MARK_MM } from '@tally-stone/core';
import { ROOT } from './workspace.mjs';

const sharp = createRequire(join(ROOT, 'server', 'package.json'))('sharp');

/**
 * A phone's camera for the check of the photo mat, written apart from the reading and from the simulated stand, with what
 * neither of them knows of: a lens by the division model (Fitzgibbon 2001; from memory) that is decentred too, a blur that
 * is a disc, a mosaic of colours put together again, noise that grows with the light, a tone curve, sharpening that leaves
 * halos, and JPEG. It is given the same views (`photo-views.mjs`); lengths mm, light 0 to 1.
 */
export async function phonePicture(view) {
  const { camera, chance } = view;
  const { width, height } = camera;
  const between = (low, high) => low + (high - low) * chance();
  const place = placesOf(camera, [between(-3e-4, 3e-4), between(-3e-4, 3e-4)]);
  const [paper, steel] = planesOf(view, place);
  const radius = 2 * view.blurPx;
  const linear = mosaicked(
    discBlurred(paper, width, height, radius),
    discBlurred(steel, width, height, radius),
    width,
    height,
    view,
  );
  const bend = between(0, 0.12);
  const toned = linear.map((light) => {
    const v = Math.min(1, Math.max(0, light)) ** (1 / 2.2);
    return 255 * (v - (bend * Math.sin(2 * Math.PI * v)) / 2);
  });
  const sharper = sharpened(toned, width, height, between(0.2, 0.8));
  const raw = { width, height, channels: 1 };
  const file = await sharp(Buffer.from(Uint8ClampedArray.from(sharper)), { raw })
    .jpeg({ quality: Math.round(between(78, 93)) })
    .toBuffer();
  const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
  const grey = new Uint8Array(width * height);
  for (let i = 0; i < grey.length; i++) grey[i] = data[i * info.channels];
  return { width, height, grey };
}

/** Turned about an axis of length 1 (Rodrigues). */
function turned([x, y, z], [ax, ay, az], angle) {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const along = (ax * x + ay * y + az * z) * (1 - c);
  return [
    x * c + (ay * z - az * y) * s + ax * along,
    y * c + (az * x - ax * z) * s + ay * along,
    z * c + (ax * y - ay * x) * s + az * along,
  ];
}

/** Where on the sheet a pixel looks: x to the right, y down, z away from the camera. */
function placesOf(camera, [p, q]) {
  const { width, height, focalPx, k1, farMm, tiltDeg, tiltTowardDeg, turnDeg, offMm } = camera;
  const [ax, ay] = camera.axisPx ?? [0, 0];
  const toward = (tiltTowardDeg * Math.PI) / 180;
  const axis = [-Math.sin(toward), Math.cos(toward), 0];
  const out = (ray) =>
    turned(turned(ray, [0, 0, 1], (turnDeg * Math.PI) / 180), axis, (tiltDeg * Math.PI) / 180);
  const forward = out([0, 0, 1]);
  const eye = [
    MAT_SIZE_MM.width / 2 + offMm[0] - farMm * forward[0],
    MAT_SIZE_MM.height / 2 + offMm[1] - farMm * forward[1],
    -farMm * forward[2],
  ];
  const [right, down] = [out([1, 0, 0]), out([0, 1, 0])];
  const half = Math.hypot(width, height) / 2;
  return (xPx, yPx) => {
    const x = (xPx - (width - 1) / 2 - ax) / half;
    const y = (yPx - (height - 1) / 2 - ay) / half;
    const r2 = x * x + y * y;
    const share = half / focalPx / (1 + k1 * r2);
    const u = x * share + ((2 * p * x * y + q * (r2 + 2 * x * x)) * half) / focalPx;
    const v = y * share + ((p * (r2 + 2 * y * y) + 2 * q * x * y) * half) / focalPx;
    const dz = right[2] * u + down[2] * v + forward[2];
    const far = -eye[2] / dz;
    return [
      eye[0] + far * (right[0] * u + down[0] * v + forward[0]),
      eye[1] + far * (right[1] * u + down[1] * v + forward[1]),
    ];
  };
}

const [TABLE, PAPER, INK, STEEL] = [0, 1, 2, 3];

/** What lies at a place of the sheet. */
function kindsOf({ matNumber, print, bitsOf, blade }) {
  const markers = matMarkers(matNumber).map(({ id, corners: [{ xMm, yMm }] }) => [
    xMm,
    yMm,
    bitsOf(id),
  ]);
  const bars = Object.values(SCALE_BARS);
  const angle = ((blade?.turnDeg ?? 0) * Math.PI) / 180;
  const inBlade = (x, y) => {
    const { lie, end, offMm, widthMm } = blade;
    const dx = x - TIP_MARK_MM[end] - offMm[0];
    const dy = y - (MAT_SIZE_MM.height / 2 - (lie.toEdge * widthMm(60)) / 2 + offMm[1]);
    return [
      lie.inward * (dx * Math.cos(angle) + dy * Math.sin(angle)),
      lie.toEdge * (dy * Math.cos(angle) - dx * Math.sin(angle)),
    ];
  };
  const kind = (x, y) => {
    if (blade) {
      const [fromTip, across] = inBlade(x, y);
      if (fromTip >= 0 && across >= 0 && across <= blade.widthMm(fromTip)) return STEEL;
    }
    const [sx, sy] = [x / print.across, y / print.down];
    if (sx < -19.5 || sx > MAT_SIZE_MM.width + 19.5 || sy < -8 || sy > MAT_SIZE_MM.height + 8)
      return TABLE;
    for (const [left, top, bits] of markers) {
      const column = Math.floor(((sx - left) / MARKER_MM) * bits.length);
      const row = Math.floor(((sy - top) / MARKER_MM) * bits.length);
      if (bits[row]?.[column] === 0) return INK;
    }
    const inBar = ({ from, to }) =>
      Math.abs(sx - (from.xMm + to.xMm) / 2) < (to.xMm - from.xMm) / 2 + 0.15 &&
      Math.abs(sy - (from.yMm + to.yMm) / 2) < (to.yMm - from.yMm) / 2 + 0.15;
    return bars.some(inBar) ? INK : PAPER;
  };
  return { kind, inBlade };
}

/** Light of the sheet and of the steel, by pixel: a pixel over a boundary is looked at 25 times. */
function planesOf(view, place) {
  const { camera, light, chance } = view;
  const { width, height } = camera;
  const { kind, inBlade } = kindsOf(view);
  const paper = new Float32Array(width * height);
  const steel = new Float32Array(width * height);
  const put = (i, what, x, y, weight) => {
    const [gx, gy] = [x / MAT_SIZE_MM.width - 0.5, y / MAT_SIZE_MM.height - 0.5];
    const here =
      light.paper *
      (1 + light.gradient[0] * gx + light.gradient[1] * gy) *
      (1 - light.vignette * (gx * gx + gy * gy));
    if (what !== STEEL) {
      paper[i] += weight * here * { [TABLE]: 0.3, [PAPER]: 1, [INK]: 0.05 }[what];
      return;
    }
    // Scratches along the blade, patches of rust.
    const grain = Math.sin(y * 41 + 3 * Math.sin(x * 0.7)) * 0.15;
    const patch = Math.sin(x * 0.8 + 2 * Math.sin(y * 0.5)) * Math.sin(y * 0.9) * 0.4;
    let bright = light.steel * here * (1 + light.rust * (grain + patch));
    const [fromTip, across] = inBlade(x, y);
    for (const spot of light.glare) {
      const off = Math.hypot(
        fromTip - spot.fromTipMm,
        view.blade.widthMm(fromTip) - across - spot.fromEdgeMm,
      );
      bright += spot.light / (1 + (off / spot.sizeMm) ** 4);
    }
    steel[i] += weight * Math.min(1, bright);
  };
  let above = new Uint8Array(width + 1);
  for (let column = 0; column <= width; column++)
    above[column] = kind(...place(column - 0.5, -0.5));
  for (let row = 0; row < height; row++) {
    const below = new Uint8Array(width + 1);
    for (let column = 0; column <= width; column++)
      below[column] = kind(...place(column - 0.5, row + 0.5));
    for (let column = 0; column < width; column++) {
      const i = row * width + column;
      const what = above[column];
      if (what === above[column + 1] && what === below[column] && what === below[column + 1]) {
        put(i, what, ...place(column, row), 1);
        continue;
      }
      for (let k = 0; k < 25; k++) {
        const at = place(
          column - 0.5 + ((k % 5) + chance()) / 5,
          row - 0.5 + (Math.floor(k / 5) + chance()) / 5,
        );
        put(i, kind(...at), ...at, 1 / 25);
      }
    }
    above = below;
  }
  return [paper, steel];
}

/** A lens out of focus: each point a disc of this radius, px. Rows are summed by differences of running sums. */
function discBlurred(light, width, height, radius) {
  const reach = Math.ceil(radius);
  const halves = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.sqrt(Math.max(0, radius ** 2 - Math.min(radius, Math.abs(k - reach)) ** 2)),
  );
  const running = new Float64Array((width + 1) * height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++)
      running[row * (width + 1) + column + 1] =
        running[row * (width + 1) + column] + light[row * width + column];
  /** Sum of a row up to a place, pixels being as wide as they are. */
  const upTo = (row, x) => {
    const at = Math.min(width, Math.max(0, x));
    const whole = Math.min(width - 1, Math.floor(at));
    return running[row * (width + 1) + whole] + (at - whole) * light[row * width + whole];
  };
  const to = new Float32Array(light.length);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      let [sum, area] = [0, 0];
      for (let k = -reach; k <= reach; k++) {
        const half = Math.max(0.5, halves[k + reach]);
        const from = Math.min(height - 1, Math.max(0, row + k));
        const weight = halves[k + reach] > 0 || k === 0 ? 1 : 0.25;
        sum += weight * (upTo(from, column + 0.5 + half) - upTo(from, column + 0.5 - half));
        area += weight * (Math.min(width, column + 0.5 + half) - Math.max(0, column + 0.5 - half));
      }
      to[row * width + column] = sum / area;
    }
  return to;
}

/** The sensor sees one colour a pixel, with noise; the others come from its neighbours. Gives luminance. */
function mosaicked(paper, steel, width, height, { noise, chance }) {
  const tint = [
    [0.93, 1, 0.88],
    [0.88, 1, 1.06],
  ];
  const colourAt = (row, column) => (row % 2 === column % 2 ? 1 : row % 2 === 0 ? 0 : 2);
  const raw = new Float32Array(paper.length);
  const [floor, growing] = [(noise / 255) * 0.25, (noise / 255) * 0.9];
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const colour = colourAt(row, column);
      const light = tint[0][colour] * paper[i] + tint[1][colour] * steel[i];
      const about = (chance() + chance() + chance() + chance() - 2) * Math.sqrt(3);
      raw[i] = (light + about * Math.hypot(floor, growing * Math.sqrt(light))) / tint[0][colour];
    }
  const at = (row, column) =>
    raw[Math.min(height - 1, Math.max(0, row)) * width + Math.min(width - 1, Math.max(0, column))];
  const grey = new Float32Array(raw.length);
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const beside = (at(row, column - 1) + at(row, column + 1)) / 2;
      const overAndUnder = (at(row - 1, column) + at(row + 1, column)) / 2;
      const slanting =
        (at(row - 1, column - 1) +
          at(row - 1, column + 1) +
          at(row + 1, column - 1) +
          at(row + 1, column + 1)) /
        4;
      const green = colourAt(row, column) === 1;
      const rowOfRed = row % 2 === 0;
      const g = green ? raw[i] : (beside + overAndUnder) / 2;
      const r = green ? (rowOfRed ? beside : overAndUnder) : rowOfRed ? raw[i] : slanting;
      const b = green ? (rowOfRed ? overAndUnder : beside) : rowOfRed ? slanting : raw[i];
      grey[i] = 0.299 * r + 0.587 * g + 0.114 * b;
    }
  return grey;
}

/** As phones do it: what differs from the neighbourhood is made to differ more. */
function sharpened(grey, width, height, amount) {
  const to = new Float32Array(grey.length);
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      let [sum, all] = [0, 0];
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [y, x] = [row + dy, column + dx];
          if (y < 0 || x < 0 || y >= height || x >= width) continue;
          const weight = (2 - Math.abs(dx)) * (2 - Math.abs(dy));
          sum += weight * grey[y * width + x];
          all += weight;
        }
      to[i] = grey[i] + amount * (grey[i] - sum / all);
    }
  return to;
}
