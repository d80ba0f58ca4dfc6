/** A picture in grey, row by row from the upper left, as the camera wrote it (0 black, 255 white). */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly grey: Uint8Array | Uint8ClampedArray;
}

export interface PicturePoint {
  readonly xPx: number;
  readonly yPx: number;
}

/**
 * Light of each written grey: cameras write the curve of IEC 61966-2-1 (sRGB; from memory). Middles between black and
 * white are taken in light, not in what is written, or a blurred edge would seem to lie off its place.
 */
const LIGHT = Float64Array.from({ length: 256 }, (_, grey) => {
  const share = grey / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
});

/**
 * Light at a place of a picture, 0 to 1, between its four nearest pixels; a pixel's middle is its whole number.
 * NaN outside the picture.
 */
export function lightAt({ width, height, grey }: Picture, xPx: number, yPx: number): number {
  const left = Math.floor(xPx);
  const top = Math.floor(yPx);
  if (!(left >= 0 && top >= 0 && left < width - 1 && top < height - 1)) return NaN;
  const right = xPx - left;
  const down = yPx - top;
  const at = top * width + left;
  const above = light(grey, at) * (1 - right) + light(grey, at + 1) * right;
  const below = light(grey, at + width) * (1 - right) + light(grey, at + width + 1) * right;
  return above * (1 - down) + below * down;
}

const light = (grey: Picture['grey'], at: number): number => LIGHT[grey[at] ?? 0] ?? 0;
