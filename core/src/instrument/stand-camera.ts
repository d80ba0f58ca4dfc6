import { MAT_SIZE_MM } from '../photo/mat.js';

/** The stand's pinhole camera with a real lens, above the middle of the mat. */
export interface StandCamera {
  readonly width: number;
  readonly height: number;
  /** Focal length, px, and the lens's radial distortion in half diagonals of the picture. */
  readonly focalPx: number;
  readonly k1: number;
  readonly k2: number;
  /** How far the camera is above the middle of the mat, mm, and how it is turned, degrees. */
  readonly farMm: number;
  readonly tiltDeg: number;
  readonly tiltTowardDeg: number;
  readonly turnDeg: number;
  readonly offMm: readonly [x: number, y: number];
  /** Where the lens's axis meets the picture, px from its middle. */
  readonly axisPx?: readonly [x: number, y: number];
}

const RADIANS = Math.PI / 180;

/** Where a ray last met the sheet: filled anew by every ray, for there are tens of millions. */
interface Met {
  x: number;
  y: number;
}

/** From each pixel's ray to its place on the sheet, true mm from the mat's upper left corner. */
export function rayOf(camera: StandCamera): (xPx: number, yPx: number) => Met {
  const { width, height, focalPx, k1, k2, axisPx = [0, 0] } = camera;
  const half = Math.hypot(width, height) / 2;
  // The lens, the other way: how much nearer to the middle a ray is than its pixel.
  const steps = 4096;
  const nearer = Float64Array.from({ length: steps + 2 }, (_, i) => {
    const far = (1.1 * i) / steps;
    if (far === 0) return 1;
    let near = far;
    for (let turn = 0; turn < 60; turn++) near = far / (1 + k1 * near ** 2 + k2 * near ** 4);
    return near / far;
  });
  const tilt = camera.tiltDeg * RADIANS;
  const toward = camera.tiltTowardDeg * RADIANS;
  const turn = camera.turnDeg * RADIANS;
  // Turned about its own axis, then tilted about a line in the sheet's plane (Rodrigues).
  const [ax, ay] = [Math.cos(toward), Math.sin(toward)];
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)];
  const [eyeX, eyeY, eyeZ] = [-ay * camera.farMm * s, ax * camera.farMm * s, -camera.farMm * c];
  const met = { x: 0, y: 0 };
  const [ct, st] = [Math.cos(turn), Math.sin(turn)];
  return (xPx, yPx) => {
    const x = (xPx - (width - 1) / 2 - axisPx[0]) / half;
    const y = (yPx - (height - 1) / 2 - axisPx[1]) / half;
    const place = Math.min(steps, (Math.hypot(x, y) / 1.1) * steps);
    const low = Math.floor(place);
    const share =
      (nearer[low] ?? 1) + (place - low) * ((nearer[low + 1] ?? 1) - (nearer[low] ?? 1));
    const sx = (x * share * half) / focalPx;
    const sy = (y * share * half) / focalPx;
    const tx = sx * ct - sy * st;
    const ty = sx * st + sy * ct;
    const dot = (ax * tx + ay * ty) * (1 - c);
    const along = -eyeZ / (c + (ax * ty - ay * tx) * s);
    met.x = MAT_SIZE_MM.width / 2 + camera.offMm[0] + eyeX + along * (tx * c + ay * s + ax * dot);
    met.y = MAT_SIZE_MM.height / 2 + camera.offMm[1] + eyeY + along * (ty * c - ax * s + ay * dot);
    return met;
  };
}
