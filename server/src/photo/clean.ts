import sharp from 'sharp';

/** Long side of a kept photo: a nick is still seen, and a season of them fits on a small disk. */
const LONG_SIDE_PX = 2000;
const MOST_PIXELS = 60_000_000;
const QUALITY = 82;
const FORMATS = ['jpeg', 'png', 'webp', 'avif', 'heif'];

/**
 * Decodes what came, turns it upright and writes it again as a JPEG without anything but the picture: no place,
 * no time, no maker. Nothing where it cannot be decoded: then it is no photo, whatever its name says. Runs in a worker.
 */
export async function cleanPhoto(bytes: Uint8Array): Promise<Uint8Array | undefined> {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format } = await picture.metadata();
    if (!FORMATS.includes(format)) return undefined;
    return await picture
      .rotate()
      .resize({
        width: LONG_SIDE_PX,
        height: LONG_SIDE_PX,
        fit: 'inside',
        withoutEnlargement: true,
      })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: QUALITY })
      .toBuffer();
  } catch {
    return undefined;
  }
}
