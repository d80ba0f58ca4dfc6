import { MARKER_DICTIONARY, type Picture, type SeenMarker } from '@tally-stone/core';
import { AR } from 'js-aruco2';

/** Markers are looked for in a smaller picture: there a cell of one is still a dozen pixels wide. */
const LONG_SIDE_PX = 1600;
/** Wrong cells that are still read as the marker: the dictionary's own differ in twelve. */
const WRONG_CELLS = 3;

/** The picture in red, green, blue and alpha, each pixel the mean of those it stands for. */
function smaller({ width, height, grey }: Picture, by: number): ImageData['data'] {
  const [across, down] = [Math.floor(width / by), Math.floor(height / by)];
  const rgba = new Uint8ClampedArray(4 * across * down);
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      let sum = 0;
      for (let i = 0; i < by; i++)
        for (let j = 0; j < by; j++) sum += grey[(row * by + i) * width + column * by + j] ?? 0;
      const at = 4 * (row * across + column);
      rgba.fill(sum / (by * by), at, at + 3);
      rgba[at + 3] = 255;
    }
  return rgba;
}

/** The mat's markers in a picture, corners clockwise from each marker's own upper left, to a few pixels. */
export function findMarkers(picture: Picture): SeenMarker[] {
  const by = Math.max(1, Math.ceil(Math.max(picture.width, picture.height) / LONG_SIDE_PX));
  const detector = new AR.Detector({
    dictionaryName: MARKER_DICTIONARY,
    maxHammingDistance: WRONG_CELLS,
  });
  const found = detector.detectImage(
    Math.floor(picture.width / by),
    Math.floor(picture.height / by),
    smaller(picture, by),
  );
  return found.flatMap(({ id, corners }) => {
    const [a, b, c, d] = corners.map(({ x, y }) => ({
      xPx: x * by + (by - 1) / 2,
      yPx: y * by + (by - 1) / 2,
    }));
    return a && b && c && d ? [{ id, corners: [a, b, c, d] }] : [];
  });
}
